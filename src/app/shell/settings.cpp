#include "app/shell/settings.h"

#include <QSettings>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr qulonglong kMiB = 1 << 20, kLeastMiB = 32, kMostMiB = 1 << 20;
constexpr int kMostTasks = 3;
const QString kBodyNetwork = QStringLiteral("marking/network");

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
    return vision::findBodyNetwork(file().value(kBodyNetwork).toString().toStdString()).value_or(vision::BodyNetwork::Usual);
}

void Settings::setBodyNetwork(vision::BodyNetwork network)
{
    const auto word = vision::wordOf(network);
    file().setValue(kBodyNetwork, QString::fromLatin1(word.data(), static_cast<qsizetype>(word.size())));
}

int Settings::tasks()
{
    return std::clamp(file().value(QStringLiteral("judging/tasks"), 1).toInt(), 1, kMostTasks);
}

void Settings::setTasks(int tasks)
{
    file().setValue(QStringLiteral("judging/tasks"), tasks);
}

FaceHiding Settings::faceHiding()
{
    const int kept = file().value(QStringLiteral("show/faces"), static_cast<int>(FaceHiding::WithoutConsent)).toInt();
    return static_cast<FaceHiding>(std::clamp(kept, 0, static_cast<int>(FaceHiding::Always)));
}

void Settings::setFaceHiding(FaceHiding when)
{
    file().setValue(QStringLiteral("show/faces"), static_cast<int>(when));
}

} // namespace kestrel::app
