#include "app/roster/height_list.h"

#include "app/shell/date_field.h"
#include "app/shell/number_field.h"

#include <QHBoxLayout>
#include <QLabel>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr double kFirstHeight = 1.4; // metres: where the steppers begin when none is known

class HeightField : public NumberField {
public:
    using NumberField::NumberField;
    void stepBy(int steps) override
    {
        if (value() > 0)
            NumberField::stepBy(steps);
        else
            setValue(kFirstHeight);
    }
};

} // namespace

HeightList::HeightList(QWidget* parent) : QWidget(parent)
{
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->setSpacing(4);
    m_layout = new QVBoxLayout;
    m_layout->setSpacing(4);
    whole->addLayout(m_layout);
    m_add = new QToolButton(this);
    m_add->setObjectName(QStringLiteral("addHeight"));
    m_add->setText(tr("Measured again"));
    m_add->setToolTip(tr("Add a height with its date: children grow, and readings use the height of their day"));
    m_add->setProperty("flat", true);
    connect(m_add, &QToolButton::clicked, this, [this] {
        auto all = heights();
        all.push_back({QDate::currentDate().toString(Qt::ISODate).toStdString(), all.empty() ? 0 : all.back().metres});
        setHeights(all);
        m_rows.front().metres->setFocus();
    });
    whole->addWidget(m_add, 0, Qt::AlignLeft);
    setHeights({});
}

void HeightList::clear()
{
    for (const auto& row : m_rows) {
        row.widget->hide();
        row.metres->setObjectName({}); // the next ones have the names until these are gone
        row.date->setObjectName({});
        row.widget->deleteLater();
    }
    m_rows.clear();
}

void HeightList::setHeights(const std::vector<store::Height>& byDate)
{
    clear();
    for (auto h = byDate.rbegin(); h != byDate.rend(); ++h)
        addRow(*h);
    if (m_rows.empty())
        addRow({QDate::currentDate().toString(Qt::ISODate).toStdString(), 0});
    orderForTab();
}

/// Rows are made anew while the form stands: without this Tab would come to them after all else.
void HeightList::orderForTab()
{
    QWidget* before = m_add->previousInFocusChain();
    while (before != m_add && !(before->focusPolicy() & Qt::TabFocus)) // setTabOrder() passes over these
        before = before->previousInFocusChain();
    for (const auto& row : m_rows) {
        setTabOrder(before, row.metres);
        setTabOrder(row.metres, row.date);
        before = row.date;
    }
}

void HeightList::addRow(const store::Height& height)
{
    auto* widget = new QWidget(this);
    auto* row = new QHBoxLayout(widget);
    row->setContentsMargins(0, 0, 0, 0);
    auto* metres = new HeightField(widget);
    metres->setRange(0, 2.5);
    metres->setSingleStep(0.01);
    metres->setSuffix(tr(" m"));
    metres->setSpecialValueText(tr("not known"));
    metres->setValue(height.metres);
    auto* date = new DateField(widget, QDate::fromString(QString::fromStdString(height.date), Qt::ISODate));
    date->setMaximumDate(QDate::currentDate());
    date->setButtonSymbols(QAbstractSpinBox::NoButtons);
    if (m_rows.empty()) {
        metres->setObjectName(QStringLiteral("height"));
        date->setObjectName(QStringLiteral("heightDate"));
    }
    row->addWidget(metres);
    row->addWidget(new QLabel(tr("on"), widget));
    row->addWidget(date);
    row->addStretch();
    m_layout->addWidget(widget);
    m_rows.push_back({widget, metres, date});
}

std::vector<store::Height> HeightList::heights() const
{
    std::vector<store::Height> all;
    for (const auto& row : m_rows)
        if (row.metres->value() > 0)
            all.push_back({row.date->date().toString(Qt::ISODate).toStdString(), row.metres->value()});
    std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.date < b.date; });
    // one height a day: the row that stands higher up was typed later
    const auto sameDay = [](const store::Height& a, const store::Height& b) { return a.date == b.date; };
    all.erase(std::unique(all.begin(), all.end(), sameDay), all.end());
    return all;
}

} // namespace kestrel::app
