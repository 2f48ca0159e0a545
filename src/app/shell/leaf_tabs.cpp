#include "app/shell/leaf_tabs.h"

#include <QBoxLayout>
#include <QToolButton>

namespace kestrel::app {

LeafTabs::LeafTabs(const std::vector<Leaf>& leaves, QBoxLayout* row, QWidget* parent) : QStackedWidget(parent)
{
    m_buttons = new QButtonGroup(this);
    for (const auto& leaf : leaves) {
        auto* button = new QToolButton(parent);
        button->setObjectName(QLatin1String(leaf.object));
        button->setText(leaf.name);
        button->setToolTip(leaf.tip);
        button->setCheckable(true);
        button->setFocusPolicy(Qt::TabFocus);
        m_buttons->addButton(button, addWidget(leaf.view));
        row->addWidget(button);
    }
    connect(m_buttons, &QButtonGroup::idClicked, this, &QStackedWidget::setCurrentIndex);
    turnTo(0);
}

void LeafTabs::turnTo(int leaf)
{
    m_buttons->button(leaf)->setChecked(true);
    setCurrentIndex(leaf);
}

void LeafTabs::turnOn()
{
    turnTo((currentIndex() + 1) % count());
}

} // namespace kestrel::app
