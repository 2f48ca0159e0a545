#include "store/library.h"

#include "store/db/migrations.h"
#include "store/db/rows.h"

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
    if (!folder.mkpath(QStringLiteral("copies")))
        return fail(ErrorCode::CannotWrite, "A copy of the library cannot be made before it is brought up to date; nothing was changed.",
                    database.file());
    const QString copy = folder.filePath(QStringLiteral("copies/library-version-%1.db").arg(*version));
    QFile::remove(copy);
    return nothing(database.run(QStringLiteral("VACUUM INTO ?"), {copy}));
}

} // namespace

Library::Library(std::string folder, Database database, bool readOnly)
    : m_folder(std::move(folder)), m_database(std::make_unique<Database>(std::move(database))), m_readOnly(readOnly),
      m_athletes(*m_database), m_days(*m_database), m_clips(*m_database), m_repetitions(*m_database), m_marks(*m_database),
      m_films(*m_database), m_readings(*m_database), m_archive(*m_database)
{
}

Expected<Library> Library::open(const std::string& folder, bool readOnly)
{
    const QDir dir(text(folder));
    const std::string file = dir.filePath(QStringLiteral("library.db")).toStdString();
    const QFileInfo info(text(file));
    if (!info.exists() && readOnly)
        return fail(ErrorCode::CannotOpen, "There is no library in this folder.", folder);
    if (!info.exists() && !QDir().mkpath(dir.path()))
        return fail(ErrorCode::CannotWrite, "The folder for the library cannot be made; choose another place.", folder);
    if (info.exists() && (!info.isWritable() || !QFileInfo(dir.path()).isWritable()))
        readOnly = true;
    auto database = Database::open(file, readOnly ? Database::Mode::ReadOnly : Database::Mode::ReadWrite);
    if (!database)
        return tl::unexpected(database.error());
    if (readOnly) {
        const auto version = schemaVersion(*database);
        if (!version)
            return tl::unexpected(version.error());
        if (*version != static_cast<int>(migrations().size()))
            return fail(ErrorCode::WrongVersion,
                        "The library has another version and is read-only; copy its folder to a place you may write to.", file);
    } else if (const auto ready = copyBeforeMigration(*database, dir).and_then([&] { return migrate(*database); }); !ready) {
        return tl::unexpected(ready.error());
    }
    return Library(dir.absolutePath().toStdString(), std::move(*database), readOnly);
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
    return QDir::cleanPath(QDir(text(m_folder)).absoluteFilePath(text(c.file))).toStdString();
}

std::string Library::storedPath(const std::string& file) const
{
    const QString absolute = QFileInfo(text(file)).absoluteFilePath();
    const QString relative = QDir(text(m_folder)).relativeFilePath(absolute);
    return (relative.startsWith(QStringLiteral("..")) ? absolute : relative).toStdString();
}

} // namespace kestrel::store
