#include "app/settings.h"

#include <QSettings>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr qulonglong kMiB = 1 << 20, kLeastMiB = 32, kMostMiB = 1 << 20;
constexpr int kMostTasks = 3;
const QString kBodyNetwork = QStringLiteral("marking/network"), kQuick = QStringLiteral("quick"),
              kThorough = QStringLiteral("thorough");

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

vision::BodyNetwork Settings::bodyNetwork()
{
    const QString chosen = file().value(kBodyNetwork).toString();
    return chosen == kQuick      ? vision::BodyNetwork::Quick
           : chosen == kThorough ? vision::BodyNetwork::Thorough
                                 : vision::BodyNetwork::Usual;
}

void Settings::setBodyNetwork(vision::BodyNetwork network)
{
    QSettings settings = file();
    if (network == vision::BodyNetwork::Usual)
        settings.remove(kBodyNetwork);
    else
        settings.setValue(kBodyNetwork, network == vision::BodyNetwork::Quick ? kQuick : kThorough);
}

int Settings::tasks()
{
    return std::clamp(file().value(QStringLiteral("judging/tasks"), 1).toInt(), 1, kMostTasks);
}

void Settings::setTasks(int tasks)
{
    file().setValue(QStringLiteral("judging/tasks"), tasks);
}

} // namespace kestrel::app
