#pragma once

#include "core/base/part_file.h"
#include "media/ffmpeg.h"

#include <optional>
#include <string>
#include <vector>

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
    /// The number of the new stream: pictures first, then sound and captions. \param rotation  degrees clockwise a player has to
    /// turn it
    int addStream(const AVCodecContext&, int rotation = 0);
    /// Once every stream is there.
    Expected<void> begin();
    /// \param packet  in the stream's codec's time base; blank afterwards
    Expected<void> write(AVPacket& packet, int stream = 0);
    Expected<void> finish();

private:
    tl::unexpected<Error> named(tl::unexpected<Error>) const;

    std::string m_file;
    std::optional<PartFile> m_part;
    AVFormatContext* m_format = nullptr;
    std::vector<AVRational> m_codecTicks; // of each stream
};

} // namespace kestrel::media
