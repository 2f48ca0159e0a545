// Pitch plane, flight time, release further out, swing against pitch, leaning back.

#include "core/flight/sum_tools.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel::sums {

namespace {

using Line = SumPicture::Line;
constexpr double kDegrees = 180 / std::numbers::pi;

Error outOfReach(const FlightModel& m, double height, double distance, double target)
{
    const auto least = leastSpeedTo(m, height, distance, target);
    return {ErrorCode::BadArgument,
            "It does not get there at that speed" +
                (least ? ": at least " + text(least->speed) + " m/s are needed." : std::string(".")),
            {},
            {}};
}

/// A pitch from the hand to the plate.
Expected<std::pair<double, FlightState>> pitch(const SumInput& in, double height, double distance, double speed)
{
    const FlightModel m = model(in, get(in, "spin"));
    const double target = get(in, "target-height");
    const auto angle = flatAngleTo(m, height, speed, distance, target);
    const auto there = angle ? flyToDistance(m, leaving(height, speed, *angle), distance) : std::nullopt;
    if (!there)
        return tl::unexpected(outOfReach(m, height, distance, target));
    return std::pair(*angle, *there);
}

const SumVariable kReleaseHeight{"release-height", "Release height", "m", 0.2, 3, 1.75, 0.03};
const SumVariable kSpeed{"speed", "Speed at release", "m/s", 3, 70, 33, 0.6};
const SumVariable kDistance{"distance", "Distance along the ground", "m", 3, 30, 16.8, 0.05};
const SumVariable kMound{"mound", "Mound under the pitcher", "m", 0, 0.4, 0, 0};
const SumVariable kTarget{"target-height", "Height over the plate", "m", 0.1, 3, 0.75, 0};
const SumVariable kSpin{"spin", "Backspin", "turns a minute", -4000, 4000, 1800, 200};

SumCard pitchPlane()
{
    SumCard card{"pitch_plane",
                 "Pitch plane",
                 "How steeply does the pitch arrive, and what does a lower release change?",
                 "baseball",
                 {kReleaseHeight, kSpeed, kDistance, kTarget, kSpin, kMound},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            return pitch(i, get(i, "release-height") + get(i, "mound"), get(i, "distance"), get(i, "speed"))
                .map([](const auto& p) {
                    return Values{{"approach_angle", p.second.angle()},
                                  {"release_angle", p.first},
                                  {"flight_time", p.second.t},
                                  {"speed_at_target", p.second.speed()}};
                });
        };
        SumAnswer a;
        auto results = withRanges(card, in,
                                  {{"approach_angle", "degrees", "Approach angle (down is minus)"},
                                   {"release_angle", "degrees", "Release angle (down is minus)"},
                                   {"flight_time", "s", "Time in flight"},
                                   {"speed_at_target", "m/s", "Speed at the plate"}},
                                  exact);
        if (!results)
            return tl::unexpected(results.error());
        a.results = std::move(*results);
        a.assumes = assumptions(in);
        a.sentence = "It arrives " + range({"", 0, -a.results[0].high, -a.results[0].low, "degrees", ""}) + " downward.";
        const double height = get(in, "release-height") + get(in, "mound"), lowered = std::max(0.2, height - 0.15);
        const auto lower = pitch(in, lowered, get(in, "distance"), get(in, "speed"));
        const double flatter = lower ? lower->second.angle() - a.results[0].value : 0;
        a.claim = {"Sinking 15 cm at release flattens the pitch.",
                   flatter >= 1     ? ClaimVerdict::Holds
                   : flatter > 0.05 ? ClaimVerdict::Partly
                                    : ClaimVerdict::DoesNotHold,
                   "From 15 cm lower it arrives " + text(flatter) + " degrees flatter, out of " + text(-a.results[0].value) +
                       ". A hitter hardly sees that; gravity makes most of the slope."};
        const FlightModel m = model(in, get(in, "spin"));
        std::vector<FlightState> path, below;
        (void)flyToDistance(m, leaving(height, get(in, "speed"), a.results[1].value), get(in, "distance"), &path);
        a.picture.lines = {lineOf({{0, 0}, {get(in, "distance"), 0}}, Line::Kind::Ground)};
        if (lower) {
            (void)flyToDistance(m, leaving(lowered, get(in, "speed"), lower->first), get(in, "distance"), &below);
            a.picture.lines.push_back(lineOf(below, Line::Kind::Other, "15 cm lower"));
        }
        a.picture.lines.push_back(lineOf(path, Line::Kind::Path));
        a.picture.lines.push_back(
            lineOf({{get(in, "distance"), 0.45}, {get(in, "distance"), 1.05}}, Line::Kind::Object, "strike zone"));
        a.picture.acrossWords = "metres along the ground";
        a.picture.upWords = "metres up";
        a.picture.isTrue = false;
        return a;
    };
    return card;
}

Expected<double> timeTo(const SumInput& in, double distance, double speed)
{
    SumInput level = in;
    level.values.emplace("spin", in.ball->spin);
    level.values.emplace("target-height", 0.9);
    return pitch(level, 1.6, distance, speed).map([](const auto& p) { return p.second.t; });
}

/// The speed from a distance that leaves as little time.
double sameTimeSpeed(const SumInput& in, double distance, double seconds, double speed)
{
    const auto over = [&](double v) -> std::optional<double> {
        const auto t = timeTo(in, distance, v);
        return t ? std::optional(seconds - *t) : std::nullopt;
    };
    return solveNear(over, speed, speed * 1.02, 3, 150).value_or(std::nan(""));
}

SumCard flightTime()
{
    SumCard card{"flight_time",
                 "Flight and reaction",
                 "How much time does the hitter have, and what is left to decide?",
                 "baseball",
                 {{"distance", "From release to the plate", "m", 3, 30, 16.8, 0.05},
                  kSpeed,
                  {"swing-time", "The swing itself takes", "s", 0.05, 0.4, 0.17, 0.02},
                  {"see-time", "Seeing and answering takes", "s", 0, 0.4, 0.1, 0.02}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            return timeTo(i, get(i, "distance"), get(i, "speed")).map([&](double t) {
                return Values{{"flight_time", t}, {"time_to_decide", t - get(i, "swing-time") - get(i, "see-time")}};
            });
        };
        auto results =
            withRanges(card, in, {{"flight_time", "s", "Time in flight"}, {"time_to_decide", "s", "Left to decide"}}, exact);
        if (!results)
            return tl::unexpected(results.error());
        SumAnswer a;
        a.results = std::move(*results);
        a.assumes = assumptions(in);
        a.sentence = "The ball is in the air for " + range(a.results[0]) + "; " + range(a.results[1]) + " are left to decide.";
        constexpr double kShort = 0.76; // 14.02 of 18.44 m: the young players' distance
        const auto near = timeTo(in, get(in, "distance") * kShort, get(in, "speed") * kShort);
        const double differs = near ? *near - a.results[0].value : 0;
        a.claim = {"Three quarters of the distance with three quarters of the speed gives the hitter the same time.",
                   std::abs(differs) < 0.01   ? ClaimVerdict::Holds
                   : std::abs(differs) < 0.03 ? ClaimVerdict::Partly
                                              : ClaimVerdict::DoesNotHold,
                   "The nearer, slower pitch takes " + text(1000 * std::abs(differs)) + " ms " +
                       (differs > 0 ? "longer" : "less") + " of " + text(1000 * a.results[0].value) +
                       " ms. A young pitcher's speed is fast from a short mound."};
        const double t = a.results[0].value;
        a.picture.lines = {
            lineOf({{0, 0}, {1000 * t, 0}}, Line::Kind::Ground),
            lineOf({{0, 1}, {1000 * get(in, "see-time"), 1}}, Line::Kind::Other, "see"),
            lineOf({{1000 * get(in, "see-time"), 2}, {1000 * (t - get(in, "swing-time")), 2}}, Line::Kind::Path, "decide"),
            lineOf({{1000 * (t - get(in, "swing-time")), 3}, {1000 * t, 3}}, Line::Kind::Object, "swing")};
        a.picture.acrossWords = "milliseconds from release";
        a.picture.isTrue = false;
        return a;
    };
    return card;
}

SumCard releaseFurther()
{
    SumCard card{"release_further",
                 "Release further out",
                 "What is a release nearer the plate worth?",
                 "baseball",
                 {{"distance", "From release to the plate", "m", 3, 30, 16.8, 0.05},
                  kSpeed,
                  {"further", "Further out by", "m", 0.01, 1.5, 0.3, 0.02}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            const double d = get(i, "distance"), v = get(i, "speed");
            const auto whole = timeTo(i, d, v), near = timeTo(i, d - get(i, "further"), v);
            if (!whole || !near)
                return tl::unexpected((whole ? near : whole).error());
            const double feels = sameTimeSpeed(i, d, *near, v);
            return Values{{"time_taken", 1000 * (*whole - *near)},
                          {"perceived_speed", feels},
                          {"perceived_gain", feels - v},
                          {"flight_time", *near}};
        };
        auto results = withRanges(card, in,
                                  {{"time_taken", "ms", "Taken from the hitter"},
                                   {"perceived_speed", "m/s", "Feels like"},
                                   {"perceived_gain", "m/s", "Feels faster by"},
                                   {"flight_time", "s", "Time in flight"}},
                                  exact, 24);
        if (!results)
            return tl::unexpected(results.error());
        SumAnswer a;
        a.results = std::move(*results);
        a.assumes = assumptions(in);
        a.sentence =
            "It takes " + range(a.results[0]) + " from the hitter, as if the pitch were " + range(a.results[2]) + " faster.";
        const double gain = a.results[2].value, share = get(in, "further") / get(in, "distance"),
                     simple = share * get(in, "speed");
        a.claim = {"Every foot (30 cm) further out is worth a mile an hour (0.45 m/s).",
                   std::abs(gain * 0.3048 / get(in, "further") - 0.447) < 0.12  ? ClaimVerdict::Holds
                   : std::abs(gain * 0.3048 / get(in, "further") - 0.447) < 0.3 ? ClaimVerdict::Partly
                                                                                : ClaimVerdict::DoesNotHold,
                   "Here 30 cm are worth " + text(gain * 0.3048 / get(in, "further")) + " m/s. It grows with the speed: " +
                       text(100 * share) + " % less way is about " + text(simple) + " m/s at this one."};
        const double d = get(in, "distance");
        a.picture.lines = {lineOf({{0, 0}, {d, 0}}, Line::Kind::Ground, "plate"),
                           lineOf({{0, 1.6}, {d, 0.9}}, Line::Kind::Other, "before"),
                           lineOf({{get(in, "further"), 1.6}, {d, 0.9}}, Line::Kind::Path, "further out")};
        a.picture.acrossWords = "metres along the ground";
        a.picture.isTrue = false;
        a.caution =
            "A longer reach for the plate loads the front leg and the arm more: no number here is a reason to overstride.";
        return a;
    };
    return card;
}

SumCard swingMatch()
{
    SumCard card{"swing_match",
                 "Swing and pitch plane",
                 "How long is the bat on the ball's plane?",
                 "",
                 {{"attack-angle", "Attack angle (up is plus)", "degrees", -30, 45, 8, 1.5},
                  {"approach-angle", "The pitch falls by", "degrees", 0, 30, 7, 0.7},
                  {"bat-speed", "Speed of the barrel", "m/s", 5, 50, 27, 1},
                  {"speed", "Speed of the ball at the plate", "m/s", 3, 60, 30, 0.7},
                  {"margin", "How far off centre is still solid", "m", 0.005, 0.05, 0.02, 0.003}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        constexpr double kArc = 0.5; // metres for which a barrel's path can be taken as straight
        const auto lengthAt = [](double attack, const SumInput& i) {
            const double slope = std::abs(std::tan(attack / kDegrees) - std::tan(get(i, "approach-angle") / kDegrees));
            return slope > 2 * get(i, "margin") / kArc ? 2 * get(i, "margin") / slope : kArc;
        };
        const auto windowOf = [](double length, const SumInput& i) {
            const double ball = get(i, "speed"), bat = get(i, "bat-speed");
            return 1000 * length * (ball + bat) / (ball * bat); // where they meet moves with both
        };
        const auto exact = [&](const SumInput& i) -> Expected<Values> {
            const double length = lengthAt(get(i, "attack-angle"), i);
            return Values{{"timing_window", windowOf(length, i)}, {"on_plane_length", length}};
        };
        SumAnswer a;
        a.results =
            *withRanges(card, in, {{"timing_window", "ms", "Timing window"}, {"on_plane_length", "m", "Length on plane"}}, exact);
        a.assumes = {"the barrel goes straight for at most " + text(kArc) + " m about contact",
                     "solid is within " + text(100 * get(in, "margin")) + " cm of the middle"};
        a.sentence = "The swing may be early or late within " + range(a.results[0]) + " in all.";
        const double down = windowOf(lengthAt(-10, in), in), matched = windowOf(lengthAt(get(in, "approach-angle"), in), in);
        a.claim = {
            "Swing down on the ball for more contact.",
            down > 0.9 * matched   ? ClaimVerdict::Holds
            : down > 0.6 * matched ? ClaimVerdict::Partly
                                   : ClaimVerdict::DoesNotHold,
            "Ten degrees down leaves " + text(down) + " ms, along the pitch's own plane " + text(matched) +
                " ms. The ball comes down; a barrel that goes up as much as the ball comes down stays in its way longest."};
        const double reach = 0.6, attack = std::tan(get(in, "attack-angle") / kDegrees),
                     fall = std::tan(get(in, "approach-angle") / kDegrees), margin = get(in, "margin");
        a.picture.lines = {
            lineOf({{-reach, -reach * fall + margin}, {reach, reach * fall + margin}}, Line::Kind::Other),
            lineOf({{-reach, -reach * fall - margin}, {reach, reach * fall - margin}}, Line::Kind::Other, "ball's way"),
            lineOf({{-reach, -reach * attack}, {reach, reach * attack}}, Line::Kind::Path, "barrel")};
        a.picture.acrossWords = "metres toward the pitcher";
        a.picture.upWords = "metres up";
        return a;
    };
    return card;
}

SumCard leanBack()
{
    SumCard card{"lean_back",
                 "Leaning back",
                 "How much time does leaning the trunk back buy?",
                 "",
                 {{"lean", "Leaning back by", "degrees", 0, 45, 17.5, 2},
                  {"trunk", "Hips to eyes", "m", 0.3, 1.1, 0.65, 0.03},
                  {"speed", "Speed of the ball", "m/s", 3, 70, 35, 0.7}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            const double way = get(i, "trunk") * std::sin(get(i, "lean") / kDegrees);
            return Values{{"time_gained", 1000 * way / get(i, "speed")}, {"distance_gained", way}};
        };
        SumAnswer a;
        a.results =
            *withRanges(card, in, {{"time_gained", "ms", "Time gained"}, {"distance_gained", "m", "Further away by"}}, exact);
        a.assumes = {"the hips stay where they are", "the ball keeps its speed over the last stretch"};
        a.sentence = "It buys " + range(a.results[0]) + ".";
        constexpr double kPicture = 1000.0 / 120; // ms: what a coach can see on a usual film
        const double t = a.results[0].value;
        a.claim = {"Leaning back buys a lot of time.",
                   t > 30               ? ClaimVerdict::Holds
                   : t > kPicture * 1.5 ? ClaimVerdict::Partly
                                        : ClaimVerdict::DoesNotHold,
                   text(t) + " ms is " + text(t / kPicture) +
                       " pictures at 120 a second, and a swing takes about 150 ms. The head moves back with the trunk, so the "
                       "ball looks different as well."};
        const double lean = get(in, "lean") / kDegrees, trunk = get(in, "trunk");
        a.picture.lines = {lineOf({{-0.6, 0}, {0.8, 0}}, Line::Kind::Ground, "hips"),
                           lineOf({{0, 0}, {0, trunk}}, Line::Kind::Other, "upright"),
                           lineOf({{0, 0}, {-trunk * std::sin(lean), trunk * std::cos(lean)}}, Line::Kind::Path, "leaning")};
        a.picture.acrossWords = "metres toward the pitcher";
        return a;
    };
    return card;
}

} // namespace

std::vector<SumCard> pitchingCards()
{
    return {pitchPlane(), flightTime(), releaseFurther(), swingMatch(), leanBack()};
}

} // namespace kestrel::sums
