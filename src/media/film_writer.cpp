#include "media/film_writer.h"

#include "media/caption_encoder.h"
#include "media/film_file.h"
#include "media/sound_encoder.h"

namespace kestrel::media {

class FilmWriter::Impl {
public:
    Impl(const std::string& name, const FilmWriterSettings& s) : file(name), output(name), settings(s) {}

    Expected<void> open()
    {
        return output.choose()
            .and_then([&] { return openStreams(); })
            .and_then([&] { return output.begin(); })
            .map_error([&](Error e) { return named(std::move(e)); });
    }

    Expected<void> write(const std::uint8_t* bgra, int stride, MediaTime shown)
    {
        return encoder.encode(bgra, stride, {shown.nanoseconds + settings.start.nanoseconds}, sink(0)).map_error([&](Error e) {
            return named(std::move(e));
        });
    }

    Expected<void> writeSound(const std::vector<std::int16_t>& samples)
    {
        return sound.encode(samples, sink(soundStream)).map_error([&](Error e) { return named(std::move(e)); });
    }

    Expected<void> writeCaption(const Caption& caption)
    {
        return captions.encode(caption, sink(captionStream)).map_error([&](Error e) { return named(std::move(e)); });
    }

    Expected<void> finish()
    {
        return encoder.flush(sink(0))
            .and_then([&] { return settings.sound.empty() ? Expected<void>() : sound.flush(sink(soundStream)); })
            .and_then([&] { return output.finish(); })
            .map_error([&](Error e) { return named(std::move(e)); });
    }

private:
    Expected<void> openStreams()
    {
        if (auto done = encoder.open(settings, output.wantsGlobalHeader()); !done)
            return done;
        output.addStream(encoder.codec(), settings.rotation);
        if (!settings.sound.empty()) {
            if (auto done = sound.open(settings.sound, output.wantsGlobalHeader()); !done)
                return done;
            soundStream = output.addStream(sound.codec());
        }
        if (!settings.captions.empty()) {
            if (auto done = captions.open(settings.captions); !done)
                return done;
            captionStream = output.addStream(captions.codec());
        }
        return {};
    }

    PictureEncoder::Sink sink(int stream)
    {
        return [this, stream](AVPacket& packet) { return output.write(packet, stream); };
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
    SoundEncoder sound;
    CaptionEncoder captions;
    int soundStream = 0, captionStream = 0;
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
Expected<void> FilmWriter::writeSound(const std::vector<std::int16_t>& samples)
{
    return m_impl->writeSound(samples);
}
Expected<void> FilmWriter::writeCaption(const Caption& caption)
{
    return m_impl->writeCaption(caption);
}
Expected<void> FilmWriter::finish()
{
    return m_impl->finish();
}

} // namespace kestrel::media
