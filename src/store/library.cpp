#include "store/library.h"

#include "core/marking_json.h"
#include "store/migrations.h"
#include "store/rows.h"

#include <QDir>
#include <QFileInfo>
#include <nlohmann/json.hpp>

namespace kestrel::store {

namespace {

const QString kAthleteColumns = QStringLiteral("id, name, birth_date, hand, height_metres, guardian_consent, not_yet_taught");
const QString kDayColumns = QStringLiteral("id, athlete, date, skill, school");
const QString kClipColumns =
    QStringLiteral("id, day, file, content_hash, width, height, frames, capture_rate, playback_rate, scene");
const QString kRepetitionColumns =
    QStringLiteral("id, clip, first_frame, last_frame, name, variant, kind, is_live, outcome, ball_speed, other_side");

std::set<std::pair<std::string, std::string>> readNotYetTaught(const QString& lines)
{
    std::set<std::pair<std::string, std::string>> found;
    for (const auto& line : lines.split(QLatin1Char('\n'), Qt::SkipEmptyParts))
        found.emplace(line.section(QLatin1Char('/'), 0, 0).toStdString(), line.section(QLatin1Char('/'), 1).toStdString());
    return found;
}

QString linesOf(const std::set<std::pair<std::string, std::string>>& notYetTaught)
{
    QString lines; // never null: the column holds a text
    for (const auto& [skill, fault] : notYetTaught)
        lines += text(skill) + QLatin1Char('/') + text(fault) + QLatin1Char('\n');
    return lines.isNull() ? QStringLiteral("") : lines;
}

Athlete readAthlete(const QSqlQuery& q)
{
    const auto height = q.value(4).isNull() ? std::nullopt : std::optional(q.value(4).toDouble());
    return {AthleteId(q.value(0).toLongLong()),     string(q, 1), string(q, 2), word(q, 3, findHand), height, q.value(5).toBool(),
            readNotYetTaught(q.value(6).toString())};
}

FilmingDay readDay(const QSqlQuery& q)
{
    return {DayId(q.value(0).toLongLong()), AthleteId(q.value(1).toLongLong()), string(q, 2), string(q, 3), string(q, 4)};
}

Clip readClip(const QSqlQuery& q)
{
    Clip c;
    c.id = ClipId(q.value(0).toLongLong());
    c.day = DayId(q.value(1).toLongLong());
    c.file = string(q, 2);
    c.contentHash = string(q, 3);
    c.film = {{}, q.value(4).toInt(), q.value(5).toInt(), q.value(6).toLongLong()};
    c.clock = {q.value(7).toDouble(), q.value(8).toDouble()};
    const auto json = nlohmann::json::parse(string(q, 9), nullptr, false);
    c.scene = json.is_discarded() ? Scene{} : parseScene(json, "library.db").value_or(Scene{});
    return c;
}

Repetition readRepetition(const QSqlQuery& q)
{
    const auto speed = q.value(9).isNull() ? std::nullopt : std::optional(q.value(9).toDouble());
    return {RepetitionId(q.value(0).toLongLong()),
            ClipId(q.value(1).toLongLong()),
            FrameIndex(q.value(2).toLongLong()),
            FrameIndex(q.value(3).toLongLong()),
            string(q, 4),
            string(q, 5),
            string(q, 6),
            q.value(7).toBool(),
            string(q, 8),
            speed,
            RepetitionId(q.value(10).toLongLong())};
}

} // namespace

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
    } else if (const auto migrated = migrate(*database); !migrated) {
        return tl::unexpected(migrated.error());
    }
    return Library(dir.absolutePath().toStdString(), std::move(*database), readOnly);
}

Expected<std::vector<Athlete>> Library::athletes() const
{
    return all<Athlete>(
        m_database.run(QStringLiteral("SELECT %1 FROM athlete ORDER BY name COLLATE NOCASE, id").arg(kAthleteColumns)),
        readAthlete);
}

Expected<std::vector<FilmingDay>> Library::days(AthleteId id) const
{
    return all<FilmingDay>(
        m_database.run(QStringLiteral("SELECT %1 FROM filming_day WHERE athlete=? ORDER BY date DESC, id DESC").arg(kDayColumns),
                       {qlonglong(id.value)}),
        readDay);
}

Expected<std::vector<Clip>> Library::clips(DayId id) const
{
    return all<Clip>(
        m_database.run(QStringLiteral("SELECT %1 FROM clip WHERE day=? ORDER BY id").arg(kClipColumns), {qlonglong(id.value)}),
        readClip);
}

Expected<Athlete> Library::athlete(AthleteId id) const
{
    return only(all<Athlete>(m_database.run(QStringLiteral("SELECT %1 FROM athlete WHERE id=?").arg(kAthleteColumns),
                                            {qlonglong(id.value)}),
                             readAthlete),
                "athlete", m_database.file());
}

Expected<FilmingDay> Library::day(DayId id) const
{
    return only(all<FilmingDay>(m_database.run(QStringLiteral("SELECT %1 FROM filming_day WHERE id=?").arg(kDayColumns),
                                               {qlonglong(id.value)}),
                                readDay),
                "filming day", m_database.file());
}

Expected<Clip> Library::clip(ClipId id) const
{
    return only(
        all<Clip>(m_database.run(QStringLiteral("SELECT %1 FROM clip WHERE id=?").arg(kClipColumns), {qlonglong(id.value)}),
                  readClip),
        "clip", m_database.file());
}

Expected<std::vector<Repetition>> Library::repetitions(ClipId id) const
{
    return all<Repetition>(
        m_database.run(QStringLiteral("SELECT %1 FROM repetition WHERE clip=? ORDER BY first_frame, id").arg(kRepetitionColumns),
                       {qlonglong(id.value)}),
        readRepetition);
}

Expected<Repetition> Library::repetition(RepetitionId id) const
{
    return only(all<Repetition>(m_database.run(QStringLiteral("SELECT %1 FROM repetition WHERE id=?").arg(kRepetitionColumns),
                                               {qlonglong(id.value)}),
                                readRepetition),
                "repetition", m_database.file());
}

Expected<std::optional<RepetitionId>> Library::otherSide(RepetitionId id) const
{
    return m_database
        .run(QStringLiteral("SELECT other.id FROM repetition other JOIN repetition this"
                            " ON other.id = this.other_side OR other.other_side = this.id WHERE this.id=?"),
             {qlonglong(id.value)})
        .map([](QSqlQuery q) { return q.next() ? std::optional(RepetitionId(q.value(0).toLongLong())) : std::nullopt; });
}

Expected<void> Library::setOtherSide(RepetitionId id, std::optional<RepetitionId> other)
{
    return inTransaction(m_database, [&] {
        return nothing(m_database.run(QStringLiteral("UPDATE repetition SET other_side=NULL WHERE id=? OR other_side=?"),
                                      {qlonglong(id.value), qlonglong(id.value)}))
            .and_then([&] {
                return nothing(m_database.run(QStringLiteral("UPDATE repetition SET other_side=? WHERE id=?"),
                                              {other ? QVariant(qlonglong(other->value)) : QVariant(), qlonglong(id.value)}));
            });
    });
}

Expected<RepetitionRecord> Library::record(const Repetition& repetition) const
{
    auto happened = events(repetition.id);
    if (!happened)
        return tl::unexpected(happened.error());
    return answers(repetition.id).map([&](std::map<std::string, std::string> given) {
        return RepetitionRecord{repetition, std::move(*happened), std::move(given)};
    });
}

Expected<std::vector<RepetitionRecord>> Library::repetitionRecords(ClipId id) const
{
    const auto list = repetitions(id);
    if (!list)
        return tl::unexpected(list.error());
    std::vector<RepetitionRecord> whole;
    for (const auto& r : *list) {
        auto repetitionRecord = record(r);
        if (!repetitionRecord)
            return tl::unexpected(repetitionRecord.error());
        whole.push_back(std::move(*repetitionRecord));
    }
    return whole;
}

Expected<ClipRecord> Library::record(const Clip& clip) const
{
    auto list = repetitionRecords(clip.id);
    if (!list)
        return tl::unexpected(list.error());
    ClipRecord whole{clip, std::move(*list), {}};
    return marks(clip.id).map([&](std::vector<Mark> found) {
        whole.marks = std::move(found);
        return std::move(whole);
    });
}

Expected<DayRecord> Library::record(const FilmingDay& day) const
{
    const auto list = clips(day.id);
    if (!list)
        return tl::unexpected(list.error());
    DayRecord whole{day, {}};
    for (const auto& c : *list) {
        auto clipRecord = record(c);
        if (!clipRecord)
            return tl::unexpected(clipRecord.error());
        whole.clips.push_back(std::move(*clipRecord));
    }
    return whole;
}

Expected<AthleteRecord> Library::record(const Athlete& athlete) const
{
    const auto list = days(athlete.id);
    if (!list)
        return tl::unexpected(list.error());
    AthleteRecord whole{athlete, {}};
    for (const auto& d : *list) {
        auto dayRecord = record(d);
        if (!dayRecord)
            return tl::unexpected(dayRecord.error());
        whole.days.push_back(std::move(*dayRecord));
    }
    return whole;
}

Expected<Marking> Library::marking(ClipId id) const
{
    const auto c = clip(id);
    if (!c)
        return tl::unexpected(c.error());
    return only(repetitions(id), "repetition", m_database.file()).and_then([this](const Repetition& r) { return marking(r.id); });
}

Expected<Marking> Library::marking(RepetitionId id) const
{
    const auto r = repetition(id);
    if (!r)
        return tl::unexpected(r.error());
    const auto c = clip(r->clip);
    if (!c)
        return tl::unexpected(c.error());
    auto happened = events(id);
    if (!happened)
        return tl::unexpected(happened.error());
    auto given = answers(id);
    if (!given)
        return tl::unexpected(given.error());
    auto marked = marks(r->clip);
    if (!marked)
        return tl::unexpected(marked.error());
    const auto d = day(c->day);
    if (!d)
        return tl::unexpected(d.error());
    const auto who = athlete(d->athlete);
    if (!who)
        return tl::unexpected(who.error());
    Marking m;
    m.film = c->film;
    m.film.file = filmPath(*c);
    m.clock = c->clock;
    m.scene = c->scene;
    m.athlete = {who->hand, who->heightMetres, ageOn(who->birthDate, d->date)};
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

Expected<void> Library::insert(const AthleteRecord& r)
{
    const Athlete& a = r.athlete;
    if (auto done = m_database.run(QStringLiteral("INSERT INTO athlete (%1) VALUES (?,?,?,?,?,?,?)").arg(kAthleteColumns),
                                   {idOrNull(a.id.value), text(a.name), text(a.birthDate), text(wordOf(a.hand)),
                                    number(a.heightMetres), a.guardianConsent, linesOf(a.notYetTaught)});
        !done)
        return tl::unexpected(done.error());
    for (const auto& d : r.days)
        if (auto done = insert(d); !done)
            return done;
    return {};
}

Expected<void> Library::insert(const DayRecord& r)
{
    const FilmingDay& d = r.day;
    if (auto done =
            m_database.run(QStringLiteral("INSERT INTO filming_day (%1) VALUES (?,?,?,?,?)").arg(kDayColumns),
                           {idOrNull(d.id.value), qlonglong(d.athlete.value), text(d.date), text(d.skill), text(d.school)});
        !done)
        return tl::unexpected(done.error());
    for (const auto& c : r.clips)
        if (auto done = insert(c); !done)
            return done;
    return {};
}

Expected<void> Library::insert(const ClipRecord& r)
{
    m_known.reset();
    const Clip& c = r.clip;
    const auto inserted = m_database.run(QStringLiteral("INSERT INTO clip (%1) VALUES (?,?,?,?,?,?,?,?,?,?)").arg(kClipColumns),
                                         {idOrNull(c.id.value), qlonglong(c.day.value), text(c.file), text(c.contentHash),
                                          c.film.width, c.film.height, qlonglong(c.film.frames), c.clock.capture,
                                          c.clock.playback, text(toJson(c.scene).dump())});
    if (!inserted)
        return tl::unexpected(inserted.error());
    const ClipId id(inserted->lastInsertId().toLongLong());
    for (auto repetition : r.repetitions) {
        repetition.repetition.clip = id;
        if (auto done = insert(repetition); !done)
            return done;
    }
    for (const auto& m : r.marks)
        if (auto done = insertMark(id, m); !done)
            return done;
    return {};
}

Expected<void> Library::insert(const RepetitionRecord& record)
{
    const Repetition& r = record.repetition;
    const auto inserted = m_database.run(
        QStringLiteral("INSERT INTO repetition (%1) VALUES (?,?,?,?,?,?,?,?,?,?,?)").arg(kRepetitionColumns),
        {idOrNull(r.id.value), qlonglong(r.clip.value), qlonglong(r.first.value), qlonglong(r.last.value), text(r.name),
         text(r.variant), text(r.kind), r.isLive, text(r.outcome), number(r.ballSpeed), idOrNull(r.otherSide.value)});
    if (!inserted)
        return tl::unexpected(inserted.error());
    const RepetitionId id(inserted->lastInsertId().toLongLong());
    for (const auto& e : record.events)
        if (auto done = insertEvent(id, e); !done)
            return done;
    for (const auto& [observation, choice] : record.answers)
        if (auto done = insertAnswer(id, observation, choice); !done)
            return done;
    return {};
}

namespace {

/// Runs an insertion in a transaction and gives the id of the row it began with.
template <class Id, class Insert> Expected<Id> added(const Database& database, Insert insert, const QString& table)
{
    Id id;
    const auto done = inTransaction(database, [&]() -> Expected<void> {
        if (const Expected<void> inserted = insert(); !inserted)
            return inserted;
        return database.run(QStringLiteral("SELECT seq FROM sqlite_sequence WHERE name=?"), {table}).map([&](QSqlQuery q) {
            if (q.next())
                id = Id(q.value(0).toLongLong());
        });
    });
    if (!done)
        return tl::unexpected(done.error());
    return id;
}

} // namespace

Expected<AthleteId> Library::add(const Athlete& a)
{
    return added<AthleteId>(
        m_database,
        [&] {
            return insert(AthleteRecord{a, {}});
        },
        QStringLiteral("athlete"));
}
Expected<DayId> Library::add(const FilmingDay& d)
{
    return added<DayId>(
        m_database,
        [&] {
            return insert(DayRecord{d, {}});
        },
        QStringLiteral("filming_day"));
}
Expected<ClipId> Library::add(const Clip& c, const std::string& variant)
{
    Repetition whole;
    whole.last = FrameIndex(std::max<std::int64_t>(0, c.film.frames - 1));
    whole.variant = variant;
    return added<ClipId>(
        m_database,
        [&] {
            return insert(ClipRecord{c, {{whole, {}}}, {}});
        },
        QStringLiteral("clip"));
}
Expected<RepetitionId> Library::add(const Repetition& r)
{
    return added<RepetitionId>(
        m_database,
        [&] {
            return insert(RepetitionRecord{r, {}, {}});
        },
        QStringLiteral("repetition"));
}

Expected<void> Library::save(const Athlete& a)
{
    return inTransaction(m_database, [&] {
        return nothing(
            m_database.run(QStringLiteral("UPDATE athlete SET name=?, birth_date=?, hand=?, height_metres=?, guardian_consent=?,"
                                          " not_yet_taught=? WHERE id=?"),
                           {text(a.name), text(a.birthDate), text(wordOf(a.hand)), number(a.heightMetres), a.guardianConsent,
                            linesOf(a.notYetTaught), qlonglong(a.id.value)}));
    });
}

Expected<void> Library::save(const FilmingDay& d)
{
    return inTransaction(m_database, [&] {
        return nothing(m_database.run(QStringLiteral("UPDATE filming_day SET date=?, skill=?, school=? WHERE id=?"),
                                      {text(d.date), text(d.skill), text(d.school), qlonglong(d.id.value)}));
    });
}

Expected<void> Library::update(const Clip& c)
{
    return nothing(
        m_database.run(QStringLiteral("UPDATE clip SET file=?, content_hash=?, width=?, height=?, frames=?, capture_rate=?,"
                                      " playback_rate=?, scene=? WHERE id=?"),
                       {text(c.file), text(c.contentHash), c.film.width, c.film.height, qlonglong(c.film.frames), c.clock.capture,
                        c.clock.playback, text(toJson(c.scene).dump()), qlonglong(c.id.value)}));
}

Expected<void> Library::save(const Clip& c)
{
    return inTransaction(m_database, [&] { return update(c); });
}

Expected<void> Library::save(const Repetition& r)
{
    return inTransaction(m_database, [&] {
        return nothing(m_database.run(
            QStringLiteral("UPDATE repetition SET first_frame=?, last_frame=?, name=?, variant=?, kind=?, is_live=?, outcome=?,"
                           " ball_speed=?, other_side=? WHERE id=?"),
            {qlonglong(r.first.value), qlonglong(r.last.value), text(r.name), text(r.variant), text(r.kind), r.isLive,
             text(r.outcome), number(r.ballSpeed), idOrNull(r.otherSide.value), qlonglong(r.id.value)}));
    });
}

Expected<AthleteRecord> Library::take(AthleteId id)
{
    auto whole = athlete(id).and_then([this](const Athlete& a) { return record(a); });
    if (!whole)
        return whole;
    return inTransaction(
               m_database,
               [&] { return nothing(m_database.run(QStringLiteral("DELETE FROM athlete WHERE id=?"), {qlonglong(id.value)})); })
        .map([&] { return std::move(*whole); });
}

Expected<DayRecord> Library::take(DayId id)
{
    auto whole = day(id).and_then([this](const FilmingDay& d) { return record(d); });
    if (!whole)
        return whole;
    return inTransaction(m_database,
                         [&] {
                             return nothing(
                                 m_database.run(QStringLiteral("DELETE FROM filming_day WHERE id=?"), {qlonglong(id.value)}));
                         })
        .map([&] { return std::move(*whole); });
}

Expected<ClipRecord> Library::take(ClipId id)
{
    auto whole = clip(id).and_then([this](const Clip& c) { return record(c); });
    if (!whole)
        return whole;
    return inTransaction(
               m_database,
               [&] { return nothing(m_database.run(QStringLiteral("DELETE FROM clip WHERE id=?"), {qlonglong(id.value)})); })
        .map([&] { return std::move(*whole); });
}

Expected<RepetitionRecord> Library::take(RepetitionId id)
{
    auto whole = repetition(id).and_then([this](const Repetition& r) { return record(r); });
    if (!whole)
        return whole;
    if (const auto list = repetitions(whole->repetition.clip); list && list->size() == 1)
        return fail(ErrorCode::BadArgument, "A clip keeps at least one repetition; remove the clip instead.", m_database.file());
    return inTransaction(m_database,
                         [&] {
                             return nothing(
                                 m_database.run(QStringLiteral("DELETE FROM repetition WHERE id=?"), {qlonglong(id.value)}));
                         })
        .map([&] { return std::move(*whole); });
}

Expected<std::vector<RepetitionId>> Library::setRepetitions(ClipId clip, const std::vector<RepetitionRecord>& records)
{
    if (records.empty())
        return fail(ErrorCode::BadArgument, "A clip needs at least one repetition.");
    std::vector<RepetitionId> ids;
    return inTransaction(
               m_database,
               [&]() -> Expected<void> {
                   auto done =
                       nothing(m_database.run(QStringLiteral("DELETE FROM repetition WHERE clip=?"), {qlonglong(clip.value)}));
                   for (auto r : records) {
                       r.repetition.clip = clip;
                       if (done)
                           done = insert(r);
                       if (!done)
                           return done;
                       auto id =
                           m_database.run(QStringLiteral("SELECT max(id) FROM repetition WHERE clip=?"), {qlonglong(clip.value)});
                       if (!id)
                           return tl::unexpected(id.error());
                       ids.push_back(r.repetition.id.isValid() || !id->next() ? r.repetition.id
                                                                              : RepetitionId(id->value(0).toLongLong()));
                   }
                   return done;
               })
        .map([&] { return ids; });
}

Expected<void> Library::restore(const AthleteRecord& r)
{
    return inTransaction(m_database, [&] { return insert(r); });
}
Expected<void> Library::restore(const DayRecord& r)
{
    return inTransaction(m_database, [&] { return insert(r); });
}
Expected<void> Library::restore(const ClipRecord& r)
{
    return inTransaction(m_database, [&] { return insert(r); });
}
Expected<void> Library::restore(const RepetitionRecord& r)
{
    return inTransaction(m_database, [&] { return insert(r); });
}

Expected<std::optional<KnownFilm>> Library::knownFilm(const std::string& contentHash) const
{
    return m_database
        .run(QStringLiteral("SELECT bytes, modified, film_index FROM film WHERE content_hash=?"), {text(contentHash)})
        .map([](QSqlQuery q) -> std::optional<KnownFilm> {
            if (!q.next())
                return std::nullopt;
            return KnownFilm{q.value(0).toLongLong(), q.value(1).toLongLong(), q.value(2).toByteArray().toStdString()};
        });
}

Expected<void> Library::setKnownFilm(const std::string& contentHash, const KnownFilm& film)
{
    return inTransaction(m_database, [&] {
        return nothing(m_database.run(
            QStringLiteral("INSERT OR REPLACE INTO film VALUES (?,?,?,?)"),
            {text(contentHash), qlonglong(film.bytes), qlonglong(film.modified), QByteArray::fromStdString(film.index)}));
    });
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
