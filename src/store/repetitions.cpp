#include "store/repetitions.h"

#include "store/db/rows.h"

namespace kestrel::store {

namespace {

const QString kColumns =
    QStringLiteral("id, clip, first_frame, last_frame, name, variant, kind, is_live, outcome, ball_speed, other_side");
/// Of the day on which a repetition lies.
const QString kSkill = QStringLiteral("(SELECT d.skill FROM repetition r JOIN clip c ON c.id = r.clip"
                                      " JOIN filming_day d ON d.id = c.day WHERE r.id=?)");

RepetitionRow read(const QSqlQuery& q)
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

Expected<std::vector<RepetitionRow>> Repetitions::of(ClipId id) const
{
    return all<RepetitionRow>(
        m_database->run(QStringLiteral("SELECT %1 FROM repetition WHERE clip=? ORDER BY first_frame, id").arg(kColumns),
                        {qlonglong(id.value)}),
        read);
}

Expected<RepetitionRow> Repetitions::find(RepetitionId id) const
{
    return only(
        all<RepetitionRow>(
            m_database->run(QStringLiteral("SELECT %1 FROM repetition WHERE id=?").arg(kColumns), {qlonglong(id.value)}), read),
        "repetition", m_database->file());
}

Expected<void> Repetitions::insert(const RepetitionRow& r, RepetitionId& id)
{
    return idOf(
        m_database->run(QStringLiteral("INSERT INTO repetition (uuid, id, clip, first_frame, last_frame, name, variant, kind,"
                                       " is_live, outcome, ball_speed, other_side) VALUES (?,?,?,?,?,?,?,?,?,?,?,?)"),
                        {newUuid(), idOrNull(r.id.value), qlonglong(r.clip.value), qlonglong(r.first.value),
                         qlonglong(r.last.value), text(r.name), text(r.variant), text(r.kind), r.isLive, text(r.outcome),
                         number(r.ballSpeed), idOrNull(r.secondCamera.value)}),
        id);
}

Expected<RepetitionId> Repetitions::add(const RepetitionRow& r)
{
    return added<RepetitionId>(*m_database, [&](RepetitionId& id) { return insert(r, id); });
}

Expected<void> Repetitions::save(const RepetitionRow& r)
{
    return inTransaction(*m_database, [&] {
        return nothing(m_database->run(
            QStringLiteral("UPDATE repetition SET first_frame=?, last_frame=?, name=?, variant=?, kind=?, is_live=?, outcome=?,"
                           " ball_speed=?, other_side=? WHERE id=?"),
            {qlonglong(r.first.value), qlonglong(r.last.value), text(r.name), text(r.variant), text(r.kind), r.isLive,
             text(r.outcome), number(r.ballSpeed), idOrNull(r.secondCamera.value), qlonglong(r.id.value)}));
    });
}

Expected<std::vector<Event>> Repetitions::events(RepetitionId id) const
{
    return all<Event>(
        m_database->run(QStringLiteral("SELECT key_position, frame, uncertainty_frames, source FROM event WHERE repetition=?"
                                       " AND skill = ") +
                            kSkill + QStringLiteral(" ORDER BY frame, key_position"),
                        {qlonglong(id.value), qlonglong(id.value)}),
        [](const QSqlQuery& q) {
            return Event{string(q, 0), FramePosition(q.value(1).toDouble()), q.value(2).toDouble(), word(q, 3, findSource)};
        });
}

Expected<std::map<std::string, std::string>> Repetitions::answers(RepetitionId id) const
{
    return m_database
        ->run(QStringLiteral("SELECT observation, choice FROM answer WHERE repetition=? AND skill = ") + kSkill,
              {qlonglong(id.value), qlonglong(id.value)})
        .map([](QSqlQuery q) {
            std::map<std::string, std::string> found;
            while (q.next())
                found[string(q, 0)] = string(q, 1);
            return found;
        });
}

Expected<void> Repetitions::insertEvent(RepetitionId id, const Event& e)
{
    return nothing(m_database->run(
        QStringLiteral("INSERT OR REPLACE INTO event (repetition, skill, key_position, frame, uncertainty_frames, source)"
                       " VALUES (?, ") +
            kSkill + QStringLiteral(", ?, ?, ?, ?)"),
        {qlonglong(id.value), qlonglong(id.value), text(e.keyPosition), e.frame.value, e.uncertaintyFrames,
         text(wordOf(e.source))}));
}

Expected<void> Repetitions::insertAnswer(RepetitionId id, const std::string& observation, const std::string& choice)
{
    return nothing(
        m_database->run(QStringLiteral("INSERT OR REPLACE INTO answer (repetition, skill, observation, choice) VALUES (?, ") +
                            kSkill + QStringLiteral(", ?, ?)"),
                        {qlonglong(id.value), qlonglong(id.value), text(observation), text(choice)}));
}

Expected<void> Repetitions::setEvent(RepetitionId id, const std::string& keyPosition, const std::optional<Event>& e)
{
    return inTransaction(*m_database, [&]() -> Expected<void> {
        if (e)
            return insertEvent(id, *e);
        return nothing(
            m_database->run(QStringLiteral("DELETE FROM event WHERE repetition=? AND key_position=? AND skill = ") + kSkill,
                            {qlonglong(id.value), text(keyPosition), qlonglong(id.value)}));
    });
}

Expected<void> Repetitions::setAnswer(RepetitionId id, const std::string& observation, const std::optional<std::string>& choice)
{
    return inTransaction(*m_database, [&]() -> Expected<void> {
        if (choice)
            return insertAnswer(id, observation, *choice);
        return nothing(
            m_database->run(QStringLiteral("DELETE FROM answer WHERE repetition=? AND observation=? AND skill = ") + kSkill,
                            {qlonglong(id.value), text(observation), qlonglong(id.value)}));
    });
}

Expected<std::vector<RepetitionRecord>> Repetitions::records(ClipId id) const
{
    const auto list = of(id);
    if (!list)
        return tl::unexpected(list.error());
    std::vector<RepetitionRecord> whole;
    for (const auto& r : *list) {
        auto happened = events(r.id);
        auto given = answers(r.id);
        if (!happened || !given)
            return tl::unexpected(happened ? given.error() : happened.error());
        whole.push_back({r, std::move(*happened), std::move(*given)});
    }
    return whole;
}

/// A row that is there is changed where it stands, so that what belongs to it of other skills stays.
Expected<void> Repetitions::put(RepetitionRecord record, RepetitionId& id)
{
    const bool isThere = record.repetition.id.isValid() && find(record.repetition.id);
    id = record.repetition.id;
    auto done = isThere ? save(record.repetition) : insert(record.repetition, id);
    for (const auto* table : {"event", "answer"})
        if (done && isThere)
            done = nothing(m_database->run(
                QStringLiteral("DELETE FROM %1 WHERE repetition=? AND skill = ").arg(QLatin1String(table)) + kSkill,
                {qlonglong(id.value), qlonglong(id.value)}));
    for (const auto& e : record.events)
        if (done)
            done = insertEvent(id, e);
    for (const auto& [observation, choice] : record.answers)
        if (done)
            done = insertAnswer(id, observation, choice);
    return done;
}

Expected<std::vector<RepetitionId>> Repetitions::replace(ClipId clip, const std::vector<RepetitionRecord>& records)
{
    if (records.empty())
        return fail(ErrorCode::BadArgument, "A clip needs at least one repetition.");
    std::vector<RepetitionId> ids;
    return inTransaction(*m_database,
                         [&]() -> Expected<void> {
                             const auto present = of(clip);
                             if (!present)
                                 return tl::unexpected(present.error());
                             for (const auto& p : *present) {
                                 const bool stays = std::any_of(records.begin(), records.end(),
                                                                [&](const auto& r) { return r.repetition.id == p.id; });
                                 if (stays)
                                     continue;
                                 if (auto gone = nothing(m_database->run(QStringLiteral("DELETE FROM repetition WHERE id=?"),
                                                                         {qlonglong(p.id.value)}));
                                     !gone)
                                     return gone;
                             }
                             for (auto record : records) {
                                 record.repetition.clip = clip;
                                 RepetitionId id;
                                 if (auto done = put(std::move(record), id); !done)
                                     return done;
                                 ids.push_back(id);
                             }
                             return {};
                         })
        .map([&] { return ids; });
}

Expected<std::optional<RepetitionId>> Repetitions::secondCamera(RepetitionId id) const
{
    return m_database
        ->run(QStringLiteral("SELECT other.id FROM repetition other JOIN repetition this"
                             " ON other.id = this.other_side OR other.other_side = this.id"
                             " JOIN clip a ON a.id = this.clip JOIN clip b ON b.id = other.clip AND b.day = a.day"
                             " WHERE this.id=?"),
              {qlonglong(id.value)})
        .map([](QSqlQuery q) { return q.next() ? std::optional(RepetitionId(q.value(0).toLongLong())) : std::nullopt; });
}

Expected<void> Repetitions::setSecondCamera(RepetitionId id, std::optional<RepetitionId> other)
{
    return inTransaction(*m_database, [&] {
        return nothing(m_database->run(QStringLiteral("UPDATE repetition SET other_side=NULL WHERE id=? OR other_side=?"),
                                       {qlonglong(id.value), qlonglong(id.value)}))
            .and_then([&] {
                return nothing(m_database->run(QStringLiteral("UPDATE repetition SET other_side=? WHERE id=?"),
                                               {other ? QVariant(qlonglong(other->value)) : QVariant(), qlonglong(id.value)}));
            });
    });
}

} // namespace kestrel::store
