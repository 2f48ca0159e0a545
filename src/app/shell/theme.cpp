#include "app/shell/theme.h"

#include "core/pack/pack_folder.h"
#include "look/fonts.h"

#include <QApplication>
#include <QFile>
#include <QPainter>
#include <QPalette>
#include <QSvgRenderer>

#include <map>

namespace kestrel::app {

namespace {

constexpr double kBodySize = 13;

QString styleSheet(const look::Palette& t)
{
    QString sheet = QStringLiteral(R"(
QWidget { color: @ink; }
QToolTip { background: @panel; color: @ink; border: 1px solid @rule; padding: 4px; }
QPushButton, QToolButton { background: @panel; border: 1px solid @rule; border-radius: 4px; padding: 5px 10px; }
QPushButton:hover, QToolButton:hover { border-color: @slate; }
QPushButton:focus, QToolButton:focus, QLineEdit:focus, QPlainTextEdit:focus, QComboBox:focus, QAbstractSpinBox:focus { border: 1px solid @slate; }
QPushButton:checked, QToolButton:checked { background: @slatePale; border-color: @slate; }
QPushButton:disabled, QToolButton:disabled { color: @muted; }
QLineEdit:disabled, QComboBox:disabled, QAbstractSpinBox:disabled { color: @muted; background: @ground; }
QPushButton[primary="true"] { background: @slate; color: @panel; border-color: @slate; font-weight: 600; }
QPushButton[primary="true"]:disabled { background: @rule; color: @muted; border-color: @rule; }
QToolButton[flat="true"] { border: none; background: transparent; padding: 4px 6px; }
QToolButton[slim="true"] { border: 1px solid transparent; background: transparent; padding: 2px; }
QToolButton[slim="true"]:hover { border-color: @slate; }
QToolButton[slim="true"]:checked { background: @slatePale; border-color: @slate; }
QToolButton[flat="true"]:hover, QToolButton[flat="true"]:checked { background: @slatePale; }
QLineEdit, QPlainTextEdit, QComboBox, QAbstractSpinBox { background: @panel; border: 1px solid @rule; border-radius: 4px; padding: 4px 6px; selection-background-color: @slate; }
QDateEdit[flat="true"] { font-size: 15px; font-weight: 600; border-color: transparent; padding-left: 0; }
QAbstractSpinBox { padding-right: 20px; }
QAbstractSpinBox::up-button, QAbstractSpinBox::down-button { subcontrol-origin: border; width: 18px; border: none; border-left: 1px solid @rule; background: transparent; }
QAbstractSpinBox::up-button { subcontrol-position: top right; border-top-right-radius: 4px; }
QAbstractSpinBox::down-button { subcontrol-position: bottom right; border-bottom-right-radius: 4px; }
QAbstractSpinBox::up-button:hover, QAbstractSpinBox::down-button:hover { background: @slatePale; }
QAbstractSpinBox::up-arrow { image: url(@stepUp); width: 9px; height: 9px; }
QAbstractSpinBox::down-arrow { image: url(@stepDown); width: 9px; height: 9px; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { image: url(@arrow); width: 12px; height: 12px; }
QComboBox QAbstractItemView { background: @panel; selection-background-color: @slatePale; selection-color: @ink; }
QListWidget, QScrollArea { background: transparent; border: none; outline: none; }
QListWidget::item { padding: 8px 10px; border-radius: 4px; }
QListWidget::item:selected { background: @slatePale; color: @ink; }
QFrame[card="true"] { background: @panel; border: 1px solid @rule; border-radius: 4px; }
QFrame[hair="true"] { background: @rule; max-height: 1px; min-height: 1px; border: none; }
QLabel[muted="true"] { color: @muted; }
QLabel[head="true"] { font-size: 17px; font-weight: 600; }
QLabel[subhead="true"] { font-size: 15px; font-weight: 600; }
QCalendarWidget QWidget#qt_calendar_navigationbar { background: @panel; }
QCalendarWidget QToolButton { border: none; background: transparent; }
QCalendarWidget QToolButton:hover { background: @slatePale; }
QCalendarWidget QAbstractItemView { background: @panel; selection-background-color: @slate; selection-color: @panel; }
QScrollBar:vertical { width: 8px; background: transparent; } QScrollBar::handle:vertical { background: @rule; border-radius: 4px; min-height: 24px; }
QScrollBar:horizontal { height: 8px; background: transparent; } QScrollBar::handle:horizontal { background: @rule; border-radius: 4px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
)");
    const QString icons = QString::fromStdString(shippedFolder("assets")) + QStringLiteral("/icons/");
    sheet.replace(QLatin1String("@arrow"), icons + QStringLiteral("open-list.svg"));
    sheet.replace(QLatin1String("@stepUp"), icons + QStringLiteral("step-up.svg"));
    sheet.replace(QLatin1String("@stepDown"), icons + QStringLiteral("step-down.svg"));
    const std::pair<const char*, QColor> names[] = {{"@slatePale", t.slatePale}, {"@slate", t.slate}, {"@ink", t.ink},
                                                    {"@ground", t.ground},       {"@panel", t.panel}, {"@rule", t.rule},
                                                    {"@muted", t.muted}};
    for (const auto& [name, colour] : names)
        sheet.replace(QLatin1String(name), colour.name());
    return sheet;
}

} // namespace

Theme& Theme::instance()
{
    static Theme theme;
    return theme;
}

void Theme::setDark(bool dark)
{
    m_dark = dark;
    m_palette = dark ? look::darkPalette() : look::lightPalette();
    QPalette p;
    p.setColor(QPalette::Window, m_palette.ground);
    p.setColor(QPalette::Base, m_palette.panel);
    p.setColor(QPalette::Button, m_palette.panel);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
        p.setColor(role, m_palette.ink);
    p.setColor(QPalette::PlaceholderText, m_palette.muted);
    p.setColor(QPalette::Highlight, m_palette.slate);
    p.setColor(QPalette::HighlightedText, m_palette.panel);
    QApplication::setPalette(p);
    QApplication::setFont(look::font(kBodySize));
    qApp->setStyleSheet(styleSheet(m_palette));
    emit changed();
}

QIcon Theme::icon(const QString& name, const QColor& colour)
{
    // views ask for their icons at each refresh; drawing them each time kept the window waiting
    static auto& drawn = *new std::map<std::pair<QString, QRgb>, QIcon>; // never destroyed: pixmaps need the application
    QIcon& icon = drawn[{name, colour.rgba()}];
    if (!icon.isNull())
        return icon;
    QFile file(QString::fromStdString(shippedFolder("assets")) + QStringLiteral("/icons/") + name + QStringLiteral(".svg"));
    if (!file.open(QIODevice::ReadOnly))
        return {};
    QByteArray svg = file.readAll();
    svg.replace("currentColor", colour.name().toLatin1());
    QSvgRenderer renderer(svg);
    for (const int size : {20, 40}) {
        QPixmap pixmap(size, size);
        pixmap.fill(Qt::transparent);
        QPainter painter(&pixmap);
        renderer.render(&painter);
        icon.addPixmap(pixmap);
    }
    return icon;
}

} // namespace kestrel::app
