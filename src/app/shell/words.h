#pragma once

#include <QString>

#include <string>

namespace kestrel::app {

inline QString text(const std::string& s)
{
    return QString::fromStdString(s);
}

/// A variant of a skill as a coach reads it: "one motion" for "one-motion".
inline QString variantName(const std::string& variant)
{
    return QString::fromStdString(variant).replace(QLatin1Char('-'), QLatin1Char(' '));
}

} // namespace kestrel::app
