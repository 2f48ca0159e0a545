#include "store/marks.h"

#include "store/clips.h"
#include "store/db/rows.h"
#include "store/repetitions.h"

#include <algorithm>
#include <unordered_map>

namespace kestrel::store {

namespace {

const QString kColumns = QStringLiteral("clip, frame, landmark, x, y, sigma, source, visible");

} // namespace

Expected<std::vector<Mark>> Marks::of(ClipId id) const
{
    auto version = m_database->run(QStringLiteral("PRAGMA data_version"));
    const qlonglong now = version && version->next() ? version->value(0).toLongLong() : -1;
    if (!m_known || m_known->clip != id || m_known->version != now) {
        auto marks = read(id);
        if (!marks)
            return marks;
        m_known = KnownMarks{id, now, std::move(*marks)};
    }
    return m_known->marks;
}

Expected<std::vector<Mark>> Marks::read(ClipId id) const
{
    auto query = m_database->run(
        QStringLiteral("SELECT frame, landmark, x, y, sigma, source, visible FROM mark WHERE clip=? ORDER BY frame, landmark"),
        {qlonglong(id.value)});
    if (!query)
        return tl::unexpected(query.error());
    std::unordered_map<std::string, std::optional<Landmark>> landmarks; // some thirty names, thousands of times
    std::vector<Mark> marks;
    while (query->next()) {
        const std::string name = string(*query, 1);
        auto landmark = landmarks.find(name);
        if (landmark == landmarks.end())
            landmark = landmarks.emplace(name, findLandmark(name)).first;
        if (landmark->second)
            marks.push_back({FrameIndex(query->value(0).toLongLong()),
                             *landmark->second,
                             {query->value(2).toDouble(), query->value(3).toDouble()},
                             query->value(4).toDouble(),
                             word(*query, 5, findSource),
                             query->value(6).toBool()});
    }
    return marks;
}

/// Brings what is known of a clip's marks to what was just stored.
void Marks::updateKnown(ClipId clip, FrameIndex frame, const Landmark& landmark, const std::optional<Mark>& mark)
{
    if (!m_known || m_known->clip != clip)
        return;
    auto& marks = m_known->marks;
    const std::string name = nameOf(landmark);
    const auto at = std::lower_bound(marks.begin(), marks.end(), frame, [&](const Mark& m, FrameIndex f) {
        return m.frame < f || (m.frame == f && nameOf(m.landmark) < name);
    });
    const bool isThere = at != marks.end() && at->frame == frame && at->landmark == landmark;
    if (isThere && mark)
        *at = *mark;
    else if (isThere)
        marks.erase(at);
    else if (mark)
        marks.insert(at, *mark);
}

Expected<std::int64_t> Marks::revision(ClipId id) const
{
    return m_database->run(QStringLiteral("SELECT revision FROM marks_revision WHERE clip=?"), {qlonglong(id.value)})
        .map([](QSqlQuery q) { return q.next() ? static_cast<std::int64_t>(q.value(0).toLongLong()) : 0; });
}

Expected<std::size_t> Marks::count(ClipId id) const
{
    return m_database->run(QStringLiteral("SELECT count(*) FROM mark WHERE clip=?"), {qlonglong(id.value)}).map([](QSqlQuery q) {
        return q.next() ? static_cast<std::size_t>(q.value(0).toLongLong()) : 0;
    });
}

Expected<void> Marks::bump(ClipId id)
{
    return nothing(m_database->run(QStringLiteral("INSERT OR REPLACE INTO marks_revision (clip, revision)"
                                                  " VALUES (?, (SELECT coalesce(max(revision), 0) + 1 FROM marks_revision))"),
                                   {qlonglong(id.value)}));
}

Expected<void> Marks::insert(ClipId id, const Mark& m)
{
    return nothing(m_database->run(QStringLiteral("INSERT OR REPLACE INTO mark (%1) VALUES (?,?,?,?,?,?,?,?)").arg(kColumns),
                                   {qlonglong(id.value), qlonglong(m.frame.value), text(nameOf(m.landmark)), m.at.x, m.at.y,
                                    m.sigma, text(wordOf(m.source)), m.visible}));
}

Expected<void> Marks::set(ClipId id, FrameIndex frame, const Landmark& landmark, const std::optional<Mark>& m)
{
    auto done = inTransaction(*m_database, [&]() -> Expected<void> {
        if (const auto bumped = bump(id); !bumped)
            return bumped;
        if (m)
            return insert(id, *m);
        return nothing(m_database->run(QStringLiteral("DELETE FROM mark WHERE clip=? AND frame=? AND landmark=?"),
                                       {qlonglong(id.value), qlonglong(frame.value), text(nameOf(landmark))}));
    });
    if (done)
        updateKnown(id, frame, landmark, m);
    return done;
}

Expected<void> Marks::setProgramWork(ClipId id, RepetitionId repetition, const ProgramWork& work)
{
    m_known.reset();
    const auto coach = text(wordOf(Source::Coach));
    QVariantList clips, frames, landmarks, xs, ys, sigmas, sources, visible; // one statement for thousands of rows
    for (const auto& m : work.marks) {
        if (m.source == Source::Coach)
            return fail(ErrorCode::BadArgument, "A coach's mark is not the program's to make.");
        clips << qlonglong(id.value);
        frames << qlonglong(m.frame.value);
        landmarks << text(nameOf(m.landmark));
        xs << m.at.x;
        ys << m.at.y;
        sigmas << m.sigma;
        sources << text(wordOf(m.source));
        visible << m.visible;
    }
    return inTransaction(*m_database, [&]() -> Expected<void> {
        // what was followed from the coach's marks is replaced alone, and stays when the body is marked
        const QString narrower = work.landmark ? QStringLiteral("landmark=?") : QStringLiteral("source<>?");
        const QString which = work.landmark ? text(nameOf(*work.landmark)) : text(wordOf(Source::Tracked));
        auto done = nothing(m_database->run(
            QStringLiteral("DELETE FROM mark WHERE clip=? AND source<>? AND frame BETWEEN ? AND ? AND ") + narrower,
            {qlonglong(id.value), coach, qlonglong(work.first.value), qlonglong(work.last.value), which}));
        if (done && !work.marks.empty())
            done = m_database->runMany(QStringLiteral("INSERT OR IGNORE INTO mark (%1) VALUES (?,?,?,?,?,?,?,?)").arg(kColumns),
                                       {clips, frames, landmarks, xs, ys, sigmas, sources, visible});
        if (done)
            done = bump(id);
        Repetitions repetitions(*m_database);
        const auto placed = repetitions.events(repetition);
        if (!placed)
            return tl::unexpected(placed.error());
        for (const auto& [keyPosition, event] : work.events) {
            const auto present =
                std::find_if(placed->begin(), placed->end(), [&](const Event& e) { return e.keyPosition == keyPosition; });
            if (!done || (present != placed->end() && present->source == Source::Coach))
                continue;
            done = repetitions.setEvent(repetition, keyPosition, event);
        }
        return done && work.clip ? Clips(*m_database).save(*work.clip) : done;
    });
}

Expected<void> Marks::addMarking(ClipId id, const Marking& marking)
{
    Repetitions repetitions(*m_database);
    const auto records = repetitions.records(id);
    auto marks = of(id);
    if (!records || !marks)
        return tl::unexpected(records ? marks.error() : records.error());
    if (records->empty())
        return fail(ErrorCode::NotFound, "This clip is no longer in the library.", m_database->file());
    m_known.reset();
    Marking present; // setEvent and setMark never put a program's work in the place of a coach's
    const RepetitionId first = records->front().repetition.id;
    present.events = records->front().events;
    present.marks = std::move(*marks);
    return inTransaction(*m_database, [&]() -> Expected<void> {
        for (const auto& e : marking.events)
            if (kestrel::setEvent(present, e))
                if (auto done = repetitions.setEvent(first, e.keyPosition, e); !done)
                    return done;
        for (const auto& m : marking.marks)
            if (kestrel::setMark(present, m))
                if (auto done = insert(id, m); !done)
                    return done;
        return bump(id);
    });
}

} // namespace kestrel::store
