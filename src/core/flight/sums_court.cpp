// Serve window, a step in, jump shot.

#include "core/flight/sum_tools.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel::sums {

namespace {

using Line = SumPicture::Line;
constexpr double kDegrees = 180 / std::numbers::pi;

// a full tennis court: baseline to net, the net's height in the middle, net to service line; metres
constexpr double kNet = 11.885, kNetHeight = 0.914, kServiceLine = 6.40;
constexpr double kRing = 0.45; // inner diameter of a basketball ring

struct ServeWindow {
    double lowest = 0, highest = 0;
};

/// Angles between which a serve down the middle clears the net and lands in.
Expected<ServeWindow> serveWindow(const SumInput& in, double height)
{
    const FlightModel m = model(in, -get(in, "spin")); // topspin presses down
    const double speed = get(in, "speed"), net = get(in, "net-distance") - get(in, "contact-ahead"),
                 netHeight = get(in, "net-height"), line = get(in, "line"), radius = in.ball->radius();
    const auto overNet = [&](double angle) -> std::optional<double> {
        const auto there = flyToDistance(m, leaving(height, speed, angle), net);
        return there ? std::optional(there->z - netHeight - radius) : std::nullopt;
    };
    const auto beyondLine = [&](double angle) -> std::optional<double> {
        const auto down = flyDownTo(m, leaving(height, speed, angle), radius);
        return down ? std::optional(down->x - net - line) : std::nullopt;
    };
    constexpr double kSteep = -60, kHigh = 40;
    const double straight = std::atan2(netHeight - height, net) * kDegrees; // to the net's top, and the ball falls besides
    auto lowest = solveNear(overNet, straight + 1, straight + 2, kSteep, kHigh);
    if (!lowest) // slow balls: a good way off the straight line
        lowest = solveBetween([&](double angle) { return std::optional(overNet(angle).value_or(-1e3)); }, kSteep, kHigh);
    auto highest = lowest ? solveNear(beyondLine, *lowest, *lowest + 1, kSteep, kHigh) : std::nullopt;
    if (!highest)
        highest = solveBetween(beyondLine, kSteep, kHigh);
    if (!lowest)
        return fail(ErrorCode::BadArgument, "At that speed the ball does not get over the net: serve faster, or from nearer.");
    if (!highest)
        return fail(ErrorCode::BadArgument, "At that speed the ball always lands in front of the line.");
    return ServeWindow{*lowest, *highest};
}

SumCard serveWindowCard()
{
    SumCard card{"serve_window",
                 "Serve window",
                 "Between which angles does a serve clear the net and land in?",
                 "tennis",
                 {{"contact-height", "Contact height", "m", 1, 3.6, 2.6, 0.03},
                  {"contact-ahead", "Contact inside the baseline", "m", -1, 3, 0.3, 0.05},
                  {"speed", "Speed at contact", "m/s", 8, 75, 42, 1},
                  {"spin", "Topspin", "turns a minute", -4000, 6000, 1500, 250},
                  {"net-distance", "Baseline to net", "m", 5, kNet, kNet, 0},
                  {"net-height", "Net, in the middle", "m", 0.6, 1.1, kNetHeight, 0},
                  {"line", "Net to service line", "m", 3, kServiceLine, kServiceLine, 0}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            return serveWindow(i, get(i, "contact-height")).map([](const ServeWindow& w) {
                return Values{
                    {"window", std::max(0.0, w.highest - w.lowest)}, {"lowest_angle", w.lowest}, {"highest_angle", w.highest}};
            });
        };
        auto results = withRanges(card, in,
                                  {{"window", "degrees", "Window"},
                                   {"lowest_angle", "degrees", "Lowest angle (down is minus)"},
                                   {"highest_angle", "degrees", "Highest angle (down is minus)"}},
                                  exact, 24);
        if (!results)
            return tl::unexpected(results.error());
        SumAnswer a;
        a.results = std::move(*results);
        a.assumes = assumptions(in);
        a.assumes.emplace_back("down the middle; net " + text(get(in, "net-height")) + " m high, service line " +
                               text(get(in, "line")) + " m behind it");
        const double window = a.results[0].value;
        a.sentence = window > 0 ? "There are " + range(a.results[0]) + " in which it is in."
                                : "No angle clears the net and lands in: slower, higher or with more topspin.";
        const auto higher = serveWindow(in, std::min(3.6, get(in, "contact-height") + 0.1));
        const double more = higher ? std::max(0.0, higher->highest - higher->lowest) - window : 0;
        const double share = window > 0 ? more / window : 0;
        a.claim = {"Reaching 10 cm higher opens the window a lot.",
                   share > 0.15 || (window == 0 && more > 0) ? ClaimVerdict::Holds
                   : share > 0.05                            ? ClaimVerdict::Partly
                                                             : ClaimVerdict::DoesNotHold,
                   "It opens it by " + text(more) + " degrees" + (window > 0 ? ", " + text(100 * share) + " % more" : "") +
                       ". The faster the serve, the more each centimetre is worth."};
        const FlightModel m = model(in, -get(in, "spin"));
        const double ahead = get(in, "contact-ahead"), net = get(in, "net-distance") - ahead, netHeight = get(in, "net-height"),
                     line = get(in, "line");
        a.picture.lines = {lineOf({{-ahead, 0}, {net + line + 1, 0}}, Line::Kind::Ground),
                           lineOf({{net, 0}, {net, netHeight}}, Line::Kind::Object, "net"),
                           lineOf({{net + line, 0}, {net + line, 0.15}}, Line::Kind::Object, "line")};
        for (const char* name : {"lowest_angle", "highest_angle"}) {
            std::vector<FlightState> path;
            (void)flyDownTo(m, leaving(get(in, "contact-height"), get(in, "speed"), a.find(name)->value), in.ball->radius(),
                            &path);
            a.picture.lines.push_back(lineOf(path, name[0] == 'l' ? Line::Kind::Path : Line::Kind::Other));
        }
        a.picture.acrossWords = "metres from contact";
        a.picture.upWords = "metres up";
        a.picture.isTrue = false;
        return a;
    };
    return card;
}

Expected<double> driveTime(const SumInput& in, double distance, double speed)
{
    const FlightModel m = model(in, 0);
    const auto angle = flatAngleTo(m, 1.0, speed, distance, 0.9);
    const auto there = angle ? flyToDistance(m, leaving(1.0, speed, *angle), distance) : std::nullopt;
    if (!there) {
        const auto least = leastSpeedTo(m, 1.0, distance, 0.9);
        return fail(ErrorCode::BadArgument, "It does not get there at that speed" +
                                                (least ? ": at least " + text(least->speed) + " m/s." : std::string(".")));
    }
    return there->t;
}

SumCard stepIn()
{
    SumCard card{"step_in",
                 "A step into the court",
                 "What does a step in give, in speed and in time?",
                 "tennis",
                 {{"speed", "Speed of the stroke", "m/s", 5, 70, 30, 0.8},
                  {"step", "Step in", "m", 0.05, 4, 1, 0.05},
                  {"body-speed", "Speed of the body at contact", "m/s", 0, 6, 0.5, 0.2},
                  {"distance", "To the opponent, without the step", "m", 4, 30, 23.8, 0.2}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            const double v = get(i, "speed"), d = get(i, "distance"), near = std::max(1.0, d - get(i, "step"));
            const auto before = driveTime(i, d, v), after = driveTime(i, near, v + get(i, "body-speed")),
                       still = driveTime(i, near, v);
            for (const auto* t : {&before, &after, &still})
                if (!*t)
                    return tl::unexpected(t->error());
            const auto same = solveNear(
                [&](double speed) -> std::optional<double> {
                    const auto t = driveTime(i, d, speed);
                    return t ? std::optional(*after - *t) : std::nullopt;
                },
                v, v * 1.05, 2, 150);
            return Values{{"time_taken", 1000 * (*before - *after)},
                          {"time_share", 100 * (*before - *after) / *before},
                          {"speed_gain", same.value_or(std::nan("")) - v},
                          {"by_distance", 1000 * (*before - *still)},
                          {"flight_time", *after}};
        };
        auto results = withRanges(card, in,
                                  {{"time_taken", "ms", "Taken from the opponent"},
                                   {"time_share", "%", "Of the time in flight"},
                                   {"speed_gain", "m/s", "As if hit faster by"},
                                   {"by_distance", "ms", "Of it by the shorter way"},
                                   {"flight_time", "s", "Time in flight"}},
                                  exact, 16);
        if (!results)
            return tl::unexpected(results.error());
        SumAnswer a;
        a.results = std::move(*results);
        a.assumes = assumptions(in);
        a.assumes.emplace_back("the stroke itself stays as fast; the body's speed is added to it");
        a.sentence = "It takes " + range(a.results[0]) + " from the opponent, " + range(a.results[1]) + ".";
        const double gain = a.find("speed_gain")->value;
        a.claim = {"One step in is ten miles an hour (4.5 m/s).",
                   gain > 4     ? ClaimVerdict::Holds
                   : gain > 2.5 ? ClaimVerdict::Partly
                                : ClaimVerdict::DoesNotHold,
                   "This step is as good as " + text(gain) + " m/s: " + text(get(in, "body-speed")) +
                       " the body carries, the rest is the shorter way. There is no fixed speed in a step."};
        a.picture.lines = {lineOf({{0, 0}, {get(in, "distance"), 0}}, Line::Kind::Ground, "opponent"),
                           lineOf({{0, 1}, {get(in, "distance"), 0.9}}, Line::Kind::Other, "without"),
                           lineOf({{get(in, "step"), 1}, {get(in, "distance"), 0.9}}, Line::Kind::Path, "with the step")};
        a.picture.acrossWords = "metres along the ground";
        a.picture.isTrue = false;
        return a;
    };
    return card;
}

SumCard jumpShot()
{
    SumCard card{"jump_shot",
                 "Jump shot",
                 "At which angle is least speed needed, and how much of the ring does the ball see?",
                 "basketball-7",
                 {{"release-height", "Release height", "m", 0.8, 3.4, 2.2, 0.03},
                  {"distance", "To the ring's middle", "m", 0.8, 12, 4.6, 0.05},
                  {"ring-height", "Ring", "m", 1.5, 3.6, 3.05, 0},
                  {"angle", "Release angle (0: the one of least speed)", "degrees", 0, 85, 0, 1}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            const FlightModel m = model(i, i.hasAir ? i.ball->spin : 0);
            const double height = get(i, "release-height"), d = get(i, "distance"), ring = get(i, "ring-height");
            const auto least = leastSpeedTo(m, height, d, ring);
            if (!least)
                return fail(ErrorCode::BadArgument, "The ring is out of reach.");
            const double angle = get(i, "angle") > 0 ? get(i, "angle") : least->angle;
            const auto speed = get(i, "angle") > 0 ? speedAtAngle(m, height, angle, d, ring) : std::optional(least->speed);
            const auto there = speed ? flyToDistance(m, leaving(height, *speed, angle), d) : std::nullopt;
            if (!there)
                return fail(ErrorCode::BadArgument, "At that angle no speed gets it to the ring: at least " +
                                                        text(std::atan2(ring - height, d) * kDegrees) + " degrees, and more.");
            const double entry = -there->angle();
            return Values{{"entry_angle", entry},
                          {"ring_opening", std::max(0.0, kRing * std::sin(entry / kDegrees))},
                          {"least_speed_angle", least->angle},
                          {"least_speed", least->speed},
                          {"speed", *speed},
                          {"margin", std::max(0.0, kRing * std::sin(entry / kDegrees) - i.ball->diameter)}};
        };
        auto results = withRanges(card, in,
                                  {{"entry_angle", "degrees", "Entry angle (down)"},
                                   {"ring_opening", "m", "What the ball sees of the ring"},
                                   {"least_speed_angle", "degrees", "Angle of least speed"},
                                   {"least_speed", "m/s", "Least speed"},
                                   {"speed", "m/s", "Speed that drops through the middle"},
                                   {"margin", "m", "Room beside the ball"}},
                                  exact, 12);
        if (!results)
            return tl::unexpected(results.error());
        SumAnswer a;
        a.results = std::move(*results);
        a.assumes = assumptions(in);
        a.assumes.emplace_back("ring of 0.45 m");
        a.sentence =
            "It comes down at " + range(a.results[0]) + " and sees " + text(100 * a.results[1].value) + " cm of the ring's 45.";
        // a high set point: 20 cm more, at the angle of least speed
        SumInput high = in;
        high.values["angle"] = 0;
        SumInput low = high;
        high.values["release-height"] = std::min(3.4, get(in, "release-height") + 0.2);
        const auto at = exact(low), higher = exact(high);
        const double steeper = at && higher ? (*higher)[0].second - (*at)[0].second : 0;
        a.claim = {"A high set point flattens the shot.",
                   steeper < -1  ? ClaimVerdict::Holds
                   : steeper < 0 ? ClaimVerdict::Partly
                                 : ClaimVerdict::DoesNotHold,
                   "From 20 cm higher the easiest shot comes down " + text(std::abs(steeper)) + " degrees " +
                       (steeper >= 0 ? "steeper" : "flatter") +
                       ". A flat shot comes from a flat release, not from where the ball was set."};
        const double d = get(in, "distance"), ring = get(in, "ring-height");
        const FlightModel m = model(in, in.hasAir ? in.ball->spin : 0);
        const double angle = get(in, "angle") > 0 ? get(in, "angle") : a.find("least_speed_angle")->value;
        std::vector<FlightState> path;
        (void)flyToDistance(m, leaving(get(in, "release-height"), a.find("speed")->value, angle), d, &path);
        a.picture.lines = {lineOf({{0, 0}, {d + 0.6, 0}}, Line::Kind::Ground),
                           lineOf({{d - kRing / 2, ring}, {d + kRing / 2, ring}}, Line::Kind::Object, "ring"),
                           lineOf(path, Line::Kind::Path)};
        a.picture.acrossWords = "metres to the ring";
        a.picture.upWords = "metres up";
        return a;
    };
    return card;
}

} // namespace

std::vector<SumCard> courtCards()
{
    return {serveWindowCard(), stepIn(), jumpShot()};
}

} // namespace kestrel::sums
