#include "store/db/migrations.h"

namespace kestrel::store {

namespace {

/// A random one (version 4) for every row.
QString fillUuid(const QString& table)
{
    return QStringLiteral("UPDATE %1 SET uuid = lower(hex(randomblob(4)) || '-' || hex(randomblob(2)) || '-4' ||"
                          " substr(hex(randomblob(2)), 2) || '-' || substr('89ab', 1 + (abs(random()) % 4), 1) ||"
                          " substr(hex(randomblob(2)), 2) || '-' || hex(randomblob(6)))")
        .arg(table);
}

} // namespace

const std::vector<QStringList>& migrations()
{
    static const std::vector<QStringList> all{
        {
            QStringLiteral(
                "CREATE TABLE athlete (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL, birth_date TEXT NOT NULL,"
                " hand TEXT NOT NULL, height_metres REAL, guardian_consent INTEGER NOT NULL)"),
            QStringLiteral(
                "CREATE TABLE filming_day (id INTEGER PRIMARY KEY AUTOINCREMENT,"
                " athlete INTEGER NOT NULL REFERENCES athlete(id) ON DELETE CASCADE, date TEXT NOT NULL, skill TEXT NOT NULL)"),
            QStringLiteral("CREATE TABLE clip (id INTEGER PRIMARY KEY AUTOINCREMENT,"
                           " day INTEGER NOT NULL REFERENCES filming_day(id) ON DELETE CASCADE, file TEXT NOT NULL, content_hash "
                           "TEXT NOT NULL,"
                           " variant TEXT NOT NULL, width INTEGER NOT NULL, height INTEGER NOT NULL, frames INTEGER NOT NULL,"
                           " capture_rate REAL NOT NULL, playback_rate REAL NOT NULL, scene TEXT NOT NULL)"),
            QStringLiteral(
                "CREATE TABLE event (clip INTEGER NOT NULL REFERENCES clip(id) ON DELETE CASCADE, key_position TEXT NOT NULL,"
                " frame REAL NOT NULL, uncertainty_frames REAL NOT NULL, source TEXT NOT NULL, PRIMARY KEY (clip, "
                "key_position))"),
            QStringLiteral(
                "CREATE TABLE mark (clip INTEGER NOT NULL REFERENCES clip(id) ON DELETE CASCADE, frame INTEGER NOT NULL,"
                " landmark TEXT NOT NULL, x REAL NOT NULL, y REAL NOT NULL, sigma REAL NOT NULL, source TEXT NOT NULL,"
                " visible INTEGER NOT NULL, PRIMARY KEY (clip, frame, landmark))"),
            QStringLiteral("CREATE INDEX filming_day_of_athlete ON filming_day(athlete, date)"),
            QStringLiteral("CREATE INDEX clip_of_day ON clip(day)"),
        },
        {
            QStringLiteral("ALTER TABLE filming_day ADD COLUMN school TEXT NOT NULL DEFAULT ''"),
        },
        {
            // several repetitions in one clip; what was a clip's becomes its first repetition's
            QStringLiteral("CREATE TABLE repetition (id INTEGER PRIMARY KEY AUTOINCREMENT,"
                           " clip INTEGER NOT NULL REFERENCES clip(id) ON DELETE CASCADE, first_frame INTEGER NOT NULL,"
                           " last_frame INTEGER NOT NULL, name TEXT NOT NULL, variant TEXT NOT NULL, kind TEXT NOT NULL,"
                           " is_live INTEGER NOT NULL, outcome TEXT NOT NULL, ball_speed REAL)"),
            QStringLiteral("CREATE INDEX repetition_of_clip ON repetition(clip, first_frame)"),
            QStringLiteral("INSERT INTO repetition (clip, first_frame, last_frame, name, variant, kind, is_live, outcome)"
                           " SELECT id, 0, max(0, frames - 1), '', variant, '', 1, '' FROM clip"),
            QStringLiteral("ALTER TABLE clip DROP COLUMN variant"),
            QStringLiteral("ALTER TABLE event RENAME TO event_of_clip"),
            QStringLiteral("CREATE TABLE event (repetition INTEGER NOT NULL REFERENCES repetition(id) ON DELETE CASCADE,"
                           " key_position TEXT NOT NULL, frame REAL NOT NULL, uncertainty_frames REAL NOT NULL,"
                           " source TEXT NOT NULL, PRIMARY KEY (repetition, key_position))"),
            QStringLiteral("INSERT INTO event SELECT r.id, e.key_position, e.frame, e.uncertainty_frames, e.source"
                           " FROM event_of_clip e JOIN repetition r ON r.clip = e.clip"),
            QStringLiteral("DROP TABLE event_of_clip"),
            QStringLiteral("CREATE TABLE film (content_hash TEXT PRIMARY KEY, bytes INTEGER NOT NULL,"
                           " modified INTEGER NOT NULL, film_index BLOB NOT NULL)"),
        },
        {
            QStringLiteral("CREATE TABLE answer (repetition INTEGER NOT NULL REFERENCES repetition(id) ON DELETE CASCADE,"
                           " observation TEXT NOT NULL, choice TEXT NOT NULL, PRIMARY KEY (repetition, observation))"),
        },
        {
            // one "skill/fault" a line
            QStringLiteral("ALTER TABLE athlete ADD COLUMN not_yet_taught TEXT NOT NULL DEFAULT ''"),
        },
        {
            // no foreign key: it outlives a removal that is undone; ids are never used twice
            QStringLiteral("ALTER TABLE repetition ADD COLUMN other_side INTEGER"),
        },
        {
            // names that hold in every library, so that an athlete can move to another one
            QStringLiteral("ALTER TABLE athlete ADD COLUMN uuid TEXT NOT NULL DEFAULT ''"),
            fillUuid(QStringLiteral("athlete")),
            QStringLiteral("CREATE UNIQUE INDEX uuid_of_athlete ON athlete(uuid)"),
            QStringLiteral("ALTER TABLE filming_day ADD COLUMN uuid TEXT NOT NULL DEFAULT ''"),
            fillUuid(QStringLiteral("filming_day")),
            QStringLiteral("CREATE UNIQUE INDEX uuid_of_filming_day ON filming_day(uuid)"),
            QStringLiteral("ALTER TABLE clip ADD COLUMN uuid TEXT NOT NULL DEFAULT ''"),
            fillUuid(QStringLiteral("clip")),
            QStringLiteral("CREATE UNIQUE INDEX uuid_of_clip ON clip(uuid)"),
            QStringLiteral("ALTER TABLE repetition ADD COLUMN uuid TEXT NOT NULL DEFAULT ''"),
            fillUuid(QStringLiteral("repetition")),
            QStringLiteral("CREATE UNIQUE INDEX uuid_of_repetition ON repetition(uuid)"),
            // what the intake asks; whoever threw with a hand batted with it until now
            QStringLiteral("ALTER TABLE athlete ADD COLUMN bat_hand TEXT NOT NULL DEFAULT ''"),
            QStringLiteral("UPDATE athlete SET bat_hand = hand"),
            QStringLiteral("ALTER TABLE athlete ADD COLUMN level TEXT NOT NULL DEFAULT ''"),
            QStringLiteral("ALTER TABLE athlete ADD COLUMN goal TEXT NOT NULL DEFAULT ''"),
            QStringLiteral("ALTER TABLE athlete ADD COLUMN kit TEXT NOT NULL DEFAULT ''"),
            QStringLiteral("ALTER TABLE athlete ADD COLUMN space TEXT NOT NULL DEFAULT ''"),
            QStringLiteral("ALTER TABLE athlete ADD COLUMN practice_days TEXT NOT NULL DEFAULT ''"),
            QStringLiteral("ALTER TABLE athlete ADD COLUMN consent_date TEXT NOT NULL DEFAULT ''"),
            QStringLiteral("CREATE TABLE height (athlete INTEGER NOT NULL REFERENCES athlete(id) ON DELETE CASCADE,"
                           " date TEXT NOT NULL, metres REAL NOT NULL, PRIMARY KEY (athlete, date))"),
            QStringLiteral("INSERT INTO height (athlete, date, metres) SELECT id, coalesce((SELECT max(d.date) FROM filming_day d"
                           " WHERE d.athlete = athlete.id), date('now')), height_metres FROM athlete"
                           " WHERE height_metres IS NOT NULL"),
            QStringLiteral("ALTER TABLE athlete DROP COLUMN height_metres"),
            QStringLiteral("ALTER TABLE filming_day ADD COLUMN hand_use TEXT NOT NULL DEFAULT 'throwing'"),
            QStringLiteral("ALTER TABLE filming_day ADD COLUMN kind TEXT NOT NULL DEFAULT ''"),
            QStringLiteral("ALTER TABLE filming_day ADD COLUMN note TEXT NOT NULL DEFAULT ''"),
            QStringLiteral("ALTER TABLE filming_day ADD COLUMN pain TEXT NOT NULL DEFAULT ''"),
            // what was placed and answered for one skill waits there while the day is of another one
            QStringLiteral("ALTER TABLE event RENAME TO event_of_any"),
            QStringLiteral("CREATE TABLE event (repetition INTEGER NOT NULL REFERENCES repetition(id) ON DELETE CASCADE,"
                           " skill TEXT NOT NULL, key_position TEXT NOT NULL, frame REAL NOT NULL,"
                           " uncertainty_frames REAL NOT NULL, source TEXT NOT NULL,"
                           " PRIMARY KEY (repetition, skill, key_position))"),
            QStringLiteral("INSERT INTO event (repetition, skill, key_position, frame, uncertainty_frames, source)"
                           " SELECT e.repetition, d.skill, e.key_position, e.frame, e.uncertainty_frames, e.source"
                           " FROM event_of_any e JOIN repetition r ON r.id = e.repetition JOIN clip c ON c.id = r.clip"
                           " JOIN filming_day d ON d.id = c.day"),
            QStringLiteral("DROP TABLE event_of_any"),
            QStringLiteral("ALTER TABLE answer RENAME TO answer_of_any"),
            QStringLiteral("CREATE TABLE answer (repetition INTEGER NOT NULL REFERENCES repetition(id) ON DELETE CASCADE,"
                           " skill TEXT NOT NULL, observation TEXT NOT NULL, choice TEXT NOT NULL,"
                           " PRIMARY KEY (repetition, skill, observation))"),
            QStringLiteral("INSERT INTO answer (repetition, skill, observation, choice)"
                           " SELECT a.repetition, d.skill, a.observation, a.choice"
                           " FROM answer_of_any a JOIN repetition r ON r.id = a.repetition JOIN clip c ON c.id = r.clip"
                           " JOIN filming_day d ON d.id = c.day"),
            QStringLiteral("DROP TABLE answer_of_any"),
            QStringLiteral("CREATE TABLE kept_variant (repetition INTEGER NOT NULL REFERENCES repetition(id) ON DELETE CASCADE,"
                           " skill TEXT NOT NULL, variant TEXT NOT NULL, PRIMARY KEY (repetition, skill))"),
            // rises whenever a clip's marks change: what readings are kept by
            QStringLiteral("CREATE TABLE marks_revision (clip INTEGER PRIMARY KEY REFERENCES clip(id) ON DELETE CASCADE,"
                           " revision INTEGER NOT NULL)"),
            QStringLiteral(
                "CREATE TABLE kept_reading (repetition INTEGER PRIMARY KEY REFERENCES repetition(id) ON DELETE CASCADE,"
                " reading_key TEXT NOT NULL, readings TEXT NOT NULL)"),
        },
        {
            QStringLiteral("ALTER TABLE filming_day ADD COLUMN side TEXT NOT NULL DEFAULT ''"),
        },
        {
            // content as in a marking's "drawings"
            QStringLiteral("CREATE TABLE drawing (id INTEGER PRIMARY KEY AUTOINCREMENT,"
                           " repetition INTEGER NOT NULL REFERENCES repetition(id) ON DELETE CASCADE, uuid TEXT NOT NULL,"
                           " content TEXT NOT NULL)"),
            QStringLiteral("CREATE INDEX drawing_of_repetition ON drawing(repetition)"),
            QStringLiteral("CREATE UNIQUE INDEX uuid_of_drawing ON drawing(uuid)"),
            QStringLiteral("CREATE TABLE sent (id INTEGER PRIMARY KEY AUTOINCREMENT,"
                           " day INTEGER NOT NULL REFERENCES filming_day(id) ON DELETE CASCADE, uuid TEXT NOT NULL,"
                           " date TEXT NOT NULL, kind TEXT NOT NULL, name TEXT NOT NULL, review TEXT NOT NULL,"
                           " content BLOB NOT NULL)"),
            QStringLiteral("CREATE INDEX sent_of_day ON sent(day)"),
            QStringLiteral("CREATE TABLE walk (day INTEGER PRIMARY KEY REFERENCES filming_day(id) ON DELETE CASCADE,"
                           " content TEXT NOT NULL)"),
        },
        {
            QStringLiteral("ALTER TABLE athlete ADD COLUMN team TEXT NOT NULL DEFAULT ''"),
            QStringLiteral("CREATE TABLE book_day (athlete INTEGER NOT NULL REFERENCES athlete(id) ON DELETE CASCADE,"
                           " date TEXT NOT NULL, content TEXT NOT NULL, PRIMARY KEY (athlete, date))"),
            QStringLiteral("CREATE TABLE cleared (athlete INTEGER NOT NULL REFERENCES athlete(id) ON DELETE CASCADE,"
                           " date TEXT NOT NULL, region TEXT NOT NULL)"),
            QStringLiteral("CREATE INDEX cleared_of_athlete ON cleared(athlete)"),
            QStringLiteral("CREATE TABLE plan (id INTEGER PRIMARY KEY AUTOINCREMENT, uuid TEXT NOT NULL,"
                           " athlete INTEGER NOT NULL REFERENCES athlete(id) ON DELETE CASCADE, content TEXT NOT NULL)"),
            QStringLiteral("CREATE INDEX plan_of_athlete ON plan(athlete)"),
            QStringLiteral(
                "CREATE TABLE match_log (id INTEGER PRIMARY KEY AUTOINCREMENT, uuid TEXT NOT NULL, content TEXT NOT NULL)"),
        },
        {
            QStringLiteral("CREATE TABLE page_picture (day INTEGER PRIMARY KEY REFERENCES filming_day(id) ON DELETE CASCADE,"
                           " file TEXT NOT NULL, words TEXT NOT NULL)"),
        },
    };
    return all;
}

Expected<int> schemaVersion(const Database& database)
{
    return database.run(QStringLiteral("PRAGMA user_version")).map([](QSqlQuery q) { return q.next() ? q.value(0).toInt() : 0; });
}

Expected<void> migrate(const Database& database, int toVersion)
{
    const auto version = schemaVersion(database);
    if (!version)
        return tl::unexpected(version.error());
    if (*version < 0) // nobody gave it that
        return fail(ErrorCode::WrongVersion, "This is not a library of Jolly Kestrel; nothing was changed.", database.file());
    if (*version > toVersion)
        return fail(ErrorCode::WrongVersion,
                    "The library was made by a newer Jolly Kestrel (library version " + std::to_string(*version) +
                        ", this one knows " + std::to_string(toVersion) + "); nothing was changed. Update the program.",
                    database.file());
    for (int v = *version; v < toVersion; ++v) {
        Transaction transaction(database);
        for (const auto& statement : migrations()[static_cast<std::size_t>(v)])
            if (const auto done = database.run(statement); !done)
                return tl::unexpected(done.error());
        if (const auto done = database.run(QStringLiteral("PRAGMA user_version = %1").arg(v + 1)); !done)
            return tl::unexpected(done.error());
        if (const auto done = transaction.commit(); !done)
            return done;
    }
    return {};
}

} // namespace kestrel::store
