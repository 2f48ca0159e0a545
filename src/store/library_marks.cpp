// What lies on a clip: key positions, answers and marks.

#include "store/library.h"
#include "store/rows.h"

#include <algorithm>
#include <unordered_map>

namespace kestrel::store {

Expected<std::vector<Event>> Library::events(RepetitionId id) const
{
    return all<Event>(
        m_database.run(QStringLiteral("SELECT key_position, frame, uncertainty_frames, source FROM event WHERE repetition=?"
                                      " ORDER BY frame, key_position"),
                       {qlonglong(id.value)}),
        [](const QSqlQuery& q) {
            return Event{string(q, 0), FramePosition(q.value(1).toDouble()), q.value(2).toDouble(), word(q, 3, findSource)};
        });
}

Expected<std::map<std::string, std::string>> Library::answers(RepetitionId id) const
{
    return m_database.run(QStringLiteral("SELECT observation, choice FROM answer WHERE repetition=?"), {qlonglong(id.value)})
        .map([](QSqlQuery q) {
            std::map<std::string, std::string> found;
            while (q.next())
                found[string(q, 0)] = string(q, 1);
            return found;
        });
}

Expected<std::vector<Mark>> Library::marks(ClipId id) const
{
    auto version = m_database.run(QStringLiteral("PRAGMA data_version"));
    const qlonglong now = version && version->next() ? version->value(0).toLongLong() : -1;
    if (!m_known || m_known->clip != id || m_known->version != now) {
        auto read = readMarks(id);
        if (!read)
            return read;
        m_known = KnownMarks{id, now, std::move(*read)};
    }
    return m_known->marks;
}

Expected<std::vector<Mark>> Library::readMarks(ClipId id) const
{
    auto query = m_database.run(
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
void Library::takeKnown(ClipId clip, FrameIndex frame, const Landmark& landmark, const std::optional<Mark>& mark)
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

Expected<void> Library::insertAnswer(RepetitionId id, const std::string& observation, const std::string& choice)
{
    return nothing(m_database.run(QStringLiteral("INSERT OR REPLACE INTO answer VALUES (?,?,?)"),
                                  {qlonglong(id.value), text(observation), text(choice)}));
}

Expected<void> Library::insertEvent(RepetitionId id, const Event& e)
{
    return nothing(
        m_database.run(QStringLiteral("INSERT OR REPLACE INTO event VALUES (?,?,?,?,?)"),
                       {qlonglong(id.value), text(e.keyPosition), e.frame.value, e.uncertaintyFrames, text(wordOf(e.source))}));
}

Expected<void> Library::insertMark(ClipId id, const Mark& m)
{
    return nothing(m_database.run(QStringLiteral("INSERT OR REPLACE INTO mark VALUES (?,?,?,?,?,?,?,?)"),
                                  {qlonglong(id.value), qlonglong(m.frame.value), text(nameOf(m.landmark)), m.at.x, m.at.y,
                                   m.sigma, text(wordOf(m.source)), m.visible}));
}

Expected<void> Library::setEvent(RepetitionId id, const std::string& keyPosition, const std::optional<Event>& e)
{
    return inTransaction(m_database, [&]() -> Expected<void> {
        if (e)
            return insertEvent(id, *e);
        return nothing(m_database.run(QStringLiteral("DELETE FROM event WHERE repetition=? AND key_position=?"),
                                      {qlonglong(id.value), text(keyPosition)}));
    });
}

Expected<void> Library::setAnswer(RepetitionId id, const std::string& observation, const std::optional<std::string>& choice)
{
    return inTransaction(m_database, [&]() -> Expected<void> {
        if (choice)
            return insertAnswer(id, observation, *choice);
        return nothing(m_database.run(QStringLiteral("DELETE FROM answer WHERE repetition=? AND observation=?"),
                                      {qlonglong(id.value), text(observation)}));
    });
}

Expected<void> Library::setMark(ClipId id, FrameIndex frame, const Landmark& landmark, const std::optional<Mark>& m)
{
    auto done = inTransaction(m_database, [&]() -> Expected<void> {
        if (m)
            return insertMark(id, *m);
        return nothing(m_database.run(QStringLiteral("DELETE FROM mark WHERE clip=? AND frame=? AND landmark=?"),
                                      {qlonglong(id.value), qlonglong(frame.value), text(nameOf(landmark))}));
    });
    if (done)
        takeKnown(id, frame, landmark, m);
    return done;
}

Expected<void> Library::setProgramWork(ClipId id, RepetitionId repetition, const ProgramWork& work)
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
    return inTransaction(m_database, [&]() -> Expected<void> {
        // what was followed from the coach's marks is replaced alone, and stays when the body is marked
        const QString narrower = work.landmark ? QStringLiteral("landmark=?") : QStringLiteral("source<>?");
        const QString which = work.landmark ? text(nameOf(*work.landmark)) : text(wordOf(Source::Tracked));
        auto done = nothing(m_database.run(
            QStringLiteral("DELETE FROM mark WHERE clip=? AND source<>? AND frame BETWEEN ? AND ? AND ") + narrower,
            {qlonglong(id.value), coach, qlonglong(work.first.value), qlonglong(work.last.value), which}));
        if (done && !work.marks.empty())
            done = m_database.runMany(QStringLiteral("INSERT OR IGNORE INTO mark VALUES (?,?,?,?,?,?,?,?)"),
                                      {clips, frames, landmarks, xs, ys, sigmas, sources, visible});
        const auto placed = events(repetition);
        if (!placed)
            return tl::unexpected(placed.error());
        for (const auto& [keyPosition, event] : work.events) {
            const auto present =
                std::find_if(placed->begin(), placed->end(), [&](const Event& e) { return e.keyPosition == keyPosition; });
            if (!done || (present != placed->end() && present->source == Source::Coach))
                continue;
            done = event ? insertEvent(repetition, *event)
                         : nothing(m_database.run(QStringLiteral("DELETE FROM event WHERE repetition=? AND key_position=?"),
                                                  {qlonglong(repetition.value), text(keyPosition)}));
        }
        return done && work.clip ? update(*work.clip) : done;
    });
}

Expected<void> Library::addMarking(ClipId id, const Marking& added)
{
    auto whole = clip(id).and_then([this](const Clip& c) { return record(c); });
    if (!whole)
        return tl::unexpected(whole.error());
    m_known.reset();
    Marking present; // setEvent and setMark never put a program's work in the place of a coach's
    const RepetitionId first = whole->repetitions.front().repetition.id;
    present.events = whole->repetitions.front().events;
    present.marks = whole->marks;
    return inTransaction(m_database, [&]() -> Expected<void> {
        for (const auto& e : added.events)
            if (kestrel::setEvent(present, e))
                if (auto done = insertEvent(first, e); !done)
                    return done;
        for (const auto& m : added.marks)
            if (kestrel::setMark(present, m))
                if (auto done = insertMark(id, m); !done)
                    return done;
        return {};
    });
}

} // namespace kestrel::store
