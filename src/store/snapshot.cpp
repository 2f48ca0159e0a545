#include "store/snapshot.h"

#include "store/db/database.h"
#include "store/db/rows.h"
#include "store/owner_only.h"

#include <QCoreApplication>
#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>

#include <chrono>
#include <thread>

namespace kestrel::store {

namespace {

constexpr int kTries = 6;
constexpr std::chrono::milliseconds kPause{150}; // between two tries
constexpr const char* kParts[] = {"library.db", "library.db-wal"};

const QString kPrefix = QStringLiteral("jolly-kestrel-look-");

/// Gone when the computer is shut down, where there is such a place.
QString placeForCopies()
{
    const QString place = QStandardPaths::writableLocation(QStandardPaths::RuntimeLocation);
    return place.isEmpty() ? QDir::tempPath() : place;
}

/// Copies of programs that are gone: their folders' names begin with the number of the process.
void removeLeftovers()
{
    for (const auto& folder : QDir(placeForCopies()).entryInfoList({kPrefix + QLatin1Char('*')}, QDir::Dirs)) {
        const QString process = folder.fileName().mid(kPrefix.size()).section(QLatin1Char('-'), 0, 0);
        if (!QFileInfo::exists(QStringLiteral("/proc/") + process))
            QDir(folder.filePath()).removeRecursively();
    }
}

Expected<void> isSound(const std::string& file)
{
    const auto database = Database::open(file, Database::Mode::ReadOnly);
    return database ? database->check() : tl::unexpected(database.error());
}

} // namespace

Snapshot::Snapshot()
    : m_folder(QDir(placeForCopies())
                   .filePath(kPrefix + QString::number(QCoreApplication::applicationPid()) + QStringLiteral("-XXXXXX")))
{
}

std::int64_t stateFromOutside(const std::string& folder)
{
    std::size_t state = 0;
    for (const char* part : kParts) {
        QFile file(QDir(text(folder)).filePath(QString::fromLatin1(part)));
        const bool isThere = file.open(QIODevice::ReadOnly);
        const QByteArray head = isThere ? file.read(100) : QByteArray(); // counts the changes, and the rounds of the journal
        const qint64 size = isThere ? file.size() : -1;
        state = qHashMulti(state, head, size, isThere ? QFileInfo(file).lastModified().toMSecsSinceEpoch() : 0);
    }
    return static_cast<std::int64_t>(state);
}

Expected<std::shared_ptr<const Snapshot>> Snapshot::take(const std::string& folder)
{
    removeLeftovers();
    const QDir dir(text(folder));
    const std::shared_ptr<Snapshot> snapshot(new Snapshot);
    if (!snapshot->m_folder.isValid())
        return fail(ErrorCode::CannotWrite, "There is no room to look at this library: another computer has it open.", folder);
    Expected<void> sound;
    for (int n = 0; n < kTries; ++n) {
        if (n > 0)
            std::this_thread::sleep_for(kPause);
        snapshot->m_state = stateFromOutside(folder);
        for (const char* part : kParts) {
            const QString name = QString::fromLatin1(part), copy = snapshot->m_folder.filePath(name);
            QFile::remove(copy);
            if (!dir.exists(name))
                continue;
            if (!QFile::copy(dir.filePath(name), copy))
                return fail(ErrorCode::CannotWrite,
                            "The library could not be copied to look at it while another computer has it open.", folder);
            QFile::setPermissions(copy, kOwnerOnly);
        }
        sound = isSound(snapshot->file());
        if (sound && snapshot->m_state == stateFromOutside(folder))
            return snapshot;
    }
    if (sound)
        return fail(ErrorCode::CannotOpen, "Another computer is writing much into this library; try again in a minute.", folder);
    return tl::unexpected(sound.error());
}

std::string Snapshot::file() const
{
    return m_folder.filePath(QStringLiteral("library.db")).toStdString();
}

} // namespace kestrel::store
