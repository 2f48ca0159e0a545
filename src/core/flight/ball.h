#pragma once

#include "core/base/error.h"

#include <string>
#include <vector>

namespace kestrel {

/// A ball or puck as it flies. Read from data/balls.json.
struct FlightBall {
    std::string id, name;
    double mass = 0, diameter = 0;    ///< kilograms, metres
    double drag = 0;                  ///< coefficient of quadratic drag
    double dragLow = 0, dragHigh = 0; ///< what papers give
    double spin = 0;                  ///< usual, turns a minute
    bool hasLift = true;              ///< spin bends its path
    std::string source;
    bool operator==(const FlightBall&) const = default;

    double radius() const { return diameter / 2; }
    double area() const; ///< square metres, as the air meets it
};

Expected<std::vector<FlightBall>> loadBalls(const std::string& file);
/// Those that come with the program.
Expected<std::vector<FlightBall>> shippedBalls();
/// Errors: NotFound with the names there are.
Expected<FlightBall> findBall(const std::string& id);

/// Where something is played, by age: distances, net and hoop. Read from data/places.json.
struct PlayPlace {
    std::string id, name, sport, ball;
    int from = 0, to = 0;            ///< years, inclusive
    double distance = 0, height = 0; ///< metres, of a court to the net and of the net; 0: none
    double mound = 0;                ///< metres that the pitcher stands above the plate
    double line = 0;                 ///< metres from the net to the service line; 0: none
    bool operator==(const PlayPlace&) const = default;
};
Expected<std::vector<PlayPlace>> shippedPlaces();

/// Kilograms a cubic metre, of dry air by the barometric formula of the standard atmosphere.
/// \param celsius  temperature \param metres  above the sea
double airDensity(double celsius, double metres);

} // namespace kestrel
