#include "app/bench_session.h"

#include "app/row_edits.h"
#include "app/settings.h"
#include "store/content_hash.h"
#include "store/film_stamp.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace kestrel::app {

namespace {

constexpr int kTickMs = 8;

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
    m_otherSideOf = {};
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
        m_fromOtherSide = seenFromOtherSide(m_repetition.id);
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

std::shared_ptr<const kestrel::Repetition> BenchSession::seenFromOtherSide(store::RepetitionId id) const
{
    auto other = fromOtherSide(m_workspace, id);
    return other ? std::make_shared<const kestrel::Repetition>(std::move(*other)) : nullptr;
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
        if (work.read.count(r.id) > 0)
            continue;
        if (auto marking = m_workspace.library().marking(r.id)) // one that cannot be read does not count
            work.unread[r.id] = {std::move(*marking), seenFromOtherSide(r.id)};
    }
    return work;
}

void BenchSession::judgeLater(ToJudge work)
{
    m_isJudging = true;
    m_judging = Background::run(
        this, [work = std::move(work)](std::stop_token) { return judge(work); },
        [this](Judged judged) {
            m_isJudging = false;
            take(std::move(judged));
            emit reviewChanged();
        });
}

void BenchSession::take(Judged judged) const
{
    m_judged = std::move(judged);
    m_isJudged = true;
}

/// The turn of its own after a change: what takes long is judged elsewhere, and only then announced.
void BenchSession::takeReviewTurn()
{
    if (m_pack && !m_isJudged && !m_isJudging) {
        ToJudge work = toJudge();
        if (work.marks() > kManyMarks)
            return judgeLater(std::move(work));
        take(judge(std::move(work)));
    }
    emit reviewChanged();
}

const Judged& BenchSession::judged() const
{
    if (m_isJudged || m_isJudging || m_marking.marks.size() > kManyMarks)
        return m_judged; // where there is much, takeReviewTurn() sees to it
    if (!m_pack)
        take({});
    else if (ToJudge work = toJudge(); work.marks() <= kManyMarks)
        take(judge(std::move(work)));
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
    switch (l.part) { // of what is held to hit with, whatever it is
    case Part::ImplementGrip:
        return BenchSession::tr("butt");
    case Part::ImplementTip:
        return BenchSession::tr("tip");
    case Part::ImplementMid:
        return BenchSession::tr("middle of the shaft");
    case Part::ImplementFaceA:
        return BenchSession::tr("edge of the face");
    case Part::ImplementFaceB:
        return BenchSession::tr("other edge of the face");
    default:
        break;
    }
    const std::string_view word = wordOf(l.part);
    QString name = QString::fromUtf8(word.data(), static_cast<qsizetype>(word.size()));
    if (l.side == BodySide::None)
        return l.part == Part::Reference ? QString::fromStdString(l.reference) : name;
    const bool isDominant = (l.side == BodySide::Right) == (hand == Hand::Right);
    const bool isHead = l.part == Part::Eye || l.part == Part::Ear;
    const QString side = l.side == BodySide::Left ? BenchSession::tr("left") : BenchSession::tr("right");
    if (isHead)
        return side + QLatin1Char(' ') + name;
    const auto toQt = [](const std::string& w) { return QString::fromStdString(w); };
    const bool isLead = isDominant == (pack && pack->leadIsDom());
    const QString role = !isOfArm(l.part) ? (isLead ? BenchSession::tr("front") : BenchSession::tr("back"))
                         : !pack          ? QString()
                         : isDominant     ? toQt(pack->domWord)
                                          : toQt(pack->offWord);
    return (role + QLatin1Char(' ') + name).trimmed() + QStringLiteral(" (") + side + QLatin1Char(')');
}

} // namespace kestrel::app
