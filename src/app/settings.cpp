#include "app/settings.h"

#include <QSettings>

namespace kestrel::app {

namespace {

constexpr qulonglong kMiB = 1 << 20, kLeastMiB = 32, kMostMiB = 1 << 20;

QSettings file()
{
    return QSettings(QSettings::IniFormat, QSettings::UserScope, QStringLiteral("jolly-kestrel"), QStringLiteral("settings"));
}

} // namespace

std::optional<std::size_t> Settings::filmMemory()
{
    const qulonglong mib = file().value(QStringLiteral("film/memoryMiB")).toULongLong();
    return mib >= kLeastMiB && mib <= kMostMiB ? std::optional<std::size_t>(mib * kMiB) : std::nullopt;
}

void Settings::setFilmMemory(std::optional<std::size_t> bytes)
{
    QSettings settings = file();
    if (bytes)
        settings.setValue(QStringLiteral("film/memoryMiB"), static_cast<qulonglong>(*bytes / kMiB));
    else
        settings.remove(QStringLiteral("film/memoryMiB"));
}

} // namespace kestrel::app
