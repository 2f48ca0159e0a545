#include "app/bench_session.h"

#include "app/row_edits.h"
#include "app/settings.h"
#include "core/doubt.h"
#include "store/content_hash.h"
#include "store/film_stamp.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace kestrel::app {

namespace {

constexpr int kTickMs = 8;
constexpr double kClickSigma = 1.5;      // pixels; what a careful click is worth
constexpr double kShortestLine = 8;      // pixels; a shorter drag is a slip
constexpr std::size_t kManyMarks = 2000; // a body marked on every picture, not at key positions alone

} // namespace

BenchSession::BenchSession(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace)
{
    connect(&m_workspace, &Workspace::changed, this, &BenchSession::reload);
    connect(&m_decoder, &DecodeService::opened, this, &BenchSession::takeFilm);
    connect(&m_decoder, &DecodeService::failed, this, [this](const Error& e) {
        m_filmError = e;
        m_indexing.reset();
        emit filmChanged();
    });
    connect(&m_decoder, &DecodeService::progress, this, [this](double share) {
        m_indexing = share;
        emit filmChanged();
    });
    connect(&m_decoder, &DecodeService::pictureFailed, this, [this](FrameIndex frame, const Error& e) {
        m_damaged = m_pictured = frame; // its neighbours may be fine
        emit pictureReady({});
        emit message(QString::fromStdString(e.text()));
    });
    connect(&m_decoder, &DecodeService::pictureReady, this, [this](FrameIndex frame, const QImage& picture) {
        m_pictured = frame;
        emit pictureReady(picture);
    });
    takeSettings();
    m_reviewTurn.setSingleShot(true);
    connect(&m_reviewTurn, &QTimer::timeout, this, &BenchSession::takeReviewTurn);
    m_tick.setTimerType(Qt::PreciseTimer);
    m_tick.setInterval(kTickMs);
    connect(&m_tick, &QTimer::timeout, this, &BenchSession::playOn);
}

void BenchSession::open(store::ClipId id)
{
    setPlaying(false);
    m_clip = {};
    m_clip.id = id;
    m_repetition = {};
    m_judged = {};
    m_frame = FrameIndex(0);
    m_loop.reset();
    m_selectedMark.reset();
    m_selectedReading.clear();
    m_skipped.clear();
    m_lookedAt.clear();
    m_shown.clear();
    m_hasFilm = false;
    m_damaged.reset();
    m_pictured.reset();
    m_filmError.reset();
    m_filmWarnings.clear();
    m_filmIndex.clear();
    m_indexing.reset();
    m_tool = Tool::Look;
    reload();
    if (!isOpen())
        return;
    openFilm();
    emit clipChanged();
    emit filmChanged();
    emit frameChanged();
    emit toolChanged();
}

void BenchSession::takeSettings()
{
    m_decoder.setCeiling(Settings::filmMemory().value_or(media::FilmService::defaultCeiling()));
    const int before = std::exchange(m_tasks, Settings::tasks());
    if (m_tasks != before)
        unjudge();
}

void BenchSession::openFilm()
{
    const auto known = m_workspace.valueOr(m_workspace.library().knownFilm(m_clip.contentHash));
    const auto stamp = store::findFilmStamp(filmPath());
    const bool isSame = known && stamp && known->bytes == stamp->bytes && known->modified == stamp->modified;
    m_decoder.open(QString::fromStdString(filmPath()), isSame ? known->index : std::string(), m_largest);
}

std::string BenchSession::filmPath() const
{
    return m_workspace.library().filmPath(m_clip);
}

void BenchSession::close()
{
    setPlaying(false);
    m_decoder.close();
    m_clip = {};
    m_repetitions.clear();
    m_repetition = {};
    m_marking = {};
    m_judged = {};
    unjudge();
    m_clock = {};
    m_hasFilm = false;
    m_filmIndex.clear();
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
    m_repetitions = m_workspace.valueOr(m_workspace.library().repetitions(m_clip.id));
    if (m_repetitions.empty())
        return close();
    const auto same = std::find_if(m_repetitions.begin(), m_repetitions.end(),
                                   [this](const store::Repetition& r) { return r.id == m_repetition.id; });
    m_repetition = same == m_repetitions.end() ? m_repetitions.front() : *same;
    const Marking marked = std::exchange(m_marking, m_workspace.valueOr(m_workspace.library().marking(m_repetition.id)));
    const bool changedElsewhere = m_marking == marked; // another repetition, the pack, the day
    if (changedElsewhere)
        m_judged.read.clear();
    if (changedElsewhere || m_otherSideOf != m_repetition.id) {
        m_otherSideOf = m_repetition.id;
        m_fromOtherSide = toRead(m_repetition.id).fromOtherSide;
    }
    m_clock = m_shown.empty() ? evenClock(m_clip.film.frames, std::max(1.0, m_clip.clock.capture))
                              : FrameClock(m_shown, m_clip.clock.slowFactor());
    if (m_selectedMark && !findMark(m_marking, m_frame, *m_selectedMark))
        m_selectedMark.reset();
    if (!before.empty() && before != m_clip.file)
        openFilm();
    unjudge();
    emit markingChanged();
}

void BenchSession::unjudge()
{
    m_judging.stop();
    m_isJudging = m_isJudged = false;
    m_reviewTurn.start();
}

/// What is known of a repetition beside the shown one; without marks when it cannot be read from the library.
ToRead BenchSession::toRead(store::RepetitionId id) const
{
    ToRead given{m_workspace.library().marking(id).value_or(Marking{}), nullptr};
    if (auto other = fromOtherSide(m_workspace, id))
        given.fromOtherSide = std::make_shared<const kestrel::Repetition>(std::move(*other));
    return given;
}

ToJudge BenchSession::toJudge() const
{
    ToJudge work{*m_pack, {m_day.school, {}, m_tasks, {}}, m_clock, {m_marking, m_fromOtherSide}, {}, m_judged.read, {}};
    for (const auto& [skill, fault] : m_athlete.notYetTaught)
        if (skill == m_day.skill)
            work.options.notYetTaught.push_back(fault);
    for (const auto& r : m_repetitions) {
        if (r.id == m_repetition.id)
            continue;
        work.others.push_back(r.id);
        if (work.read.count(r.id) == 0)
            work.unread[r.id] = toRead(r.id);
    }
    return work;
}

void BenchSession::judgeLater(ToJudge work)
{
    m_isJudging = true;
    m_judging = Background::run(
        this, [work = std::move(work)](std::stop_token) { return judge(work); },
        [this](Judged judged) {
            m_judged = std::move(judged);
            m_isJudging = false;
            m_isJudged = true;
            emit reviewChanged();
        });
}

/// The turn of its own after a change: what takes long is judged elsewhere, and only then announced.
void BenchSession::takeReviewTurn()
{
    if (m_pack && !m_isJudged && !m_isJudging)
        if (ToJudge work = toJudge(); work.marks() > kManyMarks)
            return judgeLater(std::move(work));
    emit reviewChanged();
}

const Judged& BenchSession::judged() const
{
    if (m_isJudged || m_isJudging || m_marking.marks.size() > kManyMarks)
        return m_judged; // where there is much, takeReviewTurn() sees to it
    if (!m_pack) {
        m_judged = {};
    } else {
        ToJudge work = toJudge();
        if (work.marks() > kManyMarks)
            return m_judged;
        m_judged = judge(std::move(work));
    }
    m_isJudged = true;
    return m_judged;
}

void BenchSession::takeFilm(const media::FilmInfo& info, const std::string& indexBytes)
{
    m_hasFilm = true;
    m_indexing.reset();
    m_filmIndex = indexBytes;
    keepIndex(indexBytes);
    m_filmError.reset();
    m_filmWarnings = info.warnings;
    m_shown = info.shown;
    m_clock = FrameClock(m_shown, m_clip.clock.slowFactor());
    unjudge();
    m_frame = clamped(m_frame);
    emit filmChanged();
    emit markingChanged();
    emit frameChanged();
    wantPicture();
}

/// The index is kept with what the file looked like; a file that looks different since is read again, to see whether it
/// is still the same film.
void BenchSession::keepIndex(const std::string& indexBytes)
{
    const std::string file = filmPath();
    const auto stamp = store::findFilmStamp(file);
    const auto known = m_workspace.valueOr(m_workspace.library().knownFilm(m_clip.contentHash));
    if (!stamp || (known && known->bytes == stamp->bytes && known->modified == stamp->modified && !known->index.empty()))
        return;
    Background::run(
        this, [file](std::stop_token stop) { return store::calcContentHash(file, stop); },
        [this, clip = m_clip.id, hash = m_clip.contentHash, stamp = *stamp, indexBytes](const Expected<std::string>& now) {
            if (now && *now == hash)
                m_workspace.note([&](store::Library& l) {
                    return l.setKnownFilm(hash, {stamp.bytes, stamp.modified, indexBytes});
                });
            else if (now && m_clip.id == clip)
                emit message(tr("This film has changed since it was added. Marks and key positions may not fit any more."));
        });
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
    m_travel = f < m_frame ? media::Travel::Backward : media::Travel::Forward;
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
    m_decoder.want(m_frame, m_largest, m_travel);
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

// ---- repetitions

void BenchSession::setRepetition(store::RepetitionId id)
{
    const auto wanted =
        std::find_if(m_repetitions.begin(), m_repetitions.end(), [id](const store::Repetition& r) { return r.id == id; });
    if (wanted == m_repetitions.end() || id == m_repetition.id)
        return;
    m_judged = {};
    m_repetition = *wanted;
    m_selectedReading.clear();
    reload();
    setFrame(m_repetition.first);
}

void BenchSession::stepRepetition(int direction)
{
    for (std::size_t i = 0; i < m_repetitions.size(); ++i)
        if (m_repetitions[i].id == m_repetition.id) {
            const auto next = static_cast<std::ptrdiff_t>(i) + direction;
            if (next >= 0 && next < static_cast<std::ptrdiff_t>(m_repetitions.size()))
                setRepetition(m_repetitions[static_cast<std::size_t>(next)].id);
            return;
        }
}

void BenchSession::addRepetition()
{
    if (!isOpen() || frames() < 1)
        return;
    store::Repetition added;
    added.clip = m_clip.id;
    added.first = m_loop ? m_loop->first : m_frame;
    added.last = m_loop ? m_loop->last : FrameIndex(frames() - 1);
    added.variant = m_repetition.variant;
    if (const auto id = addRow<store::RepetitionRecord>(m_workspace, tr("add a repetition"), added); id.isValid())
        setRepetition(id);
}

void BenchSession::changeRepetition(const QString& text, const store::Repetition& after)
{
    if (after == m_repetition || after.last < after.first)
        return;
    changeRow(m_workspace, text, m_repetition, after);
}

void BenchSession::removeRepetition()
{
    removeRow<store::RepetitionRecord>(m_workspace, tr("remove the repetition"), m_repetition.id);
}

std::vector<OtherSideChoice> BenchSession::otherSideChoices() const
{
    return app::otherSideChoices(m_workspace, m_clip, m_repetition.id);
}

std::optional<store::RepetitionId> BenchSession::otherSide() const
{
    return m_workspace.valueOr(m_workspace.library().otherSide(m_repetition.id));
}

void BenchSession::setOtherSide(std::optional<store::RepetitionId> other)
{
    app::setOtherSide(m_workspace, m_repetition.id, other);
}

// ---- playing

void BenchSession::setPlaying(bool playing, bool backward)
{
    if ((playing == isPlaying() && backward == m_isBackward) || (playing && !m_hasFilm))
        return;
    m_isBackward = backward;
    if (playing) {
        const PlayRun::Stretch whole = m_loop.value_or(PlayRun::Stretch{FrameIndex(0), FrameIndex(frames() - 1)});
        const bool isAtEnd = backward ? m_frame <= whole.first : m_frame >= whole.last;
        if (isAtEnd || m_frame < whole.first || m_frame > whole.last)
            setFrame(backward ? whole.last : whole.first);
        m_dropped = 0;
        startRun();
        m_tick.start();
    } else {
        m_tick.stop();
        m_run.reset();
    }
    emit playingChanged();
}

void BenchSession::startRun()
{
    const PlayRun::Stretch whole = m_loop.value_or(PlayRun::Stretch{FrameIndex(0), FrameIndex(frames() - 1)});
    m_run.emplace(m_clock, m_frame, whole, m_isBackward ? -m_speed : m_speed, m_loop.has_value());
    m_shownPictures = 0;
    m_playClock.start();
}

void BenchSession::setSpeed(double speed)
{
    if (speed == m_speed)
        return;
    m_speed = speed;
    if (isPlaying())
        startRun();
    emit playingChanged();
}

void BenchSession::playOn()
{
    if (m_decoder.isBusy())
        return; // the clock goes on: what cannot be decoded in time is dropped, not delayed
    const auto place = m_run->at(static_cast<double>(m_playClock.nsecsElapsed()) * 1e-9);
    if (place.frame == m_frame) {
        if (place.isOver)
            setPlaying(false, m_isBackward);
        return;
    }
    ++m_shownPictures;
    if (const auto dropped = place.passed - m_shownPictures; dropped > 0) {
        m_dropped += dropped;
        m_shownPictures = place.passed;
        emit pictureDropped();
    }
    setFrame(place.frame);
}

void BenchSession::setLoop(std::optional<PlayRun::Stretch> loop)
{
    if (loop == m_loop)
        return;
    m_loop = loop;
    if (isPlaying()) {
        if (m_loop && (m_frame < m_loop->first || m_frame > m_loop->last))
            setFrame(m_loop->first);
        startRun();
    }
    emit playingChanged();
}

void BenchSession::toggleLoop()
{
    if (m_loop)
        return setLoop({});
    std::int64_t from = m_repetition.first.value, to = std::min(m_repetition.last.value, frames() - 1);
    for (const auto& e : m_marking.events) {
        const std::int64_t f = std::llround(e.frame.value);
        if (f <= m_frame.value)
            from = std::max(from, f);
        else
            to = std::min(to, f);
    }
    if (to > from)
        setLoop(PlayRun::Stretch{FrameIndex(from), FrameIndex(to)});
}

void BenchSession::setLoopFirst()
{
    const FrameIndex last = m_loop && m_loop->last > m_frame ? m_loop->last : FrameIndex(frames() - 1);
    if (m_frame < last)
        setLoop(PlayRun::Stretch{m_frame, last});
}

void BenchSession::setLoopLast()
{
    const FrameIndex first = m_loop && m_loop->first < m_frame ? m_loop->first : FrameIndex(0);
    if (first < m_frame)
        setLoop(PlayRun::Stretch{first, m_frame});
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
    const auto repetition = m_repetition.id;
    m_workspace.edit(
        text, [=](store::Library& l) { return l.setEvent(repetition, id, after); },
        [=](store::Library& l) { return l.setEvent(repetition, id, before); });
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

bool BenchSession::isTaught(const std::string& fault) const
{
    return m_athlete.notYetTaught.count({m_day.skill, fault}) == 0;
}

void BenchSession::setTaught(const std::string& fault, bool taught)
{
    const store::Athlete before = m_athlete;
    store::Athlete after = before;
    if (taught)
        after.notYetTaught.erase({m_day.skill, fault});
    else
        after.notYetTaught.emplace(m_day.skill, fault);
    if (after == before)
        return;
    m_workspace.edit(
        taught ? tr("taught") : tr("not yet taught"), [after](store::Library& l) { return l.save(after); },
        [before](store::Library& l) { return l.save(before); });
}

void BenchSession::answer(const std::string& observation, const std::optional<std::string>& choice)
{
    const auto given = m_marking.answers.find(observation);
    const std::optional<std::string> before = given == m_marking.answers.end() ? std::nullopt : std::optional(given->second);
    if (before == choice)
        return;
    const auto repetition = m_repetition.id;
    m_workspace.edit(
        tr("answer"), [=](store::Library& l) { return l.setAnswer(repetition, observation, choice); },
        [=](store::Library& l) { return l.setAnswer(repetition, observation, before); });
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
    const Mark* before = findMark(m_marking, m_frame, landmark);
    const bool wasFollowed = before && before->source == Source::Tracked;
    editMark(tr("mark %1").arg(plainName(landmark, m_marking.athlete.hand, m_pack)), m_frame, landmark,
             Mark{m_frame, landmark, p, kClickSigma, Source::Coach, true});
    if (wasFollowed)
        emit pointCorrected(landmark);
}

void BenchSession::placePoint(ImagePoint p)
{
    const auto isTaken = [this](const Landmark& l) {
        return std::any_of(m_marking.marks.begin(), m_marking.marks.end(), [&](const Mark& m) { return m.landmark == l; });
    };
    int number = 1;
    const auto landmark = [&] { return Landmark{Part::Reference, BodySide::None, "point" + std::to_string(number)}; };
    while (isTaken(landmark()))
        ++number;
    setTool(Tool::Look);
    moveMark(landmark(), p);
    selectMark(landmark());
    emit pointCorrected(landmark());
}

void BenchSession::goToDoubt()
{
    if (!m_pack)
        return;
    const auto doubts = findDoubts(*m_pack, m_marking);
    const auto next = std::find_if(doubts.begin(), doubts.end(), [this](const Doubt& d) {
        return m_lookedAt.count({d.frame.value, d.landmark}) == 0;
    });
    if (next == doubts.end()) {
        emit message(doubts.empty() ? tr("No reading rests on a mark the program made.")
                                    : tr("You have looked at every mark of the program's that a reading rests on."));
        m_lookedAt.clear(); // once more from the start
        return;
    }
    m_lookedAt.insert({next->frame.value, next->landmark});
    setFrame(next->frame);
    selectMark(next->landmark);
    emit message(tr("%1, give or take %2 pixels: drag it if it is wrong; W for the next one (%3 left).")
                     .arg(plainName(next->landmark, m_marking.athlete.hand, m_pack), QString::number(next->sigma, 'f', 0),
                          QString::number(std::count_if(doubts.begin(), doubts.end(), [this](const Doubt& d) {
                              return m_lookedAt.count({d.frame.value, d.landmark}) == 0;
                          }))));
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
    editMark(tr("remove %1").arg(plainName(l, m_marking.athlete.hand, m_pack)), m_frame, l, std::nullopt);
}

void BenchSession::selectMark(std::optional<Landmark> l)
{
    if (l == m_selectedMark)
        return;
    m_selectedMark = std::move(l);
    emit selectionChanged();
}

std::vector<Mark> BenchSession::marksOn(FrameIndex frame) const
{
    std::vector<Mark> here;
    std::copy_if(m_marking.marks.begin(), m_marking.marks.end(), std::back_inserter(here),
                 [frame](const Mark& m) { return m.frame == frame; });
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
    if (d.length() < kShortestLine) {
        if (m_tool == Tool::PlayerBox) { // a click is enough to choose the player
            emit playerDrawn(to, 0, 0);
            setTool(Tool::Look);
        }
        return;
    }
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
    } else if (m_tool == Tool::PlayerBox) {
        emit playerDrawn({std::min(from.x, to.x), std::min(from.y, to.y)}, std::abs(d.x), std::abs(d.y));
    }
    setTool(Tool::Look);
}

void BenchSession::setView(View view)
{
    store::Clip after = m_clip;
    after.scene.view = view;
    after.scene.target = usualTargetDirection(view, m_athlete.hand, m_pack && m_pack->leadIsDom());
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
    store::Repetition after = m_repetition;
    after.variant = variant;
    changeRepetition(tr("set the kind"), after);
}

// ---- readings

void BenchSession::selectReading(const std::string& measure)
{
    m_selectedReading = measure == m_selectedReading ? std::string() : measure;
    if (const Reading* r = m_selectedReading.empty() ? nullptr : review().findReading(m_selectedReading);
        r && !r->figure.isEmpty())
        setFrame(FrameIndex(std::llround(r->figure.frame.value)));
    emit selectionChanged();
}

const Reading* BenchSession::shownReading() const
{
    const Reading* r = m_selectedReading.empty() ? nullptr : review().findReading(m_selectedReading);
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

QString plainName(const Landmark& l, Hand hand, const Pack* pack)
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
    const auto toQt = [](const std::string& w) { return QString::fromStdString(w); };
    const bool isLead = isDominant == (pack && pack->leadIsDom());
    const QString role = !isArm       ? (isLead ? BenchSession::tr("front") : BenchSession::tr("back"))
                         : !pack      ? QString()
                         : isDominant ? toQt(pack->domWord)
                                      : toQt(pack->offWord);
    return (role + QLatin1Char(' ') + name).trimmed() + QStringLiteral(" (") + side + QLatin1Char(')');
}

} // namespace kestrel::app
