#pragma once

#include "core/base/error.h"
#include "core/read/reading.h"
#include "core/scene/marking.h"
#include "sim/camera.h"
#include "sim/skill.h"

#include <functional>
#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

namespace kestrel::sim {

/// What can be wrong with a film, each at will.
struct FilmFaults {
    double exposure = 0; ///< seconds the shutter is open; what moves is smeared
    double readout = 0;  ///< seconds from the first row of the picture to the last (rolling shutter)
    double noise = 0;    ///< grey levels, standard deviation
    double dim = 1;      ///< of the light there is
    int quality = 20;    ///< of the coder: smaller is better, as media::EncoderSettings
    double uneven = 0;   ///< 0 to 1: how much the intervals between pictures vary
    int repeatEvery = 0; ///< every so many pictures one repeats the picture before; 0 never
    int rotation = 0;    ///< stored lying, with a note that it has to be turned by 90, 180 or 270 degrees clockwise
};

/// What is filmed, of whom and from where.
struct SimulateOptions {
    std::string skill;
    MotionOptions motion;
    CameraSetup camera;
    double frameRate = 240;             ///< pictures per second of real time
    std::optional<double> playbackRate; ///< as the file plays; empty: true speed
    media::PixelSize size{1280, 720};
    FilmFaults film;
    Hand hand = Hand::Right;
    Person person;
    std::uint32_t look = 0; ///< which of the made-up athletes is seen
};

/// A repetition that never was, known exactly.
class Simulated {
public:
    SimulateOptions options;
    SimSkill skill;
    Build build;
    Motion motion;
    BallPath ball;
    Camera camera;                ///< held still
    std::vector<double> instants; ///< of the motion, seconds, what each picture shows
    std::vector<MediaTime> shown; ///< when each picture is shown, from the first
    Marking truth;                ///< every landmark on every frame, sigma 0; key positions between frames

    std::size_t frames() const { return instants.size(); }
    Skeleton bodyAt(double seconds) const { return place(motion.at(seconds), build); }
    Skeleton body(std::size_t frame) const { return bodyAt(instants[frame]); }
    /// Where the camera wanders to when it is not held still.
    Camera cameraAt(double seconds) const;
};

/// Computes the repetition; no picture is painted. Errors: NotFound for a skill, fault, variant or school the simulator
/// does not know (the message lists those it does), BadArgument for sizes, rates and amounts out of range.
Expected<Simulated> simulate(const SimulateOptions&);

/// Paints and encodes the film. \param progress  pictures done and in all
Expected<void> saveClip(const Simulated&, const std::string& file, const std::function<void(int, int)>& progress = {},
                        std::stop_token stop = {});

/// What each measure of the pack truly is: read without error from so far away that perspective plays no part, from the
/// first view each measure is valid in.
std::vector<Reading> trueReadings(const SimulateOptions&, const Pack&);

/// Draws the parts of a style again until the athlete stays inside every band of the pack that the one of the motion's file stays
/// inside, so that a style is nobody's fault. The options' faults and camera play no part.
Style fitStyle(const SimulateOptions&, const Pack&, std::uint32_t number);

/// The truth as a marking file with the joints in metres, the camera, the faults and the true value of each measure as
/// further keys.
nlohmann::json truthJson(const Simulated&);

} // namespace kestrel::sim
