#include "app/bench/auto_marker.h"

#include "app/shell/settings.h"
#include "core/pack/pack_folder.h"

#include <set>

namespace kestrel::app {

namespace {

constexpr double kEarly = 0.05; // done; before that nothing can be said about the time left

} // namespace

/// What is worked on, as it was when it began.
struct AutoMarker::Work {
    store::Clip clip;
    store::RepetitionId repetition;
    Marking marking;
    FrameClock clock;
    Pack pack;
    std::string film;
    FrameIndex first, last;
    bool isWholeClip = false; ///< the clip has been split into no repetitions yet
};

AutoMarker::AutoMarker(Workspace& workspace, Bench& bench, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_bench(bench)
{
}

AutoMarker::~AutoMarker()
{
    m_stop.request_stop();
}

std::optional<double> AutoMarker::secondsLeft() const
{
    if (!m_isRunning || m_share < kEarly)
        return std::nullopt;
    return static_cast<double>(m_since.elapsed()) / 1000 * (1 - m_share) / m_share;
}

AutoMarker::Work AutoMarker::workHere() const
{
    return {m_bench.context.clip(),
            m_bench.context.repetition().id,
            m_bench.context.marking(),
            m_bench.player.clock(),
            *m_bench.context.pack(),
            m_bench.context.filmPath(),
            m_bench.context.repetition().first,
            m_bench.context.repetition().last,
            m_bench.context.repetitions().size() == 1};
}

void AutoMarker::begin()
{
    m_stop = {};
    m_isRunning = true;
    m_share = 0;
    m_since.start();
    emit changed();
}

/// To be called from any thread.
AutoMarker::Progress AutoMarker::progressHere()
{
    return [this, alive = QPointer<AutoMarker>(this)](std::int64_t done, std::int64_t of) {
        QMetaObject::invokeMethod(
            qApp,
            [this, alive, share = static_cast<double>(done) / static_cast<double>(std::max<std::int64_t>(of, 1))] {
                if (!alive || share <= m_share)
                    return;
                m_share = share;
                emit changed();
            },
            Qt::QueuedConnection);
    };
}

void AutoMarker::end()
{
    m_isRunning = false;
    emit changed();
}

void AutoMarker::giveUp(const Error& error)
{
    end();
    if (error.code != ErrorCode::Cancelled)
        emit message(QString::fromStdString(error.text()));
}

/// What was found is thousands of rows: they are stored in the background as well.
void AutoMarker::keep(const QString& text, Workspace::Work redo, Workspace::Work undo, const QString& said)
{
    m_workspace.editLater(text, std::move(redo), std::move(undo), [this, said, alive = QPointer<AutoMarker>(this)](bool stored) {
        if (!alive)
            return;
        end();
        if (stored)
            emit message(said);
    });
}

void AutoMarker::follow(const Landmark& landmark)
{
    if (m_isRunning) {
        emit message(tr("The program is still marking. Press K when it is done, and this point is followed."));
        return;
    }
    if (!m_bench.player.isOpen() || !m_bench.context.pack())
        return;
    const auto work = std::make_shared<const Work>(workHere());
    std::vector<vision::Seed> seeds;
    for (const auto& m : work->marking.marks)
        if (m.landmark == landmark && m.source == Source::Coach && m.frame >= work->first && m.frame <= work->last)
            seeds.push_back({m.frame, m.at});
    if (seeds.empty()) {
        emit message(tr("Mark the point yourself on one picture first: drag it to where it is. From there it is followed."));
        return;
    }
    begin();
    vision::FollowOptions options{work->first, work->last, m_bench.player.index(), progressHere(), m_stop.get_token()};
    Background::run(
        this, [work, seeds, options](std::stop_token) { return vision::followPoint(work->film, seeds, options); },
        [this, work, landmark](const Expected<std::vector<vision::Followed>>& trajectory) {
            applyTrajectory(*work, landmark, trajectory);
        });
}

void AutoMarker::applyTrajectory(const Work& work, const Landmark& landmark,
                                 const Expected<std::vector<vision::Followed>>& trajectory)
{
    if (!trajectory)
        return giveUp(trajectory.error());
    store::ProgramWork before{work.first, work.last, {}, {}, {}, landmark}, after = before;
    std::copy_if(work.marking.marks.begin(), work.marking.marks.end(), std::back_inserter(before.marks), [&](const Mark& m) {
        return m.landmark == landmark && m.source != Source::Coach && m.frame >= work.first && m.frame <= work.last;
    });
    for (const auto& p : *trajectory)
        after.marks.push_back({p.frame, landmark, p.at, p.sigma, Source::Tracked, true});
    const QString name = plainName(landmark, work.marking.athlete.hand, &work.pack);
    const auto change = [id = work.clip.id, repetition = work.repetition](const store::ProgramWork& w) {
        return [=](store::Library& l) { return l.marks().setProgramWork(id, repetition, w); };
    };
    const auto pictures = work.last.value - work.first.value + 1;
    keep(tr("follow %1").arg(name), change(after), change(before),
         after.marks.empty()
             ? tr("%1 could not be followed: there is nothing on the picture to hold on to.").arg(name)
             : tr("%1 is followed on %2 of %3 pictures. Drag it where it is wrong: it is followed anew from there.")
                   .arg(name, QString::number(after.marks.size()), QString::number(pictures)));
}

void AutoMarker::start(const std::optional<vision::PlayerBox>& player)
{
    if (m_isRunning || !m_bench.player.isOpen() || !m_bench.context.pack())
        return;
    const auto work = std::make_shared<const Work>(workHere());
    begin();
    vision::TrackOptions options;
    options.models = shippedFolder("models");
    options.body = Settings::bodyNetwork();
    options.first = work->first;
    options.last = work->last;
    options.player = player;
    options.knownIndex = m_bench.player.index();
    options.progress = progressHere();
    options.stop = m_stop.get_token();
    // stopped by its own token, so that what is done by then comes back
    Background::run(
        this,
        [work, options](std::stop_token) {
            return vision::markFilm(work->film, work->pack, work->marking, work->clock, options, work->isWholeClip);
        },
        [this, work](const Expected<vision::MarkedFilm>& found) { apply(*work, found); });
}

void AutoMarker::stop()
{
    m_stop.request_stop();
}

namespace {

store::RepetitionRecord recordOf(const vision::SeenRepetition& seen)
{
    store::RepetitionRecord record;
    record.repetition.first = seen.frames.first;
    record.repetition.last = seen.frames.last;
    record.events = seen.events;
    return record;
}

store::RepetitionRecord& nearest(std::vector<store::RepetitionRecord>& records, FramePosition at)
{
    const auto away = [at](const store::RepetitionRecord& r) {
        return std::max({static_cast<double>(r.repetition.first.value) - at.value,
                         at.value - static_cast<double>(r.repetition.last.value), 0.0});
    };
    return *std::min_element(records.begin(), records.end(), [&](const auto& a, const auto& b) { return away(a) < away(b); });
}

/// In the place of the program's.
void giveEvent(store::RepetitionRecord& record, const Event& event)
{
    std::erase_if(record.events, [&](const Event& e) { return e.keyPosition == event.keyPosition; });
    record.events.push_back(event);
}

} // namespace

int AutoMarker::repetitionsSeen() const
{
    const bool isThere =
        m_bench.context.isOpen() && m_bench.context.clip().id == m_seenOn && m_bench.context.repetitions().size() == 1;
    return isThere ? static_cast<int>(m_seen.size()) : 0;
}

void AutoMarker::split()
{
    if (repetitionsSeen() < 2)
        return;
    const auto clip = m_seenOn;
    const auto before = m_workspace.library().repetitions().records(clip);
    if (!before)
        return;
    const store::RepetitionRecord& whole = before->front();
    auto after = std::make_shared<std::vector<store::RepetitionRecord>>(m_seen);
    for (auto& record : *after) { // the one that was there is the first of them, and the others are like it
        const FrameRange span{record.repetition.first, record.repetition.last};
        const bool isFirst = &record == &after->front();
        if (isFirst)
            record.repetition = whole.repetition;
        record.repetition.variant = whole.repetition.variant;
        record.repetition.first = span.first;
        record.repetition.last = span.last;
    }
    after->front().answers = whole.answers;
    for (const auto& e : whole.events)
        if (e.source == Source::Coach)
            giveEvent(nearest(*after, e.frame), e);
    m_workspace.edit(
        tr("split into repetitions"),
        [=](store::Library& l) -> Expected<void> {
            return l.repetitions().replace(clip, *after).map([&](const std::vector<store::RepetitionId>& ids) {
                for (std::size_t i = 0; i < ids.size(); ++i)
                    (*after)[i].repetition.id = ids[i]; // done again, they are the same ones
            });
        },
        [=, records = *before](store::Library& l) -> Expected<void> {
            return l.repetitions().replace(clip, records).map([](const auto&) {});
        });
}

void AutoMarker::apply(const Work& work, const Expected<vision::MarkedFilm>& found)
{
    if (!found)
        return giveUp(found.error());
    store::ProgramWork before{work.first, work.last, {}, {}, {}, {}}, after = before;
    std::copy_if(work.marking.marks.begin(), work.marking.marks.end(), std::back_inserter(before.marks),
                 [&](const Mark& m) { return m.source > Source::Tracked && m.frame >= work.first && m.frame <= work.last; });
    after.marks = found->marks;
    std::set<std::int64_t> done; // stopped early, what programs marked before on the other pictures stays
    for (const auto& m : found->marks)
        done.insert(m.frame.value);
    if (found->looked < found->of)
        std::copy_if(before.marks.begin(), before.marks.end(), std::back_inserter(after.marks),
                     [&](const Mark& m) { return done.count(m.frame.value) == 0; });
    std::size_t proposed = 0;
    for (const auto& e : vision::proposalsOf(found->positions)) {
        const Event* present = findEvent(work.marking, e.keyPosition);
        if (present && present->source == Source::Coach)
            continue;
        ++proposed;
        before.events[e.keyPosition] = present ? std::optional(*present) : std::nullopt;
        after.events[e.keyPosition] = e;
    }
    const auto clip = m_workspace.library().clips().find(work.clip.id); // as it is now: the coach may have gone on
    const bool takesScale = found->scale && clip && !clip->scene.scale;
    if (takesScale) {
        before.clip = after.clip = *clip;
        after.clip->scene.scale = found->scale;
    }
    const auto change = [id = work.clip.id, repetition = work.repetition](const store::ProgramWork& w) {
        return [=](store::Library& l) { return l.marks().setProgramWork(id, repetition, w); };
    };
    const auto take = [=, id = work.clip.id, repetition = work.repetition](store::Library& l) -> Expected<void> {
        store::ProgramWork now = after; // the coach may have drawn a scale in the meantime
        if (const auto present = l.clips().find(id); now.clip && present) {
            now.clip = *present;
            if (!now.clip->scene.scale)
                now.clip->scene.scale = after.clip->scene.scale;
        }
        return l.marks().setProgramWork(id, repetition, now);
    };
    m_seenOn = work.clip.id;
    m_seen.clear();
    if (found->repetitions.size() > 1)
        for (const auto& seen : found->repetitions)
            m_seen.push_back(recordOf(seen));
    QString text = tr("The body is marked on %1 of %2 pictures").arg(found->seen).arg(found->of);
    if (proposed == 1)
        text += tr(", a key position proposed: drag it or press its number to make it yours");
    else if (proposed > 1)
        text += tr(", %1 key positions proposed: drag one or press its number to make it yours").arg(proposed);
    if (takesScale)
        text += tr("; the scale is from the athlete's height");
    if (const int seen = repetitionsSeen())
        text += tr("; %1 repetitions are seen: the arrow beside \u201cMark for me\u201d splits the clip into them").arg(seen);
    text += QLatin1Char('.');
    const bool isRight = work.marking.athlete.hand == Hand::Right;
    if (found->fasterHand && (*found->fasterHand == BodySide::Right) != isRight)
        text += isRight ? tr(" The left hand is plainly the faster one: is the film mirrored, or the athlete left-handed?")
                        : tr(" The right hand is plainly the faster one: is the film mirrored, or the athlete right-handed?");
    for (const auto doubt : found->doubts)
        text += QLatin1Char(' ') + QString::fromStdString(vision::textOf(doubt));
    keep(tr("mark for me"), take, change(before), text);
}

} // namespace kestrel::app
