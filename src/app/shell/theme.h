#pragma once

#include "look/palette.h"

#include <QIcon>
#include <QObject>
#include <QString>

namespace kestrel::app {

/// The colours in use, light or dark, for the whole window. One object, made with the application.
class Theme : public QObject {
    Q_OBJECT
public:
    static Theme& instance();

    const look::Palette& colours() const { return m_palette; }
    bool isDark() const { return m_dark; }
    /// Sets palette, style sheet and font of the application. Emits changed().
    void setDark(bool dark);

    /// One of our icons (assets/icons/<name>.svg) in a colour.
    static QIcon icon(const QString& name, const QColor&);

signals:
    void changed();

private:
    Theme() = default;
    look::Palette m_palette = look::lightPalette();
    bool m_dark = false;
};

inline const look::Palette& colours()
{
    return Theme::instance().colours();
}

/// The rail stays charcoal in both themes.
inline QColor railColour()
{
    return {0x20, 0x28, 0x2E};
}

} // namespace kestrel::app
