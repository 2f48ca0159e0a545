#pragma once

#include "app/bench/bench_tools.h"
#include "app/shell/commands.h"

#include <QToolButton>
#include <QWidget>

namespace kestrel::app {

/// The slim column beside the film: what can be drawn, what is drawn, and hiding it all.
class DrawColumn : public QWidget {
    Q_OBJECT
public:
    DrawColumn(Bench&, const Commands&, QWidget* parent = nullptr);

private:
    QToolButton* makeButton(const QString& icon, const QString& tip);
    void refresh();
    void fillList();

    Bench& m_bench;
    std::vector<std::pair<DrawingKind, QToolButton*>> m_kinds;
    QToolButton *m_list, *m_hide;
};

} // namespace kestrel::app
