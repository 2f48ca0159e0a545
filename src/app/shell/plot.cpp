#include "app/shell/plot.h"

#include "app/shell/theme.h"

namespace kestrel::app {

void dressPlot(QCustomPlot& plot)
{
    const auto& c = colours();
    QFont font = plot.font();
    font.setPixelSize(11);
    plot.setBackground(c.panel);
    for (QCPAxis* axis : {plot.xAxis, plot.yAxis}) {
        axis->setBasePen(QPen(c.rule));
        axis->setTickPen(QPen(c.rule));
        axis->setSubTickPen(Qt::NoPen);
        axis->setTickLabelColor(c.muted);
        axis->setLabelColor(c.muted);
        axis->setTickLabelFont(font);
        axis->setLabelFont(font);
        axis->grid()->setPen(QPen(c.rule, 1, Qt::DotLine));
        axis->grid()->setZeroLinePen(Qt::NoPen);
    }
}

} // namespace kestrel::app
