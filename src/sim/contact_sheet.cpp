#include "sim/contact_sheet.h"

#include "sim/film_maker.h"

#include <QPainter>

namespace kestrel::sim {

QImage contactSheet(const Simulated& s, const std::map<std::string, std::string>& names, int columns)
{
    constexpr int kGap = 4;
    const int count = static_cast<int>(s.truth.events.size()), rows = (count + columns - 1) / columns;
    const QSize each(s.options.size.width, s.options.size.height);
    QImage sheet(columns * (each.width() + kGap) - kGap, rows * (each.height() + kGap) - kGap, QImage::Format_RGB32);
    sheet.fill(Qt::white);
    QPainter painter(&sheet);
    QFont font = painter.font();
    font.setPixelSize(std::max(11, each.height() / 16));
    font.setBold(true);
    painter.setFont(font);
    FilmMaker maker(s);
    for (int i = 0; i < count; ++i) {
        const auto& e = s.truth.events[static_cast<std::size_t>(i)];
        const QPoint corner(i % columns * (each.width() + kGap), i / columns * (each.height() + kGap));
        painter.drawImage(corner, maker.moment(s.motion.secondsOf(e.keyPosition)));
        if (const auto name = names.find(e.keyPosition); name != names.end()) {
            const QString text = QString::fromStdString(name->second);
            const QRect box(corner + QPoint(6, 6), painter.fontMetrics().size(0, text) + QSize(12, 4));
            painter.fillRect(box, QColor(255, 255, 255, 215));
            painter.setPen(QColor(0x22, 0x2c, 0x33));
            painter.drawText(box, Qt::AlignCenter, text);
        }
    }
    return sheet;
}

} // namespace kestrel::sim
