#pragma once

#include "core/pack/pack_folder.h"
#include "sim/simulate.h"
#include "vision/film_marks.h"

#include <iostream>
#include <optional>
#include <string>
#include <vector>

namespace kestrel::bench {

/// A right-hander's first variant, at 1280x720 with the usual noise and blur.
inline sim::SimulateOptions filmOf(const sim::SimSkill& skill, std::uint32_t seed, double rate)
{
    sim::SimulateOptions o;
    o.skill = skill.id;
    o.motion.variant = skill.variants.front().id;
    o.motion.school = skill.schools.front().id;
    o.motion.seed = seed;
    o.frameRate = rate;
    return o;
}

/// A painted film with what the program marked on it.
struct MarkedFilm {
    sim::Simulated truth;
    FrameClock clock;
    std::int64_t seen = 0; ///< pictures on which somebody was seen
    std::vector<Mark> marks;
};

/// The network that a table's second argument names: "quick", "usual" or "thorough"; the usual one when there is none.
/// Empty, with the reason on standard error, when none is called so.
inline std::optional<vision::BodyNetwork> networkOf(int argc, char** argv)
{
    const std::string word = argc > 2 ? argv[2] : "usual";
    const auto network = vision::findBodyNetwork(word);
    if (!network)
        std::cerr << "No network is called " << word << ".\n";
    return network;
}

/// Paints it into that file. Empty, with the reason on standard error, when it cannot be painted.
inline std::optional<MarkedFilm> markedFilm(const sim::SimulateOptions& o, const Pack& pack, const std::string& file,
                                            vision::BodyNetwork body)
{
    auto s = sim::simulate(o);
    const auto saved = s ? sim::saveClip(*s, file) : Expected<void>(tl::unexpected(s.error()));
    if (!saved) {
        std::cerr << saved.error().text() << "\n";
        return std::nullopt;
    }
    const std::int64_t frames = s->truth.film.frames;
    MarkedFilm film{std::move(*s), evenClock(frames, o.frameRate), 0, {}};
    vision::TrackOptions options;
    options.models = shippedFolder("models");
    options.body = body;
    if (const auto track = vision::trackPose(file, options)) {
        film.seen = track->seen();
        film.marks = vision::filmMarks(file, *track, pack, film.truth.truth.athlete.hand, o.camera.view, film.clock,
                                       {FrameIndex(0), FrameIndex(frames - 1), {}, {}, {}});
    }
    return film;
}

} // namespace kestrel::bench
