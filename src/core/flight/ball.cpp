#include "core/flight/ball.h"

#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"

#include <cmath>
#include <numbers>

namespace kestrel {

double FlightBall::area() const
{
    return std::numbers::pi * radius() * radius();
}

Expected<std::vector<FlightBall>> loadBalls(const std::string& file)
{
    const auto root = loadJson(file);
    if (!root)
        return tl::unexpected(root.error());
    if (auto e = checkFormat(*root, "jolly-kestrel/balls", file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    std::vector<FlightBall> balls;
    for (const auto& n : JsonNode(*root, "", problems).at("balls").items()) {
        FlightBall b;
        b.id = n.at("id").words();
        b.name = n.at("name").words();
        b.mass = n.at("mass").numberIn(0.0005, 20);
        b.diameter = n.at("diameter").numberIn(0.005, 1);
        b.drag = n.at("drag").numberIn(0, 3);
        const auto range = n.at("dragRange").numbersOrNulls();
        if (range.size() != 2 || !range[0] || !range[1] || *range[0] > b.drag || *range[1] < b.drag)
            n.at("dragRange").wrong("expected two numbers about the drag coefficient");
        else
            std::tie(b.dragLow, b.dragHigh) = std::pair(*range[0], *range[1]);
        b.spin = n.numberOr("spin", 0);
        b.hasLift = !n.booleanOr("noLift", false);
        b.source = n.textOr("source", "");
        balls.push_back(std::move(b));
    }
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return balls;
}

Expected<std::vector<FlightBall>> shippedBalls()
{
    return loadBalls(shippedFolder("data") + "/balls.json");
}

Expected<FlightBall> findBall(const std::string& id)
{
    const auto balls = shippedBalls();
    if (!balls)
        return tl::unexpected(balls.error());
    std::string known;
    for (const auto& b : *balls) {
        if (b.id == id)
            return b;
        known += (known.empty() ? "" : ", ") + b.id;
    }
    return fail(ErrorCode::NotFound, "There is no ball \"" + id + "\"; there are " + known + ".");
}

Expected<std::vector<PlayPlace>> shippedPlaces()
{
    const std::string file = shippedFolder("data") + "/places.json";
    const auto root = loadJson(file);
    if (!root)
        return tl::unexpected(root.error());
    if (auto e = checkFormat(*root, "jolly-kestrel/places", file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    std::vector<PlayPlace> places;
    for (const auto& n : JsonNode(*root, "", problems).at("places").items())
        places.push_back({n.at("id").words(), n.at("name").words(), n.at("sport").words(), n.at("ball").words(),
                          static_cast<int>(n.at("from").integerIn(0, 120)), static_cast<int>(n.at("to").integerIn(0, 120)),
                          n.numberOr("distance", 0), n.numberOr("height", 0), n.numberOr("mound", 0), n.numberOr("line", 0)});
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return places;
}

double airDensity(double celsius, double metres)
{
    constexpr double kGas = 287.05; // joules a kilogram and kelvin, dry air
    const double pressure = 101325 * std::pow(1 - 2.25577e-5 * metres, 5.25588);
    return pressure / (kGas * (celsius + 273.15));
}

} // namespace kestrel
