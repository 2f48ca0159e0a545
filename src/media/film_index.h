#pragma once

#include "core/base/error.h"
#include "core/base/time.h"
#include "media/ffmpeg.h"

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace kestrel::media {

/// Where every picture of a film is, in the order of showing, in the stream's own ticks.
struct FilmIndex {
    struct Entry {
        std::int64_t pts = 0;      ///< presentation ticks
        std::int64_t duration = 0; ///< ticks, 0 unknown
        bool operator==(const Entry&) const = default;
    };
    AVRational tick{1, 1000};       ///< seconds
    std::vector<Entry> entries;     ///< by pts
    std::vector<std::int64_t> keys; ///< presentation ticks of the key frames, rising
    /// True when timestamps are missing or doubled: ticks then cannot name a picture, and pictures are counted from
    /// the start instead.
    bool countOnly = false;
    bool sawDamage = false;

    /// When each picture appears, from the first.
    std::vector<MediaTime> shown() const;

    /// Notes a packet of the picture stream as it is read.
    void note(const AVPacket&);
    /// Brings everything into the order of showing, once all packets are noted.
    void sort();

    std::optional<std::int64_t> findOrdinal(std::int64_t pts) const;
    /// Ticks of the last key frame shown no later; empty before the first.
    std::optional<std::int64_t> keyBefore(std::int64_t pts) const;

    /// Compact bytes to keep; a few for each picture.
    std::string toBytes() const;
    /// Empty: these bytes are damaged or from another version.
    static std::optional<FilmIndex> fromBytes(const std::string&);
};

} // namespace kestrel::media
