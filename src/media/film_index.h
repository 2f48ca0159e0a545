#pragma once

#include "core/error.h"
#include "media/ffmpeg.h"

#include <cstdint>
#include <optional>
#include <stop_token>
#include <vector>

namespace kestrel::media {

/// Where every picture of a film is, in the order of showing, in the stream's own ticks.
struct FilmIndex {
    struct Entry {
        std::int64_t pts = 0;      ///< presentation ticks
        std::int64_t duration = 0; ///< ticks, 0 unknown
    };
    struct KeyFrame {
        std::int64_t pts = 0;
        std::int64_t seekTo = 0; ///< ticks at which the demuxer finds it
    };
    std::vector<Entry> entries; ///< by pts
    std::vector<KeyFrame> keys; ///< by pts
    /// True when timestamps are missing or doubled: ticks then cannot name a picture, and pictures are counted from
    /// the start instead.
    bool countOnly = false;
    bool sawDamage = false;

    std::optional<std::int64_t> findOrdinal(std::int64_t pts) const;
    /// The last key frame shown no later; null before the first.
    const KeyFrame* keyBefore(std::int64_t pts) const;
};

/// Reads every packet of the stream once, without decoding, and leaves the demuxer at its end.
Expected<FilmIndex> scanPackets(AVFormatContext&, int stream, std::stop_token);

} // namespace kestrel::media
