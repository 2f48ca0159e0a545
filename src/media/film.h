#pragma once

#include "core/error.h"
#include "core/time.h"
#include "media/picture.h"

#include <memory>
#include <stop_token>
#include <string>
#include <vector>

namespace kestrel::media {

/// What a film file holds. Sizes are of the upright picture with square pixels.
struct FilmInfo {
    PixelSize size;
    int rotation = 0;             ///< degrees clockwise that were applied to make it upright: 0, 90, 180 or 270
    std::vector<MediaTime> shown; ///< when each picture appears, from the first; strictly rising
    MediaTime duration;           ///< to the end of the last picture
    bool variableRate = false;
    double frameRate = 0; ///< mean, pictures per second of film time; 0 for a single picture
    std::string codec;
    std::vector<std::string> warnings; ///< sentences about damage and oddities; the film is usable all the same

    std::int64_t frames() const { return static_cast<std::int64_t>(shown.size()); }
};

/// An open film. Gives any picture exactly, by ordinal. Not for use from two threads at once. The file is only read.
class Film {
public:
    /// Opens and indexes. Errors: CannotOpen (missing, a folder, no permission), NotAFilm, Cancelled.
    static Expected<Film> open(const std::string& file, std::stop_token stop = {});

    Film(Film&&) noexcept;
    Film& operator=(Film&&) noexcept;
    ~Film();

    const std::string& file() const;
    const FilmInfo& info() const;

    /// That picture, upright, no larger than \p largest (never enlarged), its proportions kept.
    /// Errors: NoSuchFrame; Damaged when the file holds nothing decodable there; Cancelled.
    Expected<Picture> frame(FrameIndex, PixelSize largest = {}, std::stop_token stop = {});

    /// Decoded pictures kept for steps near the last one, bytes. Default 256 MiB.
    void setCacheBudget(std::size_t bytes);
    /// How many pictures were decoded since opening: what a benchmark counts.
    std::int64_t decodedFrames() const;

private:
    class Impl;
    explicit Film(std::unique_ptr<Impl>);
    std::unique_ptr<Impl> m_impl;
};

} // namespace kestrel::media
