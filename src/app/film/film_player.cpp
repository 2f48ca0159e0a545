#include "app/film/film_player.h"

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kTickMs = 8;

/// All there are, and what they may keep together.
struct Shared {
    std::vector<FilmPlayer*> players;
    std::optional<std::size_t> bytes;
};
Shared& shared()
{
    static Shared all;
    return all;
}

} // namespace

FilmPlayer::FilmPlayer(QObject* parent) : QObject(parent)
{
    shared().players.push_back(this);
    connect(&m_decoder, &DecodeService::opened, this, &FilmPlayer::onOpened);
    connect(&m_decoder, &DecodeService::failed, this, [this](const Error& e) {
        m_error = e;
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
    m_tick.setTimerType(Qt::PreciseTimer);
    m_tick.setInterval(kTickMs);
    connect(&m_tick, &QTimer::timeout, this, &FilmPlayer::playOn);
    shareMemory();
}

FilmPlayer::~FilmPlayer()
{
    std::erase(shared().players, this);
    shareMemory();
}

void FilmPlayer::setMemory(std::optional<std::size_t> bytes)
{
    shared().bytes = bytes;
    shareMemory();
}

/// Players with a film have equal parts; the others have nothing to keep.
void FilmPlayer::shareMemory()
{
    const auto& players = shared().players;
    const auto inUse = std::count_if(players.begin(), players.end(), [](const FilmPlayer* p) { return p->m_isInUse; });
    const std::size_t whole = shared().bytes.value_or(media::FilmService::defaultCeiling());
    for (auto* p : players)
        p->m_decoder.setCeiling(whole / static_cast<std::size_t>(std::max<std::ptrdiff_t>(1, inUse)));
}

void FilmPlayer::open(const QString& file, const std::string& knownIndex, std::int64_t frames, Rates rates)
{
    setPlaying(false);
    m_expectedFrames = frames;
    m_rates = rates;
    m_frame = FrameIndex(0);
    m_loop.reset();
    m_shown.clear();
    m_pictured.reset();
    setClock();
    openAgain(file, knownIndex);
    emit frameChanged();
}

void FilmPlayer::openAgain(const QString& file, const std::string& knownIndex)
{
    m_isOpen = false;
    m_isInUse = true;
    m_damaged.reset();
    m_error.reset();
    m_warnings.clear();
    m_index.clear();
    m_indexing.reset();
    shareMemory();
    m_decoder.open(file, knownIndex, m_largest);
    emit filmChanged();
}

void FilmPlayer::close()
{
    setPlaying(false);
    m_decoder.close();
    m_isOpen = m_isInUse = false;
    m_clock = {};
    m_shown.clear();
    m_index.clear();
    m_error.reset();
    m_expectedFrames = 0;
    shareMemory();
    emit filmChanged();
}

void FilmPlayer::onOpened(const media::FilmInfo& info, const std::string& indexBytes)
{
    m_isOpen = true;
    m_indexing.reset();
    m_index = indexBytes;
    m_error.reset();
    m_warnings = info.warnings;
    m_shown = info.shown;
    setClock();
    m_frame = clamped(m_frame);
    emit opened(indexBytes);
    emit filmChanged();
    emit frameChanged();
    wantPicture();
}

void FilmPlayer::setClock()
{
    m_clock =
        m_shown.empty() ? evenClock(m_expectedFrames, std::max(1.0, m_rates.capture)) : FrameClock(m_shown, m_rates.slowFactor());
}

void FilmPlayer::setRates(Rates rates)
{
    if (rates == m_rates)
        return;
    m_rates = rates;
    setClock();
    emit frameChanged(); // times on screen follow
}

FrameIndex FilmPlayer::clamped(FrameIndex f) const
{
    return FrameIndex(std::clamp<std::int64_t>(f.value, 0, std::max<std::int64_t>(0, frames() - 1)));
}

void FilmPlayer::setFrame(FrameIndex f)
{
    f = clamped(f);
    if (f == m_frame)
        return;
    m_travel = f < m_frame ? media::Travel::Backward : media::Travel::Forward;
    m_frame = f;
    wantPicture();
    emit frameChanged();
}

void FilmPlayer::wantPicture()
{
    if (!m_isOpen)
        return;
    m_damaged.reset();
    m_decoder.want(m_frame, m_largest, m_travel);
}

void FilmPlayer::setPictureSize(media::PixelSize largest)
{
    if (largest == m_largest)
        return;
    m_largest = largest;
    wantPicture();
}

FrameRange FilmPlayer::wholeOrLoop() const
{
    return m_loop.value_or(FrameRange{FrameIndex(0), FrameIndex(frames() - 1)});
}

void FilmPlayer::setPlaying(bool playing, bool backward)
{
    if ((playing == isPlaying() && backward == m_isBackward) || (playing && !m_isOpen))
        return;
    m_isBackward = backward;
    if (playing) {
        const FrameRange whole = wholeOrLoop();
        const bool isAtEnd = backward ? m_frame <= whole.first : m_frame >= whole.last;
        if (isAtEnd || !whole.contains(m_frame))
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

void FilmPlayer::startRun()
{
    m_run.emplace(m_clock, m_frame, wholeOrLoop(), m_isBackward ? -m_speed : m_speed, m_loop.has_value());
    m_shownPictures = 0;
    m_playClock.start();
}

void FilmPlayer::setSpeed(double speed)
{
    if (speed == m_speed)
        return;
    m_speed = speed;
    if (isPlaying())
        startRun();
    emit playingChanged();
}

void FilmPlayer::playOn()
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

void FilmPlayer::setLoop(std::optional<FrameRange> loop)
{
    if (loop == m_loop)
        return;
    m_loop = loop;
    if (isPlaying()) {
        if (m_loop && !m_loop->contains(m_frame))
            setFrame(m_loop->first);
        startRun();
    }
    emit playingChanged();
}

void FilmPlayer::setLoopFirst()
{
    const FrameIndex last = m_loop && m_loop->last > m_frame ? m_loop->last : FrameIndex(frames() - 1);
    if (m_frame < last)
        setLoop(FrameRange{m_frame, last});
}

void FilmPlayer::setLoopLast()
{
    const FrameIndex first = m_loop && m_loop->first < m_frame ? m_loop->first : FrameIndex(0);
    if (first < m_frame)
        setLoop(FrameRange{first, m_frame});
}

} // namespace kestrel::app
