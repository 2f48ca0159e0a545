#pragma once

#include "core/flight/ball.h"

#include <functional>
#include <optional>
#include <vector>

namespace kestrel {

/// Metres a second squared, downward.
inline constexpr double kGravity = 9.80665;

/// A ball in the vertical plane of its flight: x along the ground toward the target from where it leaves, z up from the ground.
struct FlightState {
    double t = 0;          ///< seconds from leaving
    double x = 0, z = 0;   ///< metres, of its centre
    double vx = 0, vz = 0; ///< metres a second
    bool operator==(const FlightState&) const = default;

    double speed() const;
    double angle() const; ///< degrees from the horizontal, up positive
};

/// What flies through what. Gravity; drag with the square of the speed; lift square to the path by spin about the horizontal
/// axis, with the lift coefficient S / (0.4 + 2.32 S), S the surface's speed over the ball's: the fit to measured baseballs by
/// Nathan and others (Cross and Lindsey for tennis have nearly the same). Spin does not fade.
struct FlightModel {
    double mass = 0.145, diameter = 0.0737, drag = 0.35; ///< as FlightBall
    double density = 1.204;                              ///< of the air; 0: none
    double backspin = 0;                                 ///< turns a minute; lifts, and negative as topspin presses down
    bool hasLift = true;

    static FlightModel of(const FlightBall&, double density, double backspin);
    /// Joules, of motion and height.
    double energy(const FlightState&) const;
};

/// How far each step may be wrong, metres.
inline constexpr double kFlightTolerance = 1e-6;

/// Leaves at a height with a speed and an angle.
FlightState leaving(double height, double speed, double angleDegrees);

/// Flies until \p reached crosses zero from below, which is found to well below the tolerance. Steps adapt (Dormand and Prince,
/// order 5). Empty: it does not within \p mostSeconds, or falls below \p lowest first.
/// \param path  if given, receives the states on the way, the last included
std::optional<FlightState> fly(const FlightModel&, FlightState, const std::function<double(const FlightState&)>& reached,
                               double mostSeconds = 20, double lowest = -50, std::vector<FlightState>* path = nullptr,
                               double tolerance = kFlightTolerance);
std::optional<FlightState> flyToDistance(const FlightModel&, const FlightState&, double x,
                                         std::vector<FlightState>* path = nullptr);
/// On its way down.
std::optional<FlightState> flyDownTo(const FlightModel&, const FlightState&, double z, std::vector<FlightState>* path = nullptr);

/// Where a function crosses zero between two places at which its signs differ; bisection, as far as the number goes. Empty: they
/// do not differ, or it has no value somewhere.
std::optional<double> solveBetween(const std::function<std::optional<double>(double)>&, double low, double high);

/// A smooth function's zero from two guesses, kept between two limits; a few steps where bisection needs dozens. Empty: it does
/// not come closer.
std::optional<double> solveNear(const std::function<std::optional<double>(double)>&, double a, double b, double low, double high);

/// The speed with which something that leaves at an angle (degrees) passes a height at a distance. Empty: none does.
std::optional<double> speedAtAngle(const FlightModel&, double height, double angle, double distance, double targetHeight);
/// The flatter angle (degrees) at which something with that speed passes a height at a distance. Empty: it does not reach it.
std::optional<double> flatAngleTo(const FlightModel&, double height, double speed, double distance, double targetHeight);
/// The least speed that reaches it at any angle, and that angle in degrees.
struct LeastSpeed {
    double speed = 0, angle = 0;
};
std::optional<LeastSpeed> leastSpeedTo(const FlightModel&, double height, double distance, double targetHeight);

} // namespace kestrel
