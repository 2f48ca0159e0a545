#include "app/auto_marker.h"

#include "core/pack_folder.h"
#include "vision/body_marks.h"
#include "vision/propose.h"

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
};

struct AutoMarker::Found {
    std::vector<Mark> marks;
    std::vector<Event> events;
    std::optional<Scale> scale;
    std::int64_t seen = 0, of = 0, looked = 0;
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

void AutoMarker::start(const std::optional<vision::PlayerBox>& player)
{
    if (m_isRunning || !m_session.hasFilm() || !m_session.pack())
        return;
    auto work = std::make_shared<Work>(Work{m_session.clip(), m_session.repetition().id, m_session.marking(), m_session.clock(),
                                            *m_session.pack(), m_session.filmPath(), m_session.repetition().first,
                                            m_session.repetition().last});
    vision::TrackOptions options;
    options.models = shippedFolder("models");
    options.first = work->first;
    options.last = work->last;
    options.player = player;
    options.knownIndex = m_session.filmIndex();
    m_stop = {};
    options.stop = m_stop.get_token();
    options.progress = [this, alive = QPointer<AutoMarker>(this)](std::int64_t done, std::int64_t of) {
        QMetaObject::invokeMethod(
            qApp,
            [this, alive, share = static_cast<double>(done) / static_cast<double>(of)] {
                if (!alive || share <= m_share)
                    return;
                m_share = share;
                emit changed();
            },
            Qt::QueuedConnection);
    };
    m_isRunning = true;
    m_share = 0;
    m_since.start();
    emit changed();
    // stopped by its own token, so that what is done by then comes back
    Background::run(
        this, [work, options](std::stop_token) { return mark(*work, options); },
        [this, work](const Expected<Found>& found) { take(*work, found); });
}

void AutoMarker::stop()
{
    m_stop.request_stop();
}

/// On another thread.
Expected<AutoMarker::Found> AutoMarker::mark(const Work& work, const vision::TrackOptions& options)
{
    const auto track = vision::trackPose(work.film, options);
    if (!track)
        return tl::unexpected(track.error());
    Found found;
    found.seen = track->seen();
    found.of = static_cast<std::int64_t>(track->poses.size());
    found.looked = track->looked;
    found.marks = vision::bodyMarks(*track, work.clock);
    Marking whole = work.marking;
    if (!whole.scene.scale && whole.athlete.heightMetres) {
        found.scale = vision::scaleFromHeight(found.marks, *whole.athlete.heightMetres);
        whole.scene.scale = found.scale;
    }
    std::set<std::pair<std::int64_t, Landmark>> own; // what the coach marked stays
    std::erase_if(whole.marks,
                  [&](const Mark& m) { return m.frame < work.first || m.frame > work.last || m.source != Source::Coach; });
    for (const auto& m : whole.marks)
        own.emplace(m.frame.value, m.landmark);
    for (const auto& m : found.marks)
        if (own.count({m.frame.value, m.landmark}) == 0)
            whole.marks.push_back(m);
    if (found.looked == found.of) // half a film has other extremes
        for (const auto& d : vision::proposeKeyPositions(work.pack, whole, work.clock))
            if (const Event* e = findEvent(work.marking, d.keyPosition); d.frame && (!e || e->source != Source::Coach))
                found.events.push_back({d.keyPosition, *d.frame, d.uncertaintyFrames, Source::Network});
    return found;
}

void AutoMarker::take(const Work& work, const Expected<Found>& found)
{
    m_isRunning = false;
    emit changed();
    if (!found) {
        if (found.error().code != ErrorCode::Cancelled)
            emit message(QString::fromStdString(found.error().text()));
        return;
    }
    store::ProgramWork before{work.first, work.last, {}, {}, {}}, after{work.first, work.last, {}, {}, {}};
    std::copy_if(work.marking.marks.begin(), work.marking.marks.end(), std::back_inserter(before.marks),
                 [&](const Mark& m) { return m.source != Source::Coach && m.frame >= work.first && m.frame <= work.last; });
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
    if (!m_workspace.edit(tr("mark for me"), change(after), change(before)))
        return;
    QString text = tr("The body is marked on %1 of %2 pictures").arg(found->seen).arg(found->of);
    if (found->events.size() == 1)
        text += tr(", a key position proposed: drag it or press its number to make it yours");
    else if (!found->events.empty())
        text += tr(", %1 key positions proposed: drag one or press its number to make it yours").arg(found->events.size());
    if (takesScale)
        text += tr("; the scale is from the athlete's height");
    emit message(text + QLatin1Char('.'));
}

} // namespace kestrel::app
