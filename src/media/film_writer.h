#pragma once

#include "core/base/error.h"
#include "core/base/time.h"
#include "media/caption.h"
#include "media/picture_encoder.h"
#include "media/sound.h"

#include <memory>
#include <string>

namespace kestrel::media {

/// How a film is written. The container follows the file's name (.mp4, .mov, .webm, .avi).
struct FilmWriterSettings : EncoderSettings {
    int rotation = 0;       ///< degrees clockwise a player has to turn it; the size is what is stored, before any turning
    MediaTime start{};      ///< time of the first picture in the file
    std::string sound{};    ///< codec, "aac" or "opus"; empty: none
    std::string captions{}; ///< "mov_text" or "webvtt", as a track that can be switched on; empty: none
};

/// Writes pictures to a film file. The file gets its name only when finish() succeeds; until then, and after any
/// error, nothing stands there.
class FilmWriter {
public:
    /// Errors: CannotWrite, BadArgument.
    static Expected<FilmWriter> open(const std::string& file, const FilmWriterSettings&);

    FilmWriter(FilmWriter&&) noexcept;
    FilmWriter& operator=(FilmWriter&&) noexcept;
    ~FilmWriter();

    /// \param bgra   rows of the settings' size, as in Picture
    /// \param shown  from the first picture; later than the last one's
    Expected<void> write(const std::uint8_t* bgra, int stride, MediaTime shown);
    /// Follows what was written before, from the film's beginning. \param samples  one channel, kSoundRate a second
    Expected<void> writeSound(const std::vector<std::int16_t>& samples);
    /// In their order.
    Expected<void> writeCaption(const Caption&);
    Expected<void> finish();

private:
    class Impl;
    explicit FilmWriter(std::unique_ptr<Impl>);
    std::unique_ptr<Impl> m_impl;
};

} // namespace kestrel::media
