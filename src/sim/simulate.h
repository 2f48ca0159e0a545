#pragma once

#include "core/error.h"
#include "core/marking.h"
#include "sim/camera.h"
#include "sim/skill.h"

#include <functional>
#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

namespace kestrel::sim {

/// What is filmed, of whom and from where.
struct SimulateOptions {
    std::string skill;
    MotionOptions motion;
    View view = View::Side;
    double frameRate = 240;             ///< pictures per second of real time
    std::optional<double> playbackRate; ///< as the file plays; empty: true speed
    media::PixelSize size{1280, 720};
    Hand hand = Hand::Right;
    double heightMetres = 1.62;
    double age = 13;
    std::uint32_t look = 0; ///< which of the made-up athletes is seen
};

/// A repetition that never was, known exactly.
struct Simulated {
    SimulateOptions options;
    Camera camera;
    Marking truth;                ///< every landmark on every frame, sigma 0; key positions between frames
    std::vector<Skeleton> bodies; ///< per frame
    std::vector<Vec3> ball;       ///< per frame
};

/// Computes the repetition; no picture is painted. Errors: NotFound for a skill, fault, variant, school or view the
/// simulator does not know (the message lists those it does), BadArgument for sizes, rates and amounts out of range.
Expected<Simulated> simulate(const SimulateOptions&);

/// Paints and encodes the film. \param progress  pictures done and in all
Expected<void> saveClip(const Simulated&, const std::string& file, const std::function<void(int, int)>& progress = {},
                        std::stop_token stop = {});

/// The truth as a marking file with the joints in metres and the faults as further keys.
nlohmann::json truthJson(const Simulated&);

} // namespace kestrel::sim
