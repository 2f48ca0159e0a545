#include "app/shell/chooser.h"

#include <QKeyEvent>
#include <QLabel>
#include <QVBoxLayout>

#include <algorithm>
#include <utility>

namespace kestrel::app {

namespace {

constexpr int kWidth = 460, kRowHeight = 30, kMostRows = 12;

} // namespace

Chooser* Chooser::ask(QWidget* over, const QString& question, const std::vector<Item>& items,
                      std::function<void(QVariant)> chosen)
{
    return new Chooser(over, question, items, std::move(chosen));
}

Chooser::Chooser(QWidget* over, const QString& question, const std::vector<Item>& items, std::function<void(QVariant)> chosen)
    : QFrame(over->window(), Qt::Popup), m_chosen(std::move(chosen))
{
    setObjectName(QStringLiteral("chooser"));
    setProperty("card", true);
    setAttribute(Qt::WA_DeleteOnClose);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(14, 12, 14, 14);
    auto* head = new QLabel(question, this);
    head->setProperty("subhead", true);
    head->setTextFormat(Qt::PlainText);
    layout->addWidget(head);
    m_filter = new QLineEdit(this);
    m_filter->setObjectName(QStringLiteral("chooserFilter"));
    m_filter->setPlaceholderText(tr("type to find"));
    layout->addWidget(m_filter);
    m_list = new QListWidget(this);
    m_list->setObjectName(QStringLiteral("chooserList"));
    m_list->setFocusPolicy(Qt::NoFocus);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    for (const auto& item : items) {
        auto* row =
            new QListWidgetItem(item.note.isEmpty() ? item.text : item.text + QStringLiteral("  ·  ") + item.note, m_list);
        row->setData(Qt::UserRole, item.value);
        row->setSizeHint({kWidth - 40, kRowHeight});
    }
    m_list->setFixedHeight(kRowHeight * std::clamp(m_list->count(), 1, kMostRows) + 6);
    m_list->setCurrentRow(0);
    layout->addWidget(m_list);
    connect(m_filter, &QLineEdit::textChanged, this, &Chooser::filter);
    connect(m_list, &QListWidget::itemClicked, this, &Chooser::choose);
    m_filter->installEventFilter(this);
    setFixedWidth(kWidth);
    adjustSize();
    const QWidget* window = over->window();
    move(window->mapToGlobal(QPoint((window->width() - width()) / 2, std::max(20, (window->height() - height()) / 3))));
    show();
    m_filter->setFocus();
}

void Chooser::filter(const QString& typed)
{
    int first = -1;
    for (int i = 0; i < m_list->count(); ++i) {
        const bool fits = m_list->item(i)->text().contains(typed.trimmed(), Qt::CaseInsensitive);
        m_list->item(i)->setHidden(!fits);
        if (fits && first < 0)
            first = i;
    }
    m_list->setCurrentRow(first);
}

void Chooser::choose(QListWidgetItem* item)
{
    if (!item || item->isHidden())
        return;
    const auto chosen = std::exchange(m_chosen, {});
    const QVariant value = item->data(Qt::UserRole);
    close();
    if (chosen)
        chosen(value);
}

void Chooser::closeEvent(QCloseEvent* event)
{
    if (m_chosen)
        emit dismissed();
    QFrame::closeEvent(event);
}

bool Chooser::eventFilter(QObject* object, QEvent* event)
{
    if (event->type() != QEvent::KeyPress)
        return QFrame::eventFilter(object, event);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        choose(m_list->currentItem());
        return true;
    }
    if (key != Qt::Key_Up && key != Qt::Key_Down)
        return QFrame::eventFilter(object, event);
    int row = m_list->currentRow();
    do
        row += key == Qt::Key_Down ? 1 : -1;
    while (row >= 0 && row < m_list->count() && m_list->item(row)->isHidden());
    if (row >= 0 && row < m_list->count())
        m_list->setCurrentRow(row);
    return true;
}

} // namespace kestrel::app
