#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "look/film_image.h"
#include "media/film.h"

#include <cstdio>

namespace kestrel::cli {

VerbResult filmInfo(const Words& words, Streams io)
{
    Arguments args(words, {});
    const std::string file = args.onlyPlain("a film file");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    return media::Film::open(file).map([&](const media::Film& film) {
        const auto& info = film.info();
        const nlohmann::json json{{"frames", info.frames()},
                                  {"width", info.size.width},
                                  {"height", info.size.height},
                                  {"rotation", info.rotation},
                                  {"variableRate", info.variableRate},
                                  {"durationSeconds", finiteOrNull(info.duration.seconds())},
                                  {"frameRate", finiteOrNull(info.frameRate)},
                                  {"codec", info.codec},
                                  {"warnings", info.warnings}};
        io.out << printed(json, 2);
        return static_cast<int>(Done);
    });
}

VerbResult filmFrame(const Words& words, Streams)
{
    Arguments args(words, {"index", "out"});
    const std::string file = args.onlyPlain("a film file");
    args.required("index");
    const auto index = args.integer("index", 0, 100'000'000);
    const std::string out = args.required("out");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    auto film = media::Film::open(file);
    if (!film)
        return tl::unexpected(film.error());
    const auto picture = film->frame(FrameIndex(*index));
    if (!picture)
        return tl::unexpected(picture.error());
    if (auto saved = look::saveImage(look::toImage(*picture), out); !saved)
        return tl::unexpected(saved.error());
    return Done;
}

VerbResult filmTimes(const Words& words, Streams io)
{
    Arguments args(words, {});
    const std::string file = args.onlyPlain("a film file");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    return media::Film::open(file).map([&](const media::Film& film) {
        io.out << "index,seconds\n";
        char line[64];
        for (std::int64_t i = 0; i < film.info().frames(); ++i) {
            std::snprintf(line, sizeof line, "%lld,%.6f\n", static_cast<long long>(i),
                          film.info().shown[static_cast<std::size_t>(i)].seconds());
            io.out << line;
        }
        return static_cast<int>(Done);
    });
}

} // namespace kestrel::cli
