#include "media/film_service.h"

#include "core/base/stand_back.h"
#include "media/picture_converter.h"

#include <algorithm>
#include <fstream>

namespace kestrel::media {

namespace {

// Shares of the pictures that fit into memory, ahead and behind. They keep clear of what the cache would let go.
struct Shares {
    double ahead, behind;
};
constexpr Shares kForward{0.6, 0.25}, kBackward{0.85, 0.1};
constexpr std::size_t kDecoderHolds = 26; // pictures in the codec's own hands: references and one for each thread
constexpr double kNear = 0.3;             // of the same: going backward, small pictures do for what is farther ahead

} // namespace

FilmService::FilmService(std::size_t ceiling)
    : m_ceiling(ceiling), m_decoder([this](std::stop_token stop) { decodeLoop(stop); }),
      m_converter([this](std::stop_token stop) { convertLoop(stop); })
{
}

FilmService::~FilmService()
{
    close();
}

std::size_t FilmService::defaultCeiling()
{
    constexpr std::size_t kMiB = std::size_t{1} << 20;
    std::ifstream meminfo("/proc/meminfo");
    std::string word;
    std::size_t kib = 0;
    while (meminfo >> word)
        if (word == "MemAvailable:" && meminfo >> kib)
            return std::clamp(kib * 1024 / 4, 64 * kMiB, 1024 * kMiB);
    return 256 * kMiB;
}

void FilmService::open(const std::string& file, OpenOptions options, Handlers handlers)
{
    const std::lock_guard quiet(m_telling);
    const std::lock_guard lock(m_mutex);
    m_stopFilm.request_stop();
    m_stopFilm = {};
    ++m_filmNumber;
    m_handlers = std::move(handlers);
    options.stop = m_stopFilm.get_token();
    m_toOpen = Opening{file, std::move(options)};
    m_toClose = true;
    m_wish.reset();
    m_changed.notify_all();
}

void FilmService::close()
{
    const std::lock_guard quiet(m_telling);
    const std::lock_guard lock(m_mutex);
    m_stopFilm.request_stop();
    ++m_filmNumber;
    m_handlers = {};
    m_toOpen.reset();
    m_toClose = true;
    m_wish.reset();
    m_changed.notify_all();
}

void FilmService::want(FrameIndex frame, PixelSize largest, Travel travel)
{
    const std::lock_guard lock(m_mutex);
    m_wish = Wish{frame, largest, travel, ++m_wishNumber};
    if (m_film)
        m_film->cache().setPlayhead(frame, travel);
    m_changed.notify_all();
}

void FilmService::setCeiling(std::size_t bytes)
{
    const std::lock_guard lock(m_mutex);
    m_ceiling = bytes;
    if (m_film)
        m_film->cache().setCeiling(ceilingFor(*m_film));
}

/// What is left for the cache once the codec has what it needs.
std::size_t FilmService::ceilingFor(const Film& film) const
{
    const auto& size = film.info().size;
    const std::size_t decoder =
        kDecoderHolds * (static_cast<std::size_t>(size.width) * static_cast<std::size_t>(size.height) * 3 / 2);
    return std::max(m_ceiling / 4, m_ceiling - std::min(m_ceiling, decoder));
}

std::size_t FilmService::cachedBytes() const
{
    const std::lock_guard lock(m_mutex);
    return m_film ? m_film->cache().bytes() : 0;
}

void FilmService::tell(std::uint64_t film, const std::function<void(const Handlers&)>& give)
{
    const std::lock_guard quiet(m_telling);
    {
        const std::lock_guard lock(m_mutex);
        if (film != m_filmNumber)
            return;
    }
    give(m_handlers); // only open() and close() change them, and they wait
}

// ---- decoding

void FilmService::decodeLoop(std::stop_token stop)
{
    // the codec's threads inherit it; the window and the converter go first, since a person waits for them
    standBack();
    std::unique_lock lock(m_mutex);
    const auto wishIsOpen = [this] {
        return m_wish && m_wish->number != m_failedWish && !m_film->cache().hasFull(m_wish->frame);
    };
    const auto hasWork = [&] {
        return m_toOpen || m_toClose || (m_film && (wishIsOpen() || (m_wish && nextAhead(*m_film, *m_wish))));
    };
    while (m_changed.wait(lock, stop, hasWork)) {
        const std::uint64_t film = m_filmNumber;
        if (m_toClose) {
            m_toClose = false;
            m_undecodable.clear();
            auto old = std::exchange(m_film, nullptr);
            lock.unlock();
            old.reset(); // ending the codec's threads takes a while
            lock.lock();
        } else if (m_toOpen) {
            const Opening opening = *std::exchange(m_toOpen, std::nullopt);
            lock.unlock();
            openFilm(opening, film);
            lock.lock();
        } else {
            const bool isWish = wishIsOpen();
            const FrameIndex target = isWish ? m_wish->frame : *nextAhead(*m_film, *m_wish);
            const std::uint64_t wish = m_wish->number;
            lock.unlock();
            decode(film, target, isWish, wish);
            lock.lock();
        }
    }
}

void FilmService::openFilm(Opening opening, std::uint64_t number)
{
    opening.options.progress = [&](double share) {
        tell(number, [&](const Handlers& h) {
            if (h.progress)
                h.progress(share);
        });
    };
    opening.options.firstPicture = [&](const Picture& picture) {
        tell(number, [&](const Handlers& h) {
            if (h.firstPicture)
                h.firstPicture(picture);
        });
    };
    auto film = Film::open(opening.file, opening.options);
    if (!film) {
        tell(number, [&](const Handlers& h) {
            if (h.failed)
                h.failed(film.error(), std::nullopt);
        });
        return;
    }
    auto held = std::make_shared<Film>(std::move(*film));
    {
        const std::lock_guard lock(m_mutex);
        if (number != m_filmNumber)
            return;
        m_film = held;
        held->cache().setCeiling(ceilingFor(*held));
        if (m_wish) // made while the film was being opened
            held->cache().setPlayhead(m_wish->frame, m_wish->travel);
    }
    m_decodedFrames = held->decodedFrames();
    tell(number, [&](const Handlers& h) {
        if (h.opened)
            h.opened(held->info(), held->indexBytes());
    });
}

/// Whether all from the key frame up to this picture can be kept.
bool FilmService::isGroupInMemory(const Film& film, FrameIndex frame) const
{
    return static_cast<double>(frame.value - film.groupStart(frame).value + 1) <
           kBackward.ahead * static_cast<double>(film.cache().capacity());
}

void FilmService::decode(std::uint64_t number, FrameIndex target, bool isWish, std::uint64_t wish)
{
    const auto film = m_film; // only this thread replaces it
    std::unique_lock lock(m_mutex);
    // The group before the coach's is decoded from its beginning, which is reached last: at the pace at which pictures
    // are walked past, so that each is decoded once. Of a group too long for that the small pictures come at once and the
    // full ones when they are near.
    const bool isPaced =
        !isWish && m_wish && m_wish->travel == Travel::Backward && target < m_wish->frame && isGroupInMemory(*film, target);
    lock.unlock();
    bool isFirst = true;
    const auto isUnwanted = [&] {
        m_decodedFrames = film->decodedFrames();
        lock.lock();
        if (!std::exchange(isFirst, false)) { // something new lies in the cache
            ++m_cacheVersion;
            m_changed.notify_all();
        }
        const auto isOver = [&] {
            return number != m_filmNumber ||
                   (m_wish && m_wish->number != wish &&
                    (isWish || !film->cache().hasFull(m_wish->frame) || (isPaced && m_wish->travel != Travel::Backward)));
        };
        if (isPaced)
            m_changed.wait(lock, [&] { return isOver() || !film->cache().wouldPushOutAhead(); });
        const bool over = isOver();
        lock.unlock();
        return over;
    };
    const auto done = film->decodeTo(target, isUnwanted);
    m_decodedFrames = film->decodedFrames();
    {
        const std::lock_guard update(m_mutex);
        ++m_cacheVersion;
        if (!done && done.error().code != ErrorCode::Cancelled) {
            if (isWish)
                m_failedWish = wish;
            m_undecodable.insert(target.value);
        }
        m_changed.notify_all();
    }
    if (!done && isWish && done.error().code != ErrorCode::Cancelled)
        tell(number, [&](const Handlers& h) {
            if (h.failed)
                h.failed(done.error(), target);
        });
}

/// The picture that is decoded next while nothing is wished for; empty: all that fits is there.
std::optional<FrameIndex> FilmService::nextAhead(const Film& film, const Wish& wish) const
{
    const FrameCache& cache = film.cache();
    const auto capacity = static_cast<double>(cache.capacity());
    const auto frames = film.info().frames();
    const bool forward = wish.travel == Travel::Forward;
    const Shares shares = forward ? kForward : kBackward;
    const std::int64_t up = wish.frame.value + static_cast<std::int64_t>(capacity * (forward ? shares.ahead : shares.behind));
    const std::int64_t down = wish.frame.value - static_cast<std::int64_t>(capacity * (forward ? shares.behind : shares.ahead));
    using Gap = FrameCache::Gap;
    const auto gapTo = [&](std::int64_t end, Gap kind) -> std::optional<FrameIndex> {
        end = std::clamp<std::int64_t>(end, -1, frames);
        const int step = end < wish.frame.value ? -1 : 1;
        std::int64_t gap = cache.firstGap(wish.frame.value, end, kind);
        while (gap != end && m_undecodable.count(gap) > 0) // stepping over what is damaged
            gap = cache.firstGap(gap + step, end, kind);
        return gap == end ? std::nullopt : std::optional(FrameIndex(gap));
    };
    const auto above = gapTo(up, Gap::NotFull);
    if (forward && above)
        return above;
    // first what has nothing to show: a whole group may have to be decoded for it
    if (!forward)
        if (const auto nothing = gapTo(down, Gap::Nothing))
            return nothing;
    const auto below = gapTo(forward ? down : wish.frame.value - static_cast<std::int64_t>(kNear * capacity), Gap::NotFull);
    return below ? below : above;
}

// ---- converting

void FilmService::convertLoop(std::stop_token stop)
{
    /// Converted before it is wished for: the next step most often goes on the same way.
    struct Prepared {
        FrameIndex frame{-1};
        PixelSize largest;
        Picture picture;
        bool isFor(FrameIndex f, PixelSize size) const { return frame == f && largest == size; }
    };
    const auto nextOf = [](const Wish& w) { return FrameIndex(w.frame.value + (w.travel == Travel::Forward ? 1 : -1)); };

    std::optional<PictureConverter> converter;
    Prepared prepared;
    std::uint64_t film = 0, seenVersion = 0, seenWish = 0, exact = 0, glimpsed = 0;
    std::unique_lock lock(m_mutex);
    const auto isOpenWish = [&] {
        return m_wish->number != exact && (m_wish->number != seenWish || m_cacheVersion != seenVersion);
    };
    const auto canPrepare = [&] {
        const FrameIndex next = nextOf(*m_wish);
        return m_wish->number == exact && !prepared.isFor(next, m_wish->largest) && m_film->cache().hasFull(next);
    };
    const auto hasWork = [&] { return m_film && m_wish && (isOpenWish() || canPrepare()); };
    while (m_changed.wait(lock, stop, hasWork)) {
        auto held = m_film;
        const Wish wish = *m_wish;
        const bool isForLater = wish.number == exact;
        seenWish = wish.number;
        seenVersion = m_cacheVersion;
        if (!converter || film != m_filmNumber) {
            converter.emplace(held->makeConverter());
            prepared = {};
        }
        film = m_filmNumber;
        lock.unlock();
        const auto deliver = [&](const Picture& picture, bool isExact) {
            (isExact ? exact : glimpsed) = wish.number;
            tell(film, [&](const Handlers& h) {
                if (h.delivered && isNewest(wish.number))
                    h.delivered({wish.frame, picture, isExact});
            });
        };
        if (!isForLater && prepared.isFor(wish.frame, wish.largest)) {
            deliver(prepared.picture, true);
        } else {
            const FrameIndex frame = isForLater ? nextOf(wish) : wish.frame;
            const DecodedFrame found = held->cache().find(frame);
            // small planes that were shown at this size before are as good as the full ones
            const bool isExact = !found.isEmpty() && (!found.isSmall || converter->hasSizeFor(*found.planes, wish.largest));
            const bool isWanted = isExact || (!isForLater && glimpsed != wish.number);
            if (!found.isEmpty() && isWanted) {
                const auto picture = converter->convert(*found.planes, wish.largest);
                if (!found.isSmall)
                    held->cache().putShrunk(frame, converter->shrunk());
                if (isForLater)
                    prepared = {frame, wish.largest, picture ? *picture : Picture{}};
                else if (picture)
                    deliver(*picture, isExact);
                else
                    (isExact ? exact : glimpsed) = wish.number;
            }
        }
        held.reset();
        lock.lock();
    }
}

bool FilmService::isNewest(std::uint64_t wish) const
{
    const std::lock_guard lock(m_mutex);
    return m_wish && m_wish->number == wish;
}

} // namespace kestrel::media
