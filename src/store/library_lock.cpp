#include "store/library_lock.h"

#include "store/owner_only.h"

#include <QCoreApplication>
#include <QDir>
#include <QSysInfo>

namespace kestrel::store {

namespace {

constexpr int kGoneAfterMs = 60'000; // without a sign of life; only counts for other computers and for processes that are gone

QString sinceFile(const QString& folder)
{
    return QDir(folder).filePath(QStringLiteral("library.since"));
}

} // namespace

LibraryLock::LibraryLock(const std::string& folder)
    : m_folder(QString::fromStdString(folder)), m_file(QDir(m_folder).filePath(QStringLiteral("library.lock")))
{
    makeOwnFolder(m_folder);
    m_file.setStaleLockTime(kGoneAfterMs);
    tryAgain();
}

LibraryLock::~LibraryLock()
{
    if (isHeld())
        QFile::remove(sinceFile(m_folder));
}

bool LibraryLock::tryAgain()
{
    if (isHeld())
        return true;
    if (!m_file.tryLock(0))
        return false;
    QFile::setPermissions(m_file.fileName(), kOwnerOnly);
    if (QFile since(sinceFile(m_folder)); since.open(QIODevice::WriteOnly)) {
        since.setPermissions(kOwnerOnly);
        since.write(QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toUtf8());
    }
    return true;
}

std::optional<LibraryLock::Holder> LibraryLock::holder() const
{
    qint64 process = 0;
    QString computer, program;
    if (isHeld() || !m_file.getLockInfo(&process, &computer, &program))
        return std::nullopt;
    Holder who{computer.toStdString(), process, computer.isEmpty() || computer == QSysInfo::machineHostName(), {}};
    if (QFile since(sinceFile(m_folder)); since.open(QIODevice::ReadOnly))
        who.since = QDateTime::fromString(QString::fromUtf8(since.read(64)), Qt::ISODate).toLocalTime();
    return who;
}

bool LibraryLock::renew()
{
    qint64 process = 0;
    QString computer, program;
    const bool isOurs = m_file.getLockInfo(&process, &computer, &program) && process == QCoreApplication::applicationPid() &&
                        computer == QSysInfo::machineHostName();
    if (!isOurs)
        return false;
    if (QFile sign(m_file.fileName()); sign.open(QIODevice::ReadWrite))
        sign.setFileTime(QDateTime::currentDateTimeUtc(), QFileDevice::FileModificationTime);
    return true;
}

} // namespace kestrel::store
