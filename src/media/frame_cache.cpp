#include "media/frame_cache.h"

#include <algorithm>
#include <cstdlib>

namespace kestrel::media {

namespace {

// Of the ceiling. The rest holds small pictures, so that in all 1 GiB holds two groups of 250 at 1920x1080.
constexpr double kFullShare = 0.74;
// How much farther away what lies behind counts: going backward, a whole group has to fit ahead.
constexpr double kBehindForward = 2, kBehindBackward = 7;
constexpr std::int64_t kBehindReading = 24; // pictures kept at full size behind while the decoder is only just ahead ...
constexpr std::int64_t kAtOnce = 4;         // ... which is by so many pictures at most
constexpr double kWorthKeeping = 0.3;       // of the full planes' bytes; half width and height is a quarter
constexpr std::size_t kFewest = 2;          // pictures kept whatever they weigh: the one shown and the one that comes

} // namespace

void FrameCache::setCeiling(std::size_t bytes)
{
    std::unique_lock lock(m_mutex);
    m_ceiling = bytes;
    makeRoom(lock);
}

void FrameCache::keepNearest(std::size_t pictures)
{
    const std::lock_guard lock(m_mutex);
    m_kept = pictures;
}

std::size_t FrameCache::ceiling() const
{
    const std::lock_guard lock(m_mutex);
    return m_ceiling;
}

std::size_t FrameCache::bytes() const
{
    const std::lock_guard lock(m_mutex);
    return m_fullBytes + m_smallBytes;
}

std::int64_t FrameCache::capacity() const
{
    const std::lock_guard lock(m_mutex);
    return m_fullBytes == 0 ? 0
                            : static_cast<std::int64_t>(kFullShare * static_cast<double>(m_ceiling) *
                                                        static_cast<double>(m_full.size()) / static_cast<double>(m_fullBytes));
}

void FrameCache::setPlayhead(FrameIndex frame, Travel travel)
{
    const std::lock_guard lock(m_mutex);
    m_playhead = frame.value;
    m_travel = travel;
}

void FrameCache::put(FrameIndex frame, DecodedFrame full)
{
    std::unique_lock lock(m_mutex);
    insert(m_full, m_fullBytes, frame.value, std::move(full));
    if (m_kept > 0) {
        while (m_full.size() > m_kept) {
            const auto first = m_full.begin(), last = std::prev(m_full.end());
            erase(m_full, m_fullBytes, frame.value - first->first > last->first - frame.value ? first : last);
        }
        return;
    }
    const bool isReadingOn = m_travel == Travel::Forward && frame.value >= m_playhead && frame.value <= m_playhead + kAtOnce;
    if (isReadingOn)
        if (const auto it = firstInBoth(m_playhead - kBehindReading); it != m_full.end())
            erase(m_full, m_fullBytes, it);
    makeRoom(lock);
}

void FrameCache::putShrunk(FrameIndex frame, DecodedFrame small)
{
    std::unique_lock lock(m_mutex);
    const auto full = m_full.find(frame.value);
    if (small.isEmpty() || full == m_full.end() ||
        static_cast<double>(small.bytes) > kWorthKeeping * static_cast<double>(full->second.bytes))
        return;
    if (const auto old = m_small.find(frame.value); old != m_small.end())
        erase(m_small, m_smallBytes, old);
    insert(m_small, m_smallBytes, frame.value, std::move(small));
    makeRoom(lock);
}

DecodedFrame FrameCache::find(FrameIndex frame) const
{
    const std::lock_guard lock(m_mutex);
    if (const auto full = m_full.find(frame.value); full != m_full.end())
        return full->second;
    const auto small = m_small.find(frame.value);
    return small == m_small.end() ? DecodedFrame{} : small->second;
}

bool FrameCache::wouldPushOutAhead() const
{
    const std::lock_guard lock(m_mutex);
    if (m_full.empty())
        return false;
    const auto share = static_cast<std::size_t>(kFullShare * static_cast<double>(m_ceiling));
    const auto& [frame, full] = *farthest(m_full);
    return m_fullBytes + full.bytes > share && isAhead(frame);
}

bool FrameCache::hasFull(FrameIndex frame) const
{
    const std::lock_guard lock(m_mutex);
    return m_full.count(frame.value) > 0;
}

std::int64_t FrameCache::firstGap(std::int64_t from, std::int64_t to, Gap gap) const
{
    const std::lock_guard lock(m_mutex);
    const int step = to < from ? -1 : 1;
    while (from != to && (m_full.count(from) > 0 || (gap == Gap::Nothing && m_small.count(from) > 0)))
        from += step;
    return from;
}

void FrameCache::clear()
{
    const std::lock_guard lock(m_mutex);
    m_full.clear();
    m_small.clear();
    m_fullBytes = m_smallBytes = m_fullMost = 0;
}

bool FrameCache::isAhead(std::int64_t frame) const
{
    return m_travel == Travel::Forward ? frame >= m_playhead : frame <= m_playhead;
}

/// What the codec once took for full planes it keeps for the next ones.
std::size_t FrameCache::bytesTaken() const
{
    return std::max(m_fullMost, m_fullBytes) + m_smallBytes;
}

double FrameCache::distance(std::int64_t frame) const
{
    const auto away = static_cast<double>(std::abs(frame - m_playhead));
    return isAhead(frame) ? away : away * (m_travel == Travel::Forward ? kBehindForward : kBehindBackward);
}

FrameCache::Frames::const_iterator FrameCache::farthest(const Frames& frames) const
{
    const auto first = frames.begin(), last = std::prev(frames.end());
    return distance(first->first) > distance(last->first) ? first : last;
}

/// The first picture before that one that is there at full size and small.
FrameCache::Frames::iterator FrameCache::firstInBoth(std::int64_t before)
{
    const auto end = m_full.lower_bound(before);
    const auto it = std::find_if(m_full.begin(), end, [this](const auto& full) { return m_small.count(full.first) > 0; });
    return it == end ? m_full.end() : it;
}

void FrameCache::insert(Frames& frames, std::size_t& sum, std::int64_t frame, DecodedFrame decoded)
{
    const std::size_t bytes = decoded.bytes;
    const auto [it, isNew] = frames.try_emplace(frame, std::move(decoded));
    if (isNew)
        sum += bytes;
}

void FrameCache::erase(Frames& frames, std::size_t& sum, Frames::const_iterator it)
{
    sum -= it->second.bytes;
    frames.erase(it);
}

/// Lets full planes go. Halving is the costly part and is done without holding up those who read.
void FrameCache::shrink(std::unique_lock<std::mutex>& lock, Frames::const_iterator it)
{
    const std::int64_t frame = it->first;
    const DecodedFrame full = it->second;
    erase(m_full, m_fullBytes, it);
    const bool isWorthIt =
        m_small.empty() || bytesTaken() + full.bytes / 4 <= m_ceiling || distance(frame) < distance(farthest(m_small)->first);
    if (m_small.count(frame) > 0 || !isWorthIt)
        return;
    lock.unlock();
    DecodedFrame half = halved(full);
    lock.lock();
    if (!half.isEmpty() && m_full.count(frame) == 0)
        insert(m_small, m_smallBytes, frame, std::move(half));
}

void FrameCache::makeRoom(std::unique_lock<std::mutex>& lock)
{
    const auto share = static_cast<std::size_t>(kFullShare * static_cast<double>(m_ceiling));
    while (m_fullBytes > share && m_full.size() > kFewest)
        shrink(lock, farthest(m_full));
    m_fullMost = std::min(std::max(m_fullMost, m_fullBytes), share);
    while (bytesTaken() > m_ceiling && !m_small.empty()) {
        const auto both = firstInBoth(m_playhead - kBehindReading); // can be made again when the full planes go
        erase(m_small, m_smallBytes, both != m_full.end() ? m_small.find(both->first) : farthest(m_small));
    }
}

} // namespace kestrel::media
