#include "store/clips.h"

#include "core/scene/marking_json.h"
#include "store/db/rows.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <unordered_map>

namespace kestrel::store {

namespace {

const QString kColumns = QStringLiteral("id, day, file, content_hash, width, height, frames, capture_rate, playback_rate, scene");

Clip read(const QSqlQuery& q)
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

} // namespace

Expected<std::vector<Clip>> Clips::of(DayId id) const
{
    return all<Clip>(
        m_database->run(QStringLiteral("SELECT %1 FROM clip WHERE day=? ORDER BY id").arg(kColumns), {qlonglong(id.value)}),
        read);
}

Expected<Clip> Clips::find(ClipId id) const
{
    return only(
        all<Clip>(m_database->run(QStringLiteral("SELECT %1 FROM clip WHERE id=?").arg(kColumns), {qlonglong(id.value)}), read),
        "clip", m_database->file());
}

Expected<std::vector<ClipSummary>> Clips::summaries(DayId id) const
{
    const auto clips = of(id);
    if (!clips)
        return tl::unexpected(clips.error());
    std::vector<ClipSummary> list;
    std::unordered_map<qlonglong, std::size_t> placeOf; // clip -> place in the list
    for (const auto& c : *clips) {
        placeOf[c.id.value] = list.size();
        list.push_back({c, 0, {}, {}});
    }
    auto repetitions =
        m_database->run(QStringLiteral("SELECT r.id, r.clip, r.variant FROM repetition r JOIN clip c ON c.id = r.clip"
                                       " WHERE c.day=? ORDER BY r.clip, r.first_frame, r.id"),
                        {qlonglong(id.value)});
    if (!repetitions)
        return tl::unexpected(repetitions.error());
    std::unordered_map<qlonglong, std::size_t> firstOf; // first repetition of a clip -> its place
    while (repetitions->next()) {
        const auto place = placeOf.find(repetitions->value(1).toLongLong());
        if (place == placeOf.end())
            continue;
        ClipSummary& summary = list[place->second];
        if (summary.repetitions++ == 0) {
            summary.variant = string(*repetitions, 2);
            firstOf[repetitions->value(0).toLongLong()] = place->second;
        }
    }
    auto events = m_database->run(
        QStringLiteral("SELECT e.repetition, e.key_position, e.frame, e.uncertainty_frames, e.source FROM event e"
                       " JOIN repetition r ON r.id = e.repetition JOIN clip c ON c.id = r.clip JOIN filming_day d ON d.id = c.day"
                       " WHERE d.id=? AND e.skill = d.skill ORDER BY e.frame"),
        {qlonglong(id.value)});
    if (!events)
        return tl::unexpected(events.error());
    while (events->next())
        if (const auto place = firstOf.find(events->value(0).toLongLong()); place != firstOf.end())
            list[place->second].events.push_back({string(*events, 1), FramePosition(events->value(2).toDouble()),
                                                  events->value(3).toDouble(), word(*events, 4, findSource)});
    return list;
}

Expected<ClipId> Clips::add(const Clip& c, const std::string& variant)
{
    return added<ClipId>(*m_database, [&](ClipId& id) -> Expected<void> {
        return idOf(m_database->run(QStringLiteral("INSERT INTO clip (uuid, day, file, content_hash, width, height, frames,"
                                                   " capture_rate, playback_rate, scene) VALUES (?,?,?,?,?,?,?,?,?,?)"),
                                    {newUuid(), qlonglong(c.day.value), text(c.file), text(c.contentHash), c.film.width,
                                     c.film.height, qlonglong(c.film.frames), c.clock.capture, c.clock.playback,
                                     text(toJson(c.scene).dump())}),
                    id)
            .and_then([&] {
                return nothing(m_database->run(
                    QStringLiteral("INSERT INTO repetition (uuid, clip, first_frame, last_frame, name, variant, kind, is_live,"
                                   " outcome) VALUES (?,?,0,?,'',?,'',1,'')"),
                    {newUuid(), qlonglong(id.value), qlonglong(std::max<std::int64_t>(0, c.film.frames - 1)), text(variant)}));
            });
    });
}

Expected<void> Clips::save(const Clip& c, const std::string& usualVariant)
{
    return inTransaction(*m_database, [&]() -> Expected<void> {
        const auto before = find(c.id);
        if (!before)
            return tl::unexpected(before.error());
        auto done = nothing(m_database->run(
            QStringLiteral("UPDATE clip SET day=?, file=?, content_hash=?, width=?, height=?, frames=?, capture_rate=?,"
                           " playback_rate=?, scene=? WHERE id=?"),
            {qlonglong(c.day.value), text(c.file), text(c.contentHash), c.film.width, c.film.height, qlonglong(c.film.frames),
             c.clock.capture, c.clock.playback, text(toJson(c.scene).dump()), qlonglong(c.id.value)}));
        return done && before->day != c.day ? follow(before->day, c, usualVariant) : done;
    });
}

Expected<void> Clips::follow(DayId from, const Clip& clip, const std::string& usualVariant)
{
    const auto skillOf = [this](DayId id) {
        return m_database->run(QStringLiteral("SELECT skill FROM filming_day WHERE id=?"), {qlonglong(id.value)})
            .map([](QSqlQuery q) { return q.next() ? string(q, 0) : std::string(); });
    };
    const auto before = skillOf(from), after = skillOf(clip.day);
    if (!before || !after)
        return tl::unexpected(before ? after.error() : before.error());
    const qlonglong id = clip.id.value;
    if (*before == *after)
        return {};
    return nothing(m_database->run(QStringLiteral("INSERT OR REPLACE INTO kept_variant (repetition, skill, variant)"
                                                  " SELECT id, ?, variant FROM repetition WHERE clip=?"),
                                   {text(*before), id}))
        .and_then([&] {
            return nothing(
                m_database->run(QStringLiteral("UPDATE repetition SET variant = coalesce((SELECT k.variant FROM kept_variant k"
                                               " WHERE k.repetition = repetition.id AND k.skill=?), ?) WHERE clip=?"),
                                {text(*after), text(usualVariant), id}));
        });
}

} // namespace kestrel::store
