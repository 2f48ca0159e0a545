#include "media/film_index.h"

#include <algorithm>

namespace kestrel::media {

std::optional<std::int64_t> FilmIndex::findOrdinal(std::int64_t pts) const
{
    const auto it =
        std::lower_bound(entries.begin(), entries.end(), pts, [](const Entry& e, std::int64_t t) { return e.pts < t; });
    if (it == entries.end() || it->pts != pts)
        return std::nullopt;
    return it - entries.begin();
}

const FilmIndex::KeyFrame* FilmIndex::keyBefore(std::int64_t pts) const
{
    const auto it = std::upper_bound(keys.begin(), keys.end(), pts, [](std::int64_t t, const KeyFrame& k) { return t < k.pts; });
    return it == keys.begin() ? nullptr : &*(it - 1);
}

Expected<FilmIndex> scanPackets(AVFormatContext& format, int stream, std::stop_token stop)
{
    FilmIndex index;
    const PacketPtr packet(av_packet_alloc());
    while (av_read_frame(&format, packet.get()) >= 0) {
        if (stop.stop_requested())
            return fail(ErrorCode::Cancelled, "Opening was cancelled.");
        const AVPacket& p = *packet;
        if (p.stream_index == stream && !(p.flags & AV_PKT_FLAG_DISCARD)) { // edit lists cut such packets away
            if (p.flags & AV_PKT_FLAG_CORRUPT) {
                index.sawDamage = true; // a packet cut off in the middle is not a picture
            } else {
                if (p.pts == AV_NOPTS_VALUE)
                    index.countOnly = true;
                index.entries.push_back({p.pts, p.duration});
                if (p.flags & AV_PKT_FLAG_KEY)
                    index.keys.push_back({p.pts, p.dts == AV_NOPTS_VALUE ? p.pts : std::min(p.pts, p.dts)});
            }
        }
        av_packet_unref(packet.get());
    }
    std::sort(index.entries.begin(), index.entries.end(), [](const auto& a, const auto& b) { return a.pts < b.pts; });
    std::sort(index.keys.begin(), index.keys.end(), [](const auto& a, const auto& b) { return a.pts < b.pts; });
    const auto doubled = std::adjacent_find(index.entries.begin(), index.entries.end(),
                                            [](const auto& a, const auto& b) { return a.pts == b.pts; });
    if (doubled != index.entries.end())
        index.countOnly = true;
    return index;
}

} // namespace kestrel::media
