#pragma once

#include <QButtonGroup>
#include <QStackedWidget>

#include <vector>

class QBoxLayout;

namespace kestrel::app {

/// A row of buttons that turn the leaves of one place.
class LeafTabs : public QStackedWidget {
    Q_OBJECT
public:
    struct Leaf {
        QWidget* view;
        QString name, tip;
        const char* object; ///< the button's name, for tests
    };
    /// \param row  the buttons are added to it; the leaves are this widget
    LeafTabs(const std::vector<Leaf>&, QBoxLayout* row, QWidget* parent);

    void turnTo(int leaf);
    void turnOn(); ///< to the next, round again

private:
    QButtonGroup* m_buttons;
};

} // namespace kestrel::app
