#pragma once

#include "core/base/part_file.h"
#include "media/ffmpeg.h"

#include <optional>
#include <string>

namespace kestrel::media {

/// A film file being written from coded packets. It gets its name only when finish() succeeds; until then, and after
/// any error, nothing stands there.
class FilmFile {
public:
    explicit FilmFile(std::string file) : m_file(std::move(file)) {}
    ~FilmFile();
    FilmFile(const FilmFile&) = delete;
    FilmFile& operator=(const FilmFile&) = delete;

    /// Chooses the container by the file's ending. Errors: BadArgument, CannotWrite.
    Expected<void> choose();
    bool wantsGlobalHeader() const { return m_format->oformat->flags & AVFMT_GLOBALHEADER; }
    /// \param rotation  degrees clockwise a player has to turn it
    Expected<void> begin(const AVCodecContext&, int rotation);
    /// \param packet  in the codec's time base; blank afterwards
    Expected<void> write(AVPacket& packet);
    Expected<void> finish();

private:
    tl::unexpected<Error> named(tl::unexpected<Error>) const;

    std::string m_file;
    std::optional<PartFile> m_part;
    AVFormatContext* m_format = nullptr;
    AVStream* m_stream = nullptr;
    AVRational m_codecTicks{1, 1};
};

} // namespace kestrel::media
