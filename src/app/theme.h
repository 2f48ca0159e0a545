#pragma once

#include "report/tokens.h"

#include <QIcon>
#include <QObject>
#include <QString>

namespace kestrel::app {

/// The colours in use, light or dark, for the whole window. One object, made with the application.
class Theme : public QObject {
    Q_OBJECT
public:
    static Theme& instance();

    const report::Tokens& tokens() const { return m_tokens; }
    bool isDark() const { return m_dark; }
    /// Sets palette, style sheet and font of the application. Emits changed().
    void setDark(bool dark);

    /// One of our icons (assets/icons/<name>.svg) in a colour.
    static QIcon icon(const QString& name, const QColor&);

signals:
    void changed();

private:
    Theme() = default;
    report::Tokens m_tokens = report::lightTokens();
    bool m_dark = false;
};

inline const report::Tokens& tokens()
{
    return Theme::instance().tokens();
}

/// The rail stays charcoal in both themes.
inline QColor railColour()
{
    return {0x20, 0x28, 0x2E};
}

} // namespace kestrel::app
