#include "app/bench_session.h"

#include "app/background.h"
#include "store/content_hash.h"

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr int kTickMs = 8;
constexpr double kClickSigma = 1.5; // pixels; what a careful click is worth
constexpr double kShortestLine = 8; // pixels; a shorter drag is a slip

} // namespace

BenchSession::BenchSession(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace)
{
    connect(&m_workspace, &Workspace::changed, this, &BenchSession::reload);
    connect(&m_decoder, &DecodeService::opened, this, &BenchSession::takeFilm);
    connect(&m_decoder, &DecodeService::failed, this, [this](const Error& e) {
        if (m_hasFilm) { // one picture; its neighbours may be fine
            m_damaged = m_frame;
            emit pictureReady({});
            emit message(QString::fromStdString(e.text()));
            return;
        }
        m_filmError = e;
        emit filmChanged();
    });
    connect(&m_decoder, &DecodeService::pictureReady, this,
            [this](FrameIndex, const QImage& picture) { emit pictureReady(picture); });
    m_tick.setTimerType(Qt::PreciseTimer);
    m_tick.setInterval(kTickMs);
    connect(&m_tick, &QTimer::timeout, this, &BenchSession::playOn);
}

void BenchSession::open(store::ClipId id)
{
    setPlaying(false);
    m_clip = {};
    m_clip.id = id;
    m_frame = FrameIndex(0);
    m_loop.reset();
    m_selectedMark.reset();
    m_selectedReading.clear();
    m_skipped.clear();
    m_shown.clear();
    m_hasFilm = false;
    m_damaged.reset();
    m_filmError.reset();
    m_filmWarnings.clear();
    m_tool = Tool::Look;
    reload();
    if (!isOpen())
        return;
    m_decoder.open(QString::fromStdString(m_workspace.library().filmPath(m_clip)));
    emit clipChanged();
    emit filmChanged();
    emit frameChanged();
    emit toolChanged();
}

void BenchSession::close()
{
    setPlaying(false);
    m_decoder.close();
    m_clip = {};
    m_marking = {};
    m_review = {};
    m_clock = {};
    m_hasFilm = false;
    emit clipChanged();
    emit markingChanged();
}

void BenchSession::reload()
{
    if (!isOpen())
        return;
    const auto clip = m_workspace.library().clip(m_clip.id);
    if (!clip) { // removed in the roster
        close();
        return;
    }
    const std::string before = m_clip.file;
    m_clip = *clip;
    m_day = m_workspace.valueOr(m_workspace.library().day(m_clip.day));
    m_athlete = m_workspace.valueOr(m_workspace.library().athlete(m_day.athlete));
    m_pack = m_workspace.findPack(m_day.skill);
    m_marking = m_workspace.valueOr(m_workspace.library().marking(m_clip.id));
    m_clock = m_shown.empty() ? evenClock(m_clip.film.frames, std::max(1.0, m_clip.clock.capture))
                              : FrameClock(m_shown, m_clip.clock.slowFactor());
    if (m_selectedMark && !findMark(m_marking, m_frame, *m_selectedMark))
        m_selectedMark.reset();
    if (!before.empty() && before != m_clip.file)
        m_decoder.open(QString::fromStdString(m_workspace.library().filmPath(m_clip)));
    judge();
    emit markingChanged();
}

void BenchSession::judge()
{
    if (!m_pack) {
        m_review = {};
        return;
    }
    const ReadOptions options{m_day.school, {}};
    m_review = calcReview(*m_pack, calcReadings(*m_pack, Repetition(m_marking, m_clock), options), m_marking, options);
}

void BenchSession::takeFilm(const media::FilmInfo& info)
{
    m_hasFilm = true;
    m_filmError.reset();
    m_filmWarnings = info.warnings;
    m_shown = info.shown;
    m_clock = FrameClock(m_shown, m_clip.clock.slowFactor());
    judge();
    m_frame = clamped(m_frame);
    emit filmChanged();
    emit markingChanged();
    emit frameChanged();
    wantPicture();
}

FrameIndex BenchSession::clamped(FrameIndex f) const
{
    return FrameIndex(std::clamp<std::int64_t>(f.value, 0, std::max<std::int64_t>(0, frames() - 1)));
}

void BenchSession::setFrame(FrameIndex f)
{
    f = clamped(f);
    if (f == m_frame)
        return;
    m_frame = f;
    if (m_selectedMark)
        selectMark({});
    wantPicture();
    emit frameChanged();
}

void BenchSession::wantPicture()
{
    if (!m_hasFilm)
        return;
    m_damaged.reset();
    m_decoder.want(m_frame, m_largest);
}

void BenchSession::setPictureSize(media::PixelSize largest)
{
    if (largest == m_largest)
        return;
    m_largest = largest;
    wantPicture();
}

void BenchSession::stepKeyPosition(int direction)
{
    std::optional<std::int64_t> best;
    for (const auto& e : m_marking.events) {
        const std::int64_t f = std::llround(e.frame.value);
        if (direction > 0 ? f > m_frame.value && (!best || f < *best) : f < m_frame.value && (!best || f > *best))
            best = f;
    }
    if (best)
        setFrame(FrameIndex(*best));
    else if (m_marking.events.empty())
        emit message(tr("No key position is placed yet. Stand at one and press its number."));
}

void BenchSession::goTo(const std::string& keyPosition)
{
    if (const Event* e = findEvent(m_marking, keyPosition))
        setFrame(FrameIndex(std::llround(e->frame.value)));
}

const KeyPosition* BenchSession::keyPositionHere() const
{
    if (m_pack)
        for (const auto& e : m_marking.events)
            if (std::llround(e.frame.value) == m_frame.value)
                return m_pack->findKeyPosition(e.keyPosition);
    return nullptr;
}

// ---- playing

void BenchSession::setPlaying(bool playing)
{
    if (playing == isPlaying() || (playing && !m_hasFilm))
        return;
    if (playing) {
        const FrameIndex last = m_loop ? m_loop->second : FrameIndex(frames() - 1);
        if (m_frame.value >= last.value)
            setFrame(m_loop ? m_loop->first : FrameIndex(0));
        m_playFrom = m_clock.timeOf(m_frame)->seconds;
        m_dropped = 0;
        m_playClock.start();
        m_tick.start();
    } else {
        m_tick.stop();
    }
    emit playingChanged();
}

void BenchSession::setSpeed(double speed)
{
    m_speed = speed;
    if (isPlaying()) {
        m_playFrom = m_clock.timeOf(m_frame)->seconds;
        m_playClock.restart();
    }
    emit playingChanged();
}

void BenchSession::playOn()
{
    if (m_decoder.isBusy())
        return; // the clock goes on: what cannot be decoded in time is dropped, not delayed
    const double now = m_playFrom + static_cast<double>(m_playClock.nsecsElapsed()) * 1e-9 * m_speed;
    const FrameIndex next = m_clock.frameAt({now});
    const FrameIndex last = m_loop ? m_loop->second : FrameIndex(frames() - 1);
    if (next.value >= last.value) {
        setFrame(last);
        if (!m_loop) {
            setPlaying(false);
            return;
        }
        setFrame(m_loop->first);
        m_playFrom = m_clock.timeOf(m_frame)->seconds;
        m_playClock.restart();
        return;
    }
    if (next != m_frame) {
        m_dropped += static_cast<int>(std::max<std::int64_t>(0, next.value - m_frame.value - 1));
        setFrame(next);
    }
}

void BenchSession::toggleLoop()
{
    if (m_loop) {
        m_loop.reset();
    } else {
        std::int64_t from = 0, to = frames() - 1;
        for (const auto& e : m_marking.events) {
            const std::int64_t f = std::llround(e.frame.value);
            if (f <= m_frame.value)
                from = std::max(from, f);
            else
                to = std::min(to, f);
        }
        if (to <= from)
            return;
        m_loop = {FrameIndex(from), FrameIndex(to)};
    }
    emit playingChanged();
}

// ---- marking

void BenchSession::setTool(Tool tool)
{
    if (tool == m_tool)
        return;
    m_tool = tool;
    emit toolChanged();
}

void BenchSession::editEvent(const QString& text, const std::string& id, const std::optional<Event>& after)
{
    const Event* present = findEvent(m_marking, id);
    const std::optional<Event> before = present ? std::optional(*present) : std::nullopt;
    if (before == after)
        return;
    const auto clip = m_clip.id;
    m_workspace.edit(
        text, [clip, id, after](store::Library& l) { return l.setEvent(clip, id, after); },
        [clip, id, before](store::Library& l) { return l.setEvent(clip, id, before); });
}

void BenchSession::placeKeyPosition(std::size_t ordinal)
{
    if (m_pack && ordinal < m_pack->keyPositions.size())
        moveKeyPosition(m_pack->keyPositions[ordinal].id, m_frame);
}

void BenchSession::moveKeyPosition(const std::string& id, FrameIndex f)
{
    const KeyPosition* k = m_pack ? m_pack->findKeyPosition(id) : nullptr;
    if (!k)
        return;
    f = clamped(f);
    editEvent(tr("place %1").arg(QString::fromStdString(k->name)), id,
              Event{id, FramePosition(static_cast<double>(f.value)), 0.5, Source::Coach});
    emit frameChanged(); // the key position here may have changed
}

void BenchSession::removeKeyPosition(const std::string& id)
{
    const KeyPosition* k = m_pack ? m_pack->findKeyPosition(id) : nullptr;
    editEvent(tr("remove %1").arg(QString::fromStdString(k ? k->name : id)), id, std::nullopt);
    emit frameChanged();
}

std::vector<Landmark> BenchSession::landmarksAsked(const std::string& keyPosition) const
{
    return m_pack ? landmarksAt(*m_pack, keyPosition, m_marking.scene.view, m_marking.athlete.hand, m_marking.variant, m_extent)
                  : std::vector<Landmark>{};
}

std::optional<Landmark> BenchSession::nextLandmark() const
{
    const KeyPosition* here = keyPositionHere();
    if (!here)
        return std::nullopt;
    for (const auto& l : landmarksAsked(here->id))
        if (!findMark(m_marking, m_frame, l) && !m_skipped.count({m_frame.value, l}))
            return l;
    return std::nullopt;
}

std::pair<int, int> BenchSession::guideCount() const
{
    const KeyPosition* here = keyPositionHere();
    if (!here)
        return {0, 0};
    const auto asked = landmarksAsked(here->id);
    const auto marked = std::count_if(asked.begin(), asked.end(),
                                      [this](const Landmark& l) { return findMark(m_marking, m_frame, l) != nullptr; });
    return {static_cast<int>(marked), static_cast<int>(asked.size())};
}

void BenchSession::setExtent(MarkExtent extent)
{
    if (extent == m_extent)
        return;
    m_extent = extent;
    emit toolChanged();
}

void BenchSession::skipLandmark()
{
    if (const auto l = nextLandmark()) {
        m_skipped.insert({m_frame.value, *l});
        goOn();
        emit markingChanged();
    }
}

void BenchSession::editMark(const QString& text, FrameIndex frame, const Landmark& landmark, const std::optional<Mark>& after)
{
    const Mark* present = findMark(m_marking, frame, landmark);
    const std::optional<Mark> before = present ? std::optional(*present) : std::nullopt;
    if (before == after)
        return;
    const auto clip = m_clip.id;
    m_workspace.edit(
        text, [=](store::Library& l) { return l.setMark(clip, frame, landmark, after); },
        [=](store::Library& l) { return l.setMark(clip, frame, landmark, before); });
}

void BenchSession::placeMark(ImagePoint p)
{
    const auto landmark = nextLandmark();
    if (!landmark) {
        emit message(keyPositionHere() ? tr("Everything asked for here is marked. Drag a point to correct it.")
                                       : tr("Stand at a key position first: press its number, or ↓ for the next one."));
        return;
    }
    moveMark(*landmark, p);
    goOn();
}

/// When nothing is left to mark here, on to the next key position where something is.
void BenchSession::goOn()
{
    if (nextLandmark())
        return;
    const FrameIndex start = m_frame;
    std::vector<std::int64_t> later;
    for (const auto& e : m_marking.events)
        if (std::llround(e.frame.value) > start.value)
            later.push_back(std::llround(e.frame.value));
    std::sort(later.begin(), later.end());
    for (const auto f : later) {
        setFrame(FrameIndex(f));
        if (nextLandmark())
            return;
    }
    setFrame(start);
    emit message(tr("All points are marked."));
}

void BenchSession::moveMark(const Landmark& landmark, ImagePoint p)
{
    editMark(tr("mark %1").arg(plainName(landmark, m_marking.athlete.hand)), m_frame, landmark,
             Mark{m_frame, landmark, p, kClickSigma, Source::Coach, true});
}

void BenchSession::nudgeSelected(double dx, double dy)
{
    if (!m_selectedMark)
        return;
    if (const Mark* m = findMark(m_marking, m_frame, *m_selectedMark))
        moveMark(*m_selectedMark, {m->at.x + dx, m->at.y + dy});
}

void BenchSession::removeSelected()
{
    if (!m_selectedMark)
        return;
    const Landmark l = *m_selectedMark;
    editMark(tr("remove %1").arg(plainName(l, m_marking.athlete.hand)), m_frame, l, std::nullopt);
}

void BenchSession::selectMark(std::optional<Landmark> l)
{
    if (l == m_selectedMark)
        return;
    m_selectedMark = std::move(l);
    emit selectionChanged();
}

std::vector<Mark> BenchSession::marksHere() const
{
    std::vector<Mark> here;
    std::copy_if(m_marking.marks.begin(), m_marking.marks.end(), std::back_inserter(here),
                 [this](const Mark& m) { return m.frame == m_frame; });
    return here;
}

// ---- the scene

void BenchSession::editClip(const QString& text, const store::Clip& after)
{
    const store::Clip before = m_clip;
    if (before == after)
        return;
    m_workspace.edit(
        text, [after](store::Library& l) { return l.save(after); }, [before](store::Library& l) { return l.save(before); });
}

void BenchSession::drawLine(ImagePoint from, ImagePoint to)
{
    const ImageVector d = to - from;
    if (d.length() < kShortestLine)
        return;
    store::Clip after = m_clip;
    if (m_tool == Tool::ScaleLine) {
        after.scene.scale = Scale{from, to, m_knownLength};
        editClip(tr("set the scale"), after);
    } else if (m_tool == Tool::UpLine) {
        after.scene.up = d * (1 / d.length());
        editClip(tr("set up"), after);
    } else if (m_tool == Tool::TargetLine) {
        const ImageVector right{-after.scene.up.y, after.scene.up.x};
        const double along = dot(d, right), upward = dot(d, after.scene.up);
        after.scene.target = std::abs(along) >= std::abs(upward) ? (along > 0 ? TargetDirection::Right : TargetDirection::Left)
                                                                 : (upward > 0 ? TargetDirection::Away : TargetDirection::Toward);
        editClip(tr("set the target direction"), after);
    }
    setTool(Tool::Look);
}

void BenchSession::setView(View view)
{
    store::Clip after = m_clip;
    after.scene.view = view;
    after.scene.target = usualTargetDirection(view, m_athlete.hand);
    editClip(tr("set the view"), after);
}

void BenchSession::setRates(Rates rates)
{
    store::Clip after = m_clip;
    after.clock = rates;
    editClip(tr("set the frame rates"), after);
    emit frameChanged(); // times on screen follow
}

void BenchSession::setVariant(const std::string& variant)
{
    store::Clip after = m_clip;
    after.variant = variant;
    editClip(tr("set the kind"), after);
}

// ---- readings

void BenchSession::selectReading(const std::string& measure)
{
    m_selectedReading = measure == m_selectedReading ? std::string() : measure;
    if (const Reading* r = m_selectedReading.empty() ? nullptr : m_review.findReading(m_selectedReading);
        r && !r->figure.isEmpty())
        setFrame(FrameIndex(std::llround(r->figure.frame.value)));
    emit selectionChanged();
}

const Reading* BenchSession::shownReading() const
{
    const Reading* r = m_selectedReading.empty() ? nullptr : m_review.findReading(m_selectedReading);
    return r && !r->figure.isEmpty() && std::llround(r->figure.frame.value) == m_frame.value ? r : nullptr;
}

void BenchSession::relocateFilm(const QString& folder)
{
    m_searching = true;
    emit filmChanged();
    const auto clip = m_clip;
    Background::run(
        this,
        [folder = folder.toStdString(), hash = clip.contentHash](std::stop_token stop) {
            return store::findByContent(folder, hash, stop);
        },
        [this, clip](Expected<std::string> found) {
            m_searching = false;
            if (!found) {
                emit message(QString::fromStdString(found.error().text()));
            } else if (m_clip.id == clip.id) {
                store::Clip after = m_clip;
                after.file = m_workspace.library().storedPath(*found);
                editClip(tr("find the film again"), after);
            }
            emit filmChanged();
        });
}

QString plainName(const Landmark& l, Hand hand)
{
    const std::string_view word = wordOf(l.part);
    QString name = QString::fromUtf8(word.data(), static_cast<qsizetype>(word.size()));
    if (l.side == BodySide::None)
        return l.part == Part::Reference ? QString::fromStdString(l.reference) : name;
    const bool isDominant = (l.side == BodySide::Right) == (hand == Hand::Right);
    const bool isArm = l.part == Part::Shoulder || l.part == Part::Elbow || l.part == Part::Wrist || l.part == Part::Hand;
    const bool isHead = l.part == Part::Eye || l.part == Part::Ear;
    const QString side = l.side == BodySide::Left ? BenchSession::tr("left") : BenchSession::tr("right");
    if (isHead)
        return side + QLatin1Char(' ') + name;
    const QString role = isArm        ? (isDominant ? BenchSession::tr("throwing") : BenchSession::tr("glove"))
                         : isDominant ? BenchSession::tr("back")
                                      : BenchSession::tr("front");
    return role + QLatin1Char(' ') + name + QStringLiteral(" (") + side + QLatin1Char(')');
}

} // namespace kestrel::app
