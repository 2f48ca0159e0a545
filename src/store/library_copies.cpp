#include "store/library_copies.h"

#include "store/db/database.h"
#include "store/db/rows.h"
#include "store/owner_only.h"

#include <QDir>
#include <QFileInfo>

namespace kestrel::store {

namespace {

QDir copiesOf(const std::string& folder)
{
    return QDir(QDir(text(folder)).filePath(QStringLiteral("copies")));
}

QString nameOn(const QDate& day)
{
    return QStringLiteral("library-%1.db").arg(day.toString(Qt::ISODate));
}

} // namespace

std::vector<LibraryCopy> libraryCopies(const std::string& folder)
{
    std::vector<LibraryCopy> copies;
    for (const auto& info : copiesOf(folder).entryInfoList({QStringLiteral("library-*.db")}, QDir::Files, QDir::Time))
        copies.push_back({info.filePath().toStdString(), info.lastModified().date()});
    return copies;
}

Expected<void> makeDailyCopy(const std::string& folder, const QDate& today)
{
    const QDir copies = copiesOf(folder);
    const QString copy = copies.filePath(nameOn(today)), part = copies.filePath(QStringLiteral("copy.part"));
    if (QFileInfo::exists(copy))
        return {};
    if (!makeOwnFolder(copies.path()))
        return fail(ErrorCode::CannotWrite, "Today's copy of the library cannot be made.", copies.path().toStdString());
    QFile::remove(part); // of a program that was killed
    const auto database =
        Database::open(QDir(text(folder)).filePath(QStringLiteral("library.db")).toStdString(), Database::Mode::ReadOnly);
    if (!database)
        return tl::unexpected(database.error());
    if (const auto done = database->run(QStringLiteral("VACUUM INTO ?"), {part}); !done) {
        QFile::remove(part);
        return tl::unexpected(done.error());
    }
    QFile::setPermissions(part, kOwnerOnly);
    if (!QFile::rename(part, copy))
        return fail(ErrorCode::CannotWrite, "Today's copy of the library cannot be put in place.", copy.toStdString());
    auto daily = copies.entryList({QStringLiteral("library-[0-9]*.db")}, QDir::Files, QDir::Name | QDir::Reversed);
    for (qsizetype n = kCopiesKept; n < daily.size(); ++n)
        QFile::remove(copies.filePath(daily[n]));
    return {};
}

Expected<void> restoreCopy(const std::string& folder, const std::string& copy)
{
    const QDir dir(text(folder));
    const QString file = dir.filePath(QStringLiteral("library.db")), part = dir.filePath(QStringLiteral("library.db.new"));
    const auto cannot = [&] { return fail(ErrorCode::CannotWrite, "The copy cannot be put in place.", file.toStdString()); };
    QFile::remove(part);
    if (!QFile::copy(text(copy), part))
        return cannot();
    QFile::setPermissions(part, kOwnerOnly);
    QString aside;
    for (int n = 1; aside.isEmpty() || QFileInfo::exists(aside); ++n)
        aside = dir.filePath(QStringLiteral("library-damaged-%1.db").arg(n));
    for (const char* suffix : {"-wal", "-shm", ""}) { // the journal belongs to the file it was written for
        const QString end = QString::fromLatin1(suffix);
        if (QFileInfo::exists(file + end) && !QFile::rename(file + end, aside + end))
            return cannot();
    }
    if (!QFile::rename(part, file))
        return cannot();
    return {};
}

Expected<void> removeCopies(const std::string& folder)
{
    for (const auto& copy : libraryCopies(folder))
        if (!QFile::remove(text(copy.file)))
            return fail(ErrorCode::CannotWrite, "A copy of the library cannot be removed; it still holds what was removed.",
                        copy.file);
    return {};
}

} // namespace kestrel::store
