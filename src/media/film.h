#pragma once

#include "core/base/error.h"
#include "core/base/time.h"
#include "media/frame_cache.h"
#include "media/picture.h"

#include <functional>
#include <memory>
#include <stop_token>
#include <string>
#include <vector>

namespace kestrel::media {

class PictureConverter;

/// What a film file holds. Sizes are of the upright picture with square pixels.
struct FilmInfo {
    PixelSize size;
    int rotation = 0;             ///< degrees clockwise that were applied to make it upright: 0, 90, 180 or 270
    std::vector<MediaTime> shown; ///< when each picture appears, from the first; strictly rising
    MediaTime duration;           ///< to the end of the last picture
    bool variableRate = false;
    double frameRate = 0;           ///< mean, pictures per second of film time; 0 for a single picture
    double declaredCaptureRate = 0; ///< pictures per second when filmed, where the camera noted it; 0: not noted
    std::string codec;
    std::vector<std::string> warnings; ///< sentences about damage and oddities; the film is usable all the same

    std::int64_t frames() const { return static_cast<std::int64_t>(shown.size()); }
};

/// When each picture of a film appears, from what Film::indexBytes() gave; the film itself is not needed. Empty: the bytes are
/// damaged or from another version.
std::vector<MediaTime> shownTimes(const std::string& indexBytes);

struct OpenOptions {
    std::stop_token stop{};
    /// What indexBytes() gave for the same content earlier: saves reading the whole file. Ignored when damaged.
    std::string knownIndex{};
    double folderRate = 30; ///< pictures a second of a folder of pictures
    /// For reading through a film once: so many pictures about the last one are kept, no more; 0: as many as fit in memory.
    std::size_t kept = 0;
    /// Called once, early, with the first picture at no more than that size, before the film is indexed.
    PixelSize firstPictureSize{};
    std::function<void(const Picture&)> firstPicture{};
    std::function<void(double)> progress{}; ///< of indexing, 0 to 1
};

/// An open film: a file, a single picture, or a folder of numbered pictures. Gives any picture exactly, by ordinal. Not
/// for use from two threads at once, except for cache(). Files are only read.
class Film {
public:
    /// Opens and indexes. Errors: CannotOpen (missing, no permission), NotAFilm, Cancelled.
    static Expected<Film> open(const std::string& file, OpenOptions = {});

    Film(Film&&) noexcept;
    Film& operator=(Film&&) noexcept;
    ~Film();

    const std::string& file() const;
    const FilmInfo& info() const;
    /// To be kept and given to open() the next time.
    std::string indexBytes() const;

    /// That picture, upright, no larger than \p largest (never enlarged), its proportions kept.
    /// Errors: NoSuchFrame; Damaged when the file holds nothing decodable there; Cancelled.
    Expected<Picture> frame(FrameIndex, PixelSize largest = {}, std::stop_token stop = {});

    /// Decodes until that picture has come, unless it is in the cache already. All that is decoded on the way goes to
    /// the cache. \p isUnwanted is asked between pictures; when it says so, the error is Cancelled and nothing is lost.
    Expected<void> decodeTo(FrameIndex, const std::function<bool()>& isUnwanted);
    /// The first frame from which decoding has to start to reach this one: its key frame's.
    FrameIndex groupStart(FrameIndex) const;

    FrameCache& cache() const;
    /// How many pictures were decoded since opening: what a benchmark counts.
    std::int64_t decodedFrames() const;

    /// Turns cached pictures into ones that can be shown, on another thread.
    PictureConverter makeConverter() const;

private:
    class Impl;
    explicit Film(std::unique_ptr<Impl>);
    std::unique_ptr<Impl> m_impl;
};

} // namespace kestrel::media
