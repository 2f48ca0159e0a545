#pragma once

#include "core/base/error.h"
#include "media/ffmpeg.h"
#include "media/film_index.h"

#include <functional>
#include <memory>
#include <optional>
#include <stop_token>
#include <string>

namespace kestrel::media {

/// What the container says about its picture stream.
struct StreamFacts {
    AVRational timeBase{1, 1000};
    AVRational pixelAspect{0, 1};      ///< width : height of a pixel; 0 not said
    AVRational guessedRate{0, 1};      ///< pictures a second; 0 not known
    int rotation = 0;                  ///< degrees clockwise to make it upright: 0, 90, 180, 270
    std::int64_t declaredFrames = 0;   ///< 0: not said
    double declaredSeconds = 0;        ///< 0: not said
    double declaredCaptureRate = 0;    ///< pictures a second when filmed, as some telephones note it; 0: not said
    std::optional<std::int64_t> start; ///< ticks of the first picture, when the container says it
};

/// Coded pictures one after the other: a film file, or a folder of pictures. Not for use from two threads at once.
class PacketSource {
public:
    virtual ~PacketSource() = default;

    virtual const AVCodecParameters& parameters() const = 0;
    virtual StreamFacts facts() const = 0;
    /// Where every picture is, when that is known without reading it all.
    virtual std::optional<FilmIndex> index() const { return std::nullopt; }
    /// The next packet of the picture stream; false at the end.
    virtual bool read(AVPacket&) = 0;
    /// Goes to the last key frame not after these ticks, or to the start. False: it cannot be done.
    virtual bool seek(std::int64_t ticks) = 0;
    virtual bool rewind() = 0; ///< to the very first packet
    /// How much of it was read, 0 to 1.
    virtual double progress() const = 0;
};

using PacketSourcePtr = std::unique_ptr<PacketSource>;

/// Errors: CannotOpen, NotAFilm, Cancelled. \param stop  also breaks off a read that hangs
Expected<PacketSourcePtr> openContainer(const std::string& file, std::stop_token stop);
/// A folder of numbered pictures of one format, shown at an even rate in the order of their numbers.
Expected<PacketSourcePtr> openPictureFolder(const std::string& folder, double picturesPerSecond);

} // namespace kestrel::media
