#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/scene/marking_json.h"
#include "media/film.h"
#include "vision/point_follow.h"

#include <nlohmann/json.hpp>

namespace kestrel::cli {

VerbResult follow(const Words& words, Streams io)
{
    Arguments args(words, {"marking", "landmark", "out"});
    const std::string file = args.onlyPlain("a film file");
    const std::string markingFile = args.required("marking"), name = args.required("landmark"), out = args.required("out");
    const auto landmark = findLandmark(name);
    if (!name.empty() && !landmark)
        args.complain("--landmark is a point such as ankle.left, implement.tip, ball or ref.NAME; \"" + name + "\" is none.");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    auto marking = loadMarking(markingFile);
    if (!marking)
        return tl::unexpected(marking.error());
    std::vector<vision::Seed> seeds;
    for (const auto& m : marking->marks)
        if (m.landmark == *landmark && m.source == Source::Coach)
            seeds.push_back({m.frame, m.at});
    if (seeds.empty())
        return fail(ErrorCode::NotFound,
                    "Nobody marked " + name + " by hand (\"source\": \"coach\"): there is nothing to follow it from.",
                    markingFile, "/marks");
    const auto film = media::Film::open(file);
    if (!film)
        return tl::unexpected(film.error());
    const std::int64_t frames = film->info().frames();
    const auto trajectory = vision::followPoint(file, seeds, {FrameIndex(0), FrameIndex(frames - 1), film->indexBytes(), {}, {}});
    if (!trajectory)
        return tl::unexpected(trajectory.error());
    for (const auto& p : *trajectory) // a coach's own marks stay
        setMark(*marking, {p.frame, *landmark, p.at, p.sigma, Source::Tracked, true});
    if (auto saved = saveMarking(*marking, out); !saved)
        return tl::unexpected(saved.error());
    io.out << printed(
        nlohmann::json{{"landmark", name}, {"frames", frames}, {"seeds", seeds.size()}, {"followed", trajectory->size()}}, 2);
    return static_cast<int>(static_cast<std::int64_t>(trajectory->size() + seeds.size()) >= frames ? Done : PartlyDone);
}

} // namespace kestrel::cli
