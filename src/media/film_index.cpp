#include "media/film_index.h"

#include <algorithm>
#include <limits>

namespace kestrel::media {

namespace {

constexpr std::int64_t kBytesVersion = 2, kMostEntries = 50'000'000, kMostTick = std::numeric_limits<int>::max();

/// Small numbers of either sign take one byte.
void append(std::string& out, std::int64_t value)
{
    auto bits = (static_cast<std::uint64_t>(value) << 1) ^ static_cast<std::uint64_t>(value >> 63);
    for (; bits >= 0x80; bits >>= 7)
        out.push_back(static_cast<char>(bits | 0x80));
    out.push_back(static_cast<char>(bits));
}

/// Reads what append() wrote; remembers when there was nothing to read.
class ByteReader {
public:
    explicit ByteReader(const std::string& bytes) : m_bytes(bytes) {}
    std::int64_t next()
    {
        std::uint64_t bits = 0;
        for (unsigned shift = 0; shift < 64; shift += 7) {
            if (m_at >= m_bytes.size())
                break;
            const auto byte = static_cast<std::uint8_t>(m_bytes[m_at++]);
            bits |= static_cast<std::uint64_t>(byte & 0x7f) << shift;
            if (byte < 0x80)
                return static_cast<std::int64_t>(bits >> 1) ^ -static_cast<std::int64_t>(bits & 1);
        }
        m_isGood = false;
        return 0;
    }
    std::size_t left() const { return m_bytes.size() - m_at; }
    bool isGood() const { return m_isGood; }

private:
    const std::string& m_bytes;
    std::size_t m_at = 0;
    bool m_isGood = true;
};

/// Wraps like the hardware does, so that hostile bytes cannot overflow.
std::int64_t plus(std::int64_t a, std::int64_t b)
{
    return static_cast<std::int64_t>(static_cast<std::uint64_t>(a) + static_cast<std::uint64_t>(b));
}
std::int64_t minus(std::int64_t a, std::int64_t b)
{
    return static_cast<std::int64_t>(static_cast<std::uint64_t>(a) - static_cast<std::uint64_t>(b));
}

} // namespace

void FilmIndex::note(const AVPacket& packet)
{
    if (packet.flags & AV_PKT_FLAG_DISCARD)
        return; // edit lists cut such pictures away
    if (packet.flags & AV_PKT_FLAG_CORRUPT) {
        sawDamage = true; // cut off in the middle: not a picture
        return;
    }
    countOnly = countOnly || packet.pts == AV_NOPTS_VALUE;
    entries.push_back({packet.pts, packet.duration});
    if (packet.flags & AV_PKT_FLAG_KEY)
        keys.push_back(packet.pts);
}

void FilmIndex::sort()
{
    std::sort(entries.begin(), entries.end(), [](const auto& a, const auto& b) { return a.pts < b.pts; });
    std::sort(keys.begin(), keys.end());
    const auto doubled =
        std::adjacent_find(entries.begin(), entries.end(), [](const auto& a, const auto& b) { return a.pts == b.pts; });
    countOnly = countOnly || doubled != entries.end();
}

std::optional<std::int64_t> FilmIndex::findOrdinal(std::int64_t pts) const
{
    const auto it =
        std::lower_bound(entries.begin(), entries.end(), pts, [](const Entry& e, std::int64_t t) { return e.pts < t; });
    if (it == entries.end() || it->pts != pts)
        return std::nullopt;
    return it - entries.begin();
}

std::optional<std::int64_t> FilmIndex::keyBefore(std::int64_t pts) const
{
    const auto it = std::upper_bound(keys.begin(), keys.end(), pts);
    return it == keys.begin() ? std::nullopt : std::optional(*std::prev(it));
}

std::vector<MediaTime> FilmIndex::shown() const
{
    constexpr AVRational kNanoseconds{1, 1'000'000'000};
    std::vector<MediaTime> times;
    times.reserve(entries.size());
    for (const auto& e : entries)
        times.push_back({av_rescale_q(minus(e.pts, entries.front().pts), tick, kNanoseconds)});
    return times;
}

std::string FilmIndex::toBytes() const
{
    std::string out;
    append(out, kBytesVersion);
    append(out, tick.num);
    append(out, tick.den);
    append(out, (countOnly ? 1 : 0) + (sawDamage ? 2 : 0));
    append(out, static_cast<std::int64_t>(entries.size()));
    append(out, static_cast<std::int64_t>(keys.size()));
    std::int64_t last = 0, lastStep = 0;
    for (const auto& e : entries) { // even steps become zeros
        const std::int64_t step = minus(e.pts, last);
        append(out, minus(step, lastStep));
        append(out, minus(e.duration, step));
        lastStep = step;
        last = e.pts;
    }
    last = 0;
    for (const auto key : keys) {
        append(out, minus(key, last));
        last = key;
    }
    return out;
}

std::optional<FilmIndex> FilmIndex::fromBytes(const std::string& bytes)
{
    ByteReader in(bytes);
    if (in.next() != kBytesVersion)
        return std::nullopt;
    FilmIndex index;
    const std::int64_t num = in.next(), den = in.next();
    if (num <= 0 || den <= 0 || num > kMostTick || den > kMostTick)
        return std::nullopt;
    index.tick = {static_cast<int>(num), static_cast<int>(den)};
    const std::int64_t flags = in.next();
    index.countOnly = flags & 1;
    index.sawDamage = flags & 2;
    const std::int64_t entries = in.next(), keys = in.next();
    if (entries <= 0 || entries > kMostEntries || keys < 0 || keys > entries ||
        static_cast<std::uint64_t>(entries) > in.left() / 2)
        return std::nullopt;
    index.entries.resize(static_cast<std::size_t>(entries));
    std::int64_t last = 0, step = 0;
    for (auto& e : index.entries) {
        step = plus(step, in.next());
        e.pts = plus(last, step);
        e.duration = plus(step, in.next());
        last = e.pts;
    }
    index.keys.resize(static_cast<std::size_t>(keys));
    last = 0;
    for (auto& key : index.keys)
        last = key = plus(last, in.next());
    const auto notRising = [](const Entry& a, const Entry& b) { return a.pts >= b.pts; };
    const bool rises = std::adjacent_find(index.entries.begin(), index.entries.end(), notRising) == index.entries.end() &&
                       std::is_sorted(index.keys.begin(), index.keys.end());
    if (!in.isGood() || in.left() > 0 || !rises)
        return std::nullopt;
    return index;
}

} // namespace kestrel::media
