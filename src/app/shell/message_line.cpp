#include "app/shell/message_line.h"

#include "app/shell/theme.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QToolButton>

#include <algorithm>
#include <utility>

namespace kestrel::app {

namespace {

constexpr int kLeastMs = 7000, kMsALetter = 60, kSideRoom = 16, kFootRoom = 10, kMostLetters = 600;

} // namespace

MessageLine::MessageLine(QWidget* over) : QFrame(over), m_over(over)
{
    setObjectName(QStringLiteral("messageLine"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(16, 8, 12, 8);
    m_text = new QLabel(this);
    m_text->setWordWrap(true);
    m_text->setTextFormat(Qt::PlainText);
    m_text->setObjectName(QStringLiteral("message"));
    m_offer = new QPushButton(this);
    m_offer->setObjectName(QStringLiteral("messageOffer"));
    m_offer->setFocusPolicy(Qt::NoFocus);
    connect(m_offer, &QPushButton::clicked, this, [this] {
        hide();
        if (const auto accept = std::exchange(m_accept, {}))
            accept();
    });
    auto* close = new QToolButton(this);
    close->setObjectName(QStringLiteral("closeMessage"));
    close->setText(tr("Close"));
    close->setProperty("flat", true);
    close->setFocusPolicy(Qt::NoFocus);
    layout->addWidget(m_text, 1);
    layout->addWidget(m_offer);
    layout->addWidget(close);
    connect(close, &QToolButton::clicked, this, &QWidget::hide);
    m_time.setSingleShot(true);
    connect(&m_time, &QTimer::timeout, this, &QWidget::hide);
    m_over->installEventFilter(this);
    hide();
}

void MessageLine::say(const QString& text, bool isError, Offer offer)
{
    const auto& t = colours();
    m_isError = isError;
    setStyleSheet(QStringLiteral("#messageLine{background:%1;border:1px solid %2;border-left:4px solid %2;border-radius:4px}")
                      .arg(t.panel.name(), (isError ? t.alert : t.slate).name()));
    m_text->setStyleSheet(isError ? QStringLiteral("color:%1;font-weight:600").arg(t.alert.name()) : QString());
    const QString whole = isError ? tr("Not done: %1").arg(text) : text;
    m_text->setText(whole.size() > kMostLetters ? whole.left(kMostLetters) + QStringLiteral(" …") : whole);
    m_offer->setText(offer.text);
    m_offer->setVisible(static_cast<bool>(offer.accept));
    m_accept = std::move(offer.accept);
    show();
    place();
    raise();
    if (isError || m_accept)
        m_time.stop();
    else
        m_time.start(std::max(kLeastMs, kMsALetter * static_cast<int>(text.size())));
}

void MessageLine::leave()
{
    if (!m_time.isActive())
        return;
    m_time.stop();
    hide();
}

void MessageLine::succeed()
{
    if (m_isError && isVisible())
        hide();
    m_isError = false;
}

void MessageLine::place()
{
    const int width = m_over->width() - 2 * kSideRoom;
    const int height = std::max(layout()->heightForWidth(width), sizeHint().height());
    setGeometry(kSideRoom, m_over->height() - height - kFootRoom, width, height);
}

bool MessageLine::eventFilter(QObject* object, QEvent* event)
{
    if (event->type() == QEvent::Resize && !isHidden()) // said before the window is shown, too
        place();
    return QFrame::eventFilter(object, event);
}

} // namespace kestrel::app
