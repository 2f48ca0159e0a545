#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/scene/ground_plane.h"
#include "core/scene/marking_json.h"

#include <nlohmann/json.hpp>

#include <cmath>
#include <sstream>

namespace kestrel::cli {

namespace {

struct Spot {
    ImagePoint at;
    double sigma = kCarefulClick; // pixels
};

/// "812,640", or a mark: "ankle.left@120".
Expected<Spot> readSpot(const std::string& text, const Marking& marking, const std::string& file)
{
    if (const auto split = text.find('@'); split != std::string::npos) {
        const auto landmark = findLandmark(text.substr(0, split));
        std::istringstream number(text.substr(split + 1));
        std::int64_t frame = -1;
        if (landmark && number >> frame && number.eof()) {
            if (const Mark* mark = findMark(marking, FrameIndex(frame), *landmark))
                return Spot{mark->at, std::max(mark->sigma, 0.1)};
            return fail(ErrorCode::NotFound, "Nobody marked " + text + ".", file, "/marks");
        }
    } else {
        std::istringstream numbers(text);
        Spot spot;
        char comma = 0;
        if (numbers >> spot.at.x >> comma >> spot.at.y && comma == ',' && numbers.eof() && std::isfinite(spot.at.x + spot.at.y))
            return spot;
    }
    return fail(ErrorCode::BadArgument,
                "A point is X,Y in pixels, or a mark as LANDMARK@FRAME such as ankle.left@120; \"" + text + "\" is neither.");
}

} // namespace

VerbResult ground(const Words& words, Streams io)
{
    Arguments args(words, {"marking", "from", "to"});
    args.noPlain();
    const std::string file = args.required("marking"), from = args.required("from"), to = args.required("to");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto marking = loadMarking(file);
    if (!marking)
        return tl::unexpected(marking.error());
    const auto plane = GroundPlane::fit(marking->scene.ground);
    if (!plane)
        return fail(plane.error().code, plane.error().message, file, "/scene/ground");
    const auto a = readSpot(from, *marking, file), b = readSpot(to, *marking, file);
    if (!a)
        return tl::unexpected(a.error());
    if (!b)
        return tl::unexpected(b.error());
    const auto distance = plane->distance(a->at, b->at, std::max(a->sigma, b->sigma));
    if (!distance)
        return fail(ErrorCode::BadArgument, "A point at or above the horizon does not lie on the ground.", file);
    io.out << printed(
        nlohmann::json{
            {"metres", distance->metres}, {"sigma", distance->sigma}, {"misses", plane->misses()}, {"caution", kGroundCaution}},
        2);
    return static_cast<int>(Done);
}

} // namespace kestrel::cli
