#include "store/library.h"

#include "store/db/migrations.h"
#include "store/db/rows.h"
#include "store/library_copies.h"
#include "store/owner_only.h"

#include <QDir>
#include <QFileInfo>

#include <algorithm>

namespace kestrel::store {

namespace {

/// An older library stays behind as it was, in case the new version does not please or something goes wrong.
Expected<void> copyBeforeMigration(const Database& database, const QDir& folder)
{
    const auto version = schemaVersion(database);
    if (!version)
        return tl::unexpected(version.error());
    if (*version == 0 || *version >= static_cast<int>(migrations().size()))
        return {};
    if (!makeOwnFolder(folder.filePath(QStringLiteral("copies"))))
        return fail(ErrorCode::CannotWrite,
                    "A copy of the library cannot be made before it is brought up to date; nothing was changed.",
                    database.file());
    const QString copy = folder.filePath(QStringLiteral("copies/library-version-%1.db").arg(*version));
    QFile::remove(copy);
    return nothing(database.run(QStringLiteral("VACUUM INTO ?"), {copy})).map([&] { QFile::setPermissions(copy, kOwnerOnly); });
}

/// A new library appears whole: a program that is killed while it makes one leaves none behind.
Expected<void> makeNew(const QDir& folder, const QString& file)
{
    if (!makeOwnFolder(folder.path()))
        return fail(ErrorCode::CannotWrite, "The folder for the library cannot be made; choose another place.",
                    folder.path().toStdString());
    const QString part = file + QStringLiteral(".new");
    for (const char* side : {"", "-wal", "-shm"})
        QFile::remove(part + QString::fromLatin1(side));
    {
        const auto database = Database::open(part.toStdString(), Database::Mode::ReadWrite);
        if (!database)
            return tl::unexpected(database.error());
        if (const auto done = migrate(*database); !done)
            return done;
    }
    QFile::setPermissions(part, kOwnerOnly);
    if (!QFile::rename(part, file))
        return fail(ErrorCode::CannotWrite, "The new library cannot be put in place.", file.toStdString());
    return {};
}

/// By its first bytes, before anything is done with it.
Expected<void> looksLikeOurs(const QFileInfo& info)
{
    constexpr qint64 kSmallest = 512; // bytes of a page
    const std::string path = info.filePath().toStdString();
    if (info.size() == 0)
        return fail(ErrorCode::Damaged, "The library's file is empty: what was in it is lost. Take its newest copy.", path);
    QFile file(info.filePath());
    if (!file.open(QIODevice::ReadOnly))
        return fail(ErrorCode::CannotOpen, "The library cannot be opened; check that you may read its file.", path);
    if (file.read(16) != QByteArray("SQLite format 3\0", 16))
        return fail(ErrorCode::Damaged,
                    "This is not a library, or its beginning is damaged; nothing was changed. Take its newest copy.", path);
    if (info.size() < kSmallest)
        return fail(ErrorCode::Damaged, "The library's file was cut off; nothing was changed. Take its newest copy.", path);
    return {};
}

/// Another program's tables, and numbers nobody gave, are left alone.
Expected<void> checkTables(const Database& database)
{
    const auto version = schemaVersion(database);
    if (!version)
        return tl::unexpected(version.error());
    auto tables = all<QString>(database.run(QStringLiteral("SELECT name FROM sqlite_master WHERE type = 'table'")),
                               [](const QSqlQuery& q) { return q.value(0).toString(); });
    if (!tables)
        return tl::unexpected(tables.error());
    const bool isOurs = tables->empty()
                            ? *version == 0
                            : *version > 0 && std::count(tables->begin(), tables->end(), QStringLiteral("athlete")) > 0;
    if (!isOurs)
        return fail(ErrorCode::WrongVersion,
                    "This database belongs to another program; nothing was changed. Choose another folder for the library.",
                    database.file());
    return {};
}

} // namespace

Library::Library(std::string folder, Database database, bool readOnly)
    : m_folder(std::move(folder)), m_database(std::make_unique<Database>(std::move(database))), m_readOnly(readOnly),
      m_athletes(*m_database), m_days(*m_database), m_clips(*m_database), m_repetitions(*m_database), m_marks(*m_database),
      m_drawings(*m_database), m_sent(*m_database), m_walks(*m_database), m_pagePictures(*m_database), m_books(*m_database),
      m_plans(*m_database), m_matches(*m_database), m_films(*m_database), m_readings(*m_database), m_archive(*m_database)
{
}

Expected<Library> Library::open(const std::string& folder, bool readOnly)
{
    const QDir dir(text(folder));
    const QFileInfo info(dir.filePath(QStringLiteral("library.db")));
    const std::string file = info.filePath().toStdString();
    if (!info.exists()) {
        if (readOnly)
            return fail(ErrorCode::CannotOpen, "There is no library in this folder.", folder);
        if (const auto made = makeNew(dir, info.filePath()); !made)
            return tl::unexpected(made.error());
    } else if (const auto looks = looksLikeOurs(info); !looks) {
        return tl::unexpected(looks.error());
    }
    if (!readOnly && info.isWritable() && QFileInfo(dir.path()).isWritable()) {
        auto library = openToWrite(dir, file);
        const auto code = library ? ErrorCode{} : library.error().code;
        if (library || (code != ErrorCode::CannotWrite && code != ErrorCode::CannotOpen))
            return library; // a full disk is no reason not to look
    }
    return openToLook(dir, file);
}

Expected<Library> Library::openToWrite(const QDir& folder, const std::string& file)
{
    auto database = Database::open(file, Database::Mode::ReadWrite, checkTables);
    if (!database)
        return tl::unexpected(database.error());
    if (const auto ready = copyBeforeMigration(*database, folder).and_then([&] { return migrate(*database); }); !ready)
        return tl::unexpected(ready.error());
    for (const char* side : {"", "-wal", "-shm"})
        QFile::setPermissions(text(file + side), kOwnerOnly);
    return Library(folder.absolutePath().toStdString(), std::move(*database), false);
}

Expected<Library> Library::openToLook(const QDir& folder, const std::string& file)
{
    auto database = Database::open(file, Database::Mode::ReadOnly, checkTables);
    if (!database)
        return tl::unexpected(database.error());
    const auto version = schemaVersion(*database);
    if (!version)
        return tl::unexpected(version.error());
    if (*version != static_cast<int>(migrations().size()))
        return fail(ErrorCode::WrongVersion,
                    "The library has another version and is read-only; copy its folder to a place you may write to.", file);
    return Library(folder.absolutePath().toStdString(), std::move(*database), true);
}

Expected<Library> Library::openFromAfar(const std::string& folder, std::shared_ptr<const Snapshot> snapshot)
{
    auto library = openToLook(QDir(text(folder)), snapshot->file());
    if (library)
        library->m_snapshot = std::move(snapshot);
    return library;
}

Expected<Library> Library::openFromAfar(const std::string& folder)
{
    const auto snapshot = Snapshot::take(folder);
    return snapshot ? openFromAfar(folder, *snapshot) : tl::unexpected(snapshot.error());
}

std::function<Expected<Library>()> Library::again(bool readOnly) const
{
    return [folder = m_folder, snapshot = m_snapshot, readOnly = readOnly || m_readOnly] {
        return snapshot ? openFromAfar(folder, snapshot) : open(folder, readOnly);
    };
}

Expected<Marking> Library::marking(ClipId id) const
{
    return only(m_repetitions.of(id), "repetition", m_database->file()).and_then([this](const RepetitionRow& r) {
        return marking(r.id);
    });
}

Expected<Marking> Library::marking(RepetitionId id) const
{
    const auto r = m_repetitions.find(id);
    if (!r)
        return tl::unexpected(r.error());
    const auto c = m_clips.find(r->clip);
    if (!c)
        return tl::unexpected(c.error());
    auto happened = m_repetitions.events(id);
    if (!happened)
        return tl::unexpected(happened.error());
    auto given = m_repetitions.answers(id);
    if (!given)
        return tl::unexpected(given.error());
    const auto marked = m_marks.of(r->clip);
    if (!marked)
        return tl::unexpected(marked.error());
    const auto d = m_days.find(c->day);
    if (!d)
        return tl::unexpected(d.error());
    const auto who = m_athletes.find(d->athlete);
    if (!who)
        return tl::unexpected(who.error());
    Marking m;
    m.film = c->film;
    m.film.file = filmPath(*c);
    m.clock = c->clock;
    m.scene = c->scene;
    m.athlete = athleteOn(*who, *d);
    m.skill = d->skill;
    m.variant = r->variant;
    m.isLive = r->isLive;
    m.outcome = r->outcome;
    m.answers = std::move(*given);
    m.events = std::move(*happened);
    std::copy_if(marked->begin(), marked->end(), std::back_inserter(m.marks),
                 [&](const Mark& mark) { return mark.frame >= r->first && mark.frame <= r->last; });
    return m;
}

Expected<TakenRows> Library::take(ClipId id)
{
    m_marks.forget();
    return m_archive.take(QStringLiteral("clip"), id.value);
}

Expected<TakenRows> Library::take(RepetitionId id)
{
    const auto repetition = m_repetitions.find(id);
    if (!repetition)
        return tl::unexpected(repetition.error());
    if (const auto list = m_repetitions.of(repetition->clip); list && list->size() == 1)
        return fail(ErrorCode::BadArgument, "A clip keeps at least one repetition; remove the clip instead.", m_database->file());
    return m_archive.take(QStringLiteral("repetition"), id.value);
}

Expected<void> Library::check() const
{
    return m_database->check();
}

Expected<std::int64_t> Library::state() const
{
    if (m_snapshot)
        return stateFromOutside(m_folder);
    return m_database->run(QStringLiteral("PRAGMA data_version")).map([](QSqlQuery q) {
        return q.next() ? std::int64_t{q.value(0).toLongLong()} : 0;
    });
}

Expected<void> Library::forgetRemoved()
{
    // what was deleted is overwritten as it goes; the journal still tells of it until it is brought in and cut off
    auto done = nothing(m_database->run(QStringLiteral("PRAGMA wal_checkpoint(TRUNCATE)")));
    return done ? removeCopies(m_folder) : done;
}

Expected<void> Library::restore(const TakenRows& rows)
{
    m_marks.forget();
    return m_archive.restore(rows);
}

Expected<void> Library::together(const std::function<Expected<void>()>& changes)
{
    auto done = inTransaction(*m_database, changes);
    if (!done)
        m_marks.forget(); // some may have been undone
    return done;
}

Expected<void> Library::atOneTime(const std::function<void()>& looks) const
{
    if (const auto begun = m_database->run(QStringLiteral("BEGIN")); !begun)
        return tl::unexpected(begun.error());
    looks();
    return nothing(m_database->run(QStringLiteral("COMMIT")));
}

std::string Library::filmPath(const Clip& c) const
{
    return filmPath(c.file);
}

std::string Library::filmPath(const std::string& stored) const
{
    return QDir::cleanPath(QDir(text(m_folder)).absoluteFilePath(text(stored))).toStdString();
}

std::string Library::storedPath(const std::string& file) const
{
    const QString absolute = QFileInfo(text(file)).absoluteFilePath();
    const QString relative = QDir(text(m_folder)).relativeFilePath(absolute);
    return (relative.startsWith(QStringLiteral("..")) ? absolute : relative).toStdString();
}

} // namespace kestrel::store
