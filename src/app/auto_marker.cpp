#include "app/auto_marker.h"

#include "app/settings.h"
#include "core/pack_folder.h"
#include "vision/body_marks.h"
#include "vision/film_marks.h"
#include "vision/find_repetitions.h"
#include "vision/propose.h"
#include "vision/scene_check.h"

#include <set>

namespace kestrel::app {

namespace {

constexpr std::int64_t kBodyParts = 3, kEquipmentParts = 2; // what finding the body takes, and what is held and flies
constexpr double kEarly = 0.05;                             // done; before that nothing can be said about the time left

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

struct AutoMarker::Found {
    std::vector<Mark> marks;
    std::vector<Event> events;
    std::optional<Scale> scale;
    std::int64_t seen = 0, of = 0, looked = 0;
    std::optional<BodySide> faster; ///< hand; empty: neither
    std::vector<vision::SceneDoubt> doubts;
    std::vector<store::RepetitionRecord> split; ///< fewer than two: it is one repetition
};

AutoMarker::AutoMarker(Workspace& workspace, BenchSession& session, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_session(session)
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
    return {m_session.clip(),
            m_session.repetition().id,
            m_session.marking(),
            m_session.clock(),
            *m_session.pack(),
            m_session.filmPath(),
            m_session.repetition().first,
            m_session.repetition().last,
            m_session.repetitions().size() == 1};
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
    if (!m_session.hasFilm() || !m_session.pack())
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
    vision::FollowOptions options{work->first, work->last, m_session.filmIndex(), progressHere(), m_stop.get_token()};
    Background::run(
        this, [work, seeds, options](std::stop_token) { return vision::followPoint(work->film, seeds, options); },
        [this, work, landmark](const Expected<std::vector<vision::Followed>>& way) { takeWay(*work, landmark, way); });
}

void AutoMarker::takeWay(const Work& work, const Landmark& landmark, const Expected<std::vector<vision::Followed>>& way)
{
    if (!way)
        return giveUp(way.error());
    store::ProgramWork before{work.first, work.last, {}, {}, {}, landmark}, after = before;
    std::copy_if(work.marking.marks.begin(), work.marking.marks.end(), std::back_inserter(before.marks), [&](const Mark& m) {
        return m.landmark == landmark && m.source != Source::Coach && m.frame >= work.first && m.frame <= work.last;
    });
    for (const auto& p : *way)
        after.marks.push_back({p.frame, landmark, p.at, p.sigma, Source::Tracked, true});
    const QString name = plainName(landmark, work.marking.athlete.hand, &work.pack);
    const auto change = [id = work.clip.id, repetition = work.repetition](const store::ProgramWork& w) {
        return [=](store::Library& l) { return l.setProgramWork(id, repetition, w); };
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
    if (m_isRunning || !m_session.hasFilm() || !m_session.pack())
        return;
    const auto work = std::make_shared<const Work>(workHere());
    begin();
    vision::TrackOptions options;
    options.models = shippedFolder("models");
    options.body = Settings::bodyNetwork();
    options.first = work->first;
    options.last = work->last;
    options.player = player;
    options.knownIndex = m_session.filmIndex();
    options.stop = m_stop.get_token();
    // stopped by its own token, so that what is done by then comes back
    Background::run(
        this, [work, options, progress = progressHere()](std::stop_token) { return mark(*work, options, progress); },
        [this, work](const Expected<Found>& found) { take(*work, found); });
}

void AutoMarker::stop()
{
    m_stop.request_stop();
}

std::vector<Event> AutoMarker::proposals(const Work& work, const Marking& whole)
{
    std::vector<Event> proposed;
    for (const auto& d : vision::proposeKeyPositions(work.pack, whole, work.clock))
        if (d.frame)
            proposed.push_back({d.keyPosition, *d.frame, d.uncertaintyFrames, Source::Network});
    return proposed;
}

/// A stretch as a repetition, with the key positions that the program finds in it.
store::RepetitionRecord AutoMarker::recordOf(const Work& work, Marking whole, const vision::FilmStretch& stretch)
{
    std::erase_if(whole.marks, [&](const Mark& m) { return m.frame < stretch.first || m.frame > stretch.last; });
    std::erase_if(whole.events, [&](const Event& e) {
        return e.frame < FramePosition(stretch.first) || e.frame > FramePosition(stretch.last);
    });
    store::RepetitionRecord record;
    record.repetition.first = stretch.first;
    record.repetition.last = stretch.last;
    record.events = proposals(work, whole);
    return record;
}

namespace {

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
    const bool isThere = m_session.isOpen() && m_session.clip().id == m_seenOn && m_session.repetitions().size() == 1;
    return isThere ? static_cast<int>(m_seen.size()) : 0;
}

void AutoMarker::split()
{
    if (repetitionsSeen() < 2)
        return;
    const auto clip = m_seenOn;
    const auto before = m_workspace.library().repetitionRecords(clip);
    if (!before)
        return;
    const store::RepetitionRecord& whole = before->front();
    auto after = std::make_shared<std::vector<store::RepetitionRecord>>(m_seen);
    for (auto& record : *after) { // the one that was there is the first of them, and the others are like it
        const vision::FilmStretch span{record.repetition.first, record.repetition.last};
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
            return l.setRepetitions(clip, *after).map([&](const std::vector<store::RepetitionId>& ids) {
                for (std::size_t i = 0; i < ids.size(); ++i)
                    (*after)[i].repetition.id = ids[i]; // done again, they are the same ones
            });
        },
        [=, records = *before](store::Library& l) -> Expected<void> {
            return l.setRepetitions(clip, records).map([](const auto&) {});
        });
}

/// On another thread.
Expected<AutoMarker::Found> AutoMarker::mark(const Work& work, vision::TrackOptions options, const Progress& progress)
{
    const std::int64_t parts = kBodyParts + (work.pack.hasEquipment() ? kEquipmentParts : 0);
    options.progress = [&](std::int64_t done, std::int64_t of) { progress(kBodyParts * done, parts * of); };
    const auto track = vision::trackPose(work.film, options);
    if (!track)
        return tl::unexpected(track.error());
    Found found;
    found.seen = track->seen();
    found.of = static_cast<std::int64_t>(track->poses.size());
    found.looked = track->looked;
    found.marks = vision::filmMarks(
        work.film, *track, work.pack, work.marking.athlete.hand, work.marking.scene.view, work.clock,
        {work.first, work.last, options.knownIndex,
         [&](std::int64_t done, std::int64_t of) { progress(kBodyParts * of + kEquipmentParts * done, parts * of); },
         options.stop});
    Marking whole = work.marking;
    if (!whole.scene.scale && whole.athlete.heightMetres) {
        found.scale = vision::scaleFromHeight(found.marks, whole.scene.view, *whole.athlete.heightMetres);
        whole.scene.scale = found.scale;
    }
    std::set<std::pair<std::int64_t, Landmark>> own; // what the coach marked, and what was followed from there, stays
    std::erase_if(whole.marks,
                  [&](const Mark& m) { return m.frame < work.first || m.frame > work.last || m.source > Source::Tracked; });
    for (const auto& m : whole.marks)
        own.emplace(m.frame.value, m.landmark);
    for (const auto& m : found.marks)
        if (own.count({m.frame.value, m.landmark}) == 0)
            whole.marks.push_back(m);
    if (whole.scene.view != View::Overhead) // from there hands are taken for feet
        found.faster = vision::fasterHand(found.marks, work.clock);
    if (found.looked < found.of) // half a film has other extremes
        return found;
    if (work.isWholeClip)
        for (const auto& stretch : vision::findRepetitions(whole.marks, work.clock))
            found.split.push_back(recordOf(work, whole, stretch));
    if (found.split.size() > 1) // between repetitions the player goes anywhere
        return found;
    found.doubts = vision::doubtsAboutScene(found.marks, work.marking.scene);
    for (const auto& proposed : proposals(work, whole))
        if (const Event* e = findEvent(work.marking, proposed.keyPosition); !e || e->source != Source::Coach)
            found.events.push_back(proposed);
    return found;
}

void AutoMarker::take(const Work& work, const Expected<Found>& found)
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
    for (const auto& e : found->events) {
        const Event* present = findEvent(work.marking, e.keyPosition);
        before.events[e.keyPosition] = present ? std::optional(*present) : std::nullopt;
        after.events[e.keyPosition] = e;
    }
    const auto clip = m_workspace.library().clip(work.clip.id); // as it is now: the coach may have gone on
    const bool takesScale = found->scale && clip && !clip->scene.scale;
    if (takesScale) {
        before.clip = after.clip = *clip;
        after.clip->scene.scale = found->scale;
    }
    const auto change = [id = work.clip.id, repetition = work.repetition](const store::ProgramWork& w) {
        return [=](store::Library& l) { return l.setProgramWork(id, repetition, w); };
    };
    const auto take = [=, id = work.clip.id, repetition = work.repetition](store::Library& l) -> Expected<void> {
        store::ProgramWork now = after; // the coach may have drawn a scale in the meantime
        if (const auto present = l.clip(id); now.clip && present) {
            now.clip = *present;
            if (!now.clip->scene.scale)
                now.clip->scene.scale = after.clip->scene.scale;
        }
        return l.setProgramWork(id, repetition, now);
    };
    m_seenOn = work.clip.id;
    m_seen = found->split.size() > 1 ? found->split : std::vector<store::RepetitionRecord>();
    QString text = tr("The body is marked on %1 of %2 pictures").arg(found->seen).arg(found->of);
    if (found->events.size() == 1)
        text += tr(", a key position proposed: drag it or press its number to make it yours");
    else if (!found->events.empty())
        text += tr(", %1 key positions proposed: drag one or press its number to make it yours").arg(found->events.size());
    if (takesScale)
        text += tr("; the scale is from the athlete's height");
    if (const int seen = repetitionsSeen())
        text += tr("; %1 repetitions are seen: the arrow beside \u201cMark for me\u201d splits the clip into them").arg(seen);
    text += QLatin1Char('.');
    const bool isRight = work.marking.athlete.hand == Hand::Right;
    if (found->faster && (*found->faster == BodySide::Right) != isRight)
        text += isRight ? tr(" The left hand is plainly the faster one: is the film mirrored, or the athlete left-handed?")
                        : tr(" The right hand is plainly the faster one: is the film mirrored, or the athlete right-handed?");
    for (const auto doubt : found->doubts)
        text += QLatin1Char(' ') + QString::fromStdString(vision::textOf(doubt));
    keep(tr("mark for me"), take, change(before), text);
}

} // namespace kestrel::app
