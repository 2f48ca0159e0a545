#include "app/shell/plain_text.h"

#include <QCoreApplication>
#include <QHelpEvent>
#include <QLabel>
#include <QToolTip>

namespace kestrel::app {

namespace {

constexpr const char* kFormatted = "formatted";

} // namespace

void PlainText::install()
{
    static PlainText* const filter = [] {
        auto* made = new PlainText(qApp);
        qApp->installEventFilter(made);
        return made;
    }();
    static_cast<void>(filter);
}

void PlainText::setFormatted(QWidget* widget)
{
    widget->setProperty(kFormatted, true);
    if (auto* label = qobject_cast<QLabel*>(widget))
        label->setTextFormat(Qt::RichText);
}

bool PlainText::eventFilter(QObject* object, QEvent* event)
{
    auto* widget = event->type() == QEvent::Polish || event->type() == QEvent::ToolTip ? qobject_cast<QWidget*>(object) : nullptr;
    if (!widget || widget->property(kFormatted).toBool())
        return QObject::eventFilter(object, event);
    if (event->type() == QEvent::Polish) {
        if (auto* label = qobject_cast<QLabel*>(widget);
            label && label->textFormat() == Qt::AutoText && !label->inherits("QTipLabel"))
            label->setTextFormat(Qt::PlainText);
    } else if (Qt::mightBeRichText(widget->toolTip())) {
        QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(),
                           QStringLiteral("<span>%1</span>").arg(widget->toolTip().toHtmlEscaped()), widget);
        return true;
    }
    return QObject::eventFilter(object, event);
}

} // namespace kestrel::app
