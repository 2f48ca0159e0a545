#include "media/film_writer.h"

#include "media/film_file.h"

namespace kestrel::media {

class FilmWriter::Impl {
public:
    Impl(const std::string& name, const FilmWriterSettings& s) : file(name), output(name), settings(s) {}

    Expected<void> open()
    {
        return output.choose()
            .and_then([&] { return encoder.open(settings, output.wantsGlobalHeader()); })
            .and_then([&] { return output.begin(encoder.codec(), settings.rotation); })
            .map_error([&](Error e) { return named(std::move(e)); });
    }

    Expected<void> write(const std::uint8_t* bgra, int stride, MediaTime shown)
    {
        return encoder.encode(bgra, stride, {shown.nanoseconds + settings.start.nanoseconds}, sink()).map_error([&](Error e) {
            return named(std::move(e));
        });
    }

    Expected<void> finish()
    {
        return encoder.flush(sink()).and_then([&] { return output.finish(); }).map_error([&](Error e) {
            return named(std::move(e));
        });
    }

private:
    PictureEncoder::Sink sink()
    {
        return [this](AVPacket& packet) { return output.write(packet); };
    }
    Error named(Error e) const
    {
        e.file = file;
        return e;
    }

    std::string file;
    FilmFile output;
    FilmWriterSettings settings;
    PictureEncoder encoder;
};

Expected<FilmWriter> FilmWriter::open(const std::string& file, const FilmWriterSettings& settings)
{
    auto impl = std::make_unique<Impl>(file, settings);
    if (auto done = impl->open(); !done)
        return tl::unexpected(done.error());
    return FilmWriter(std::move(impl));
}

FilmWriter::FilmWriter(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
FilmWriter::FilmWriter(FilmWriter&&) noexcept = default;
FilmWriter& FilmWriter::operator=(FilmWriter&&) noexcept = default;
FilmWriter::~FilmWriter() = default;

Expected<void> FilmWriter::write(const std::uint8_t* bgra, int stride, MediaTime shown)
{
    return m_impl->write(bgra, stride, shown);
}
Expected<void> FilmWriter::finish()
{
    return m_impl->finish();
}

} // namespace kestrel::media
