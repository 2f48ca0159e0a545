// Spin, pictures needed, ball speed from a film, repetitions needed.

#include "core/compare/student.h"
#include "core/flight/sum_tools.h"

#include <algorithm>
#include <cmath>

namespace kestrel::sums {

namespace {

using Line = SumPicture::Line;
constexpr double kFewestPictures = 4; // a turn: with fewer, a turn more or less cannot be told

const SumVariable kCaptureRate{"capture-rate", "True capture rate", "pictures a second", 1, 100000, 240, 0};

SumCard spin()
{
    SumCard card{"spin",
                 "Spin",
                 "How fast does the ball turn?",
                 "",
                 {{"revolutions", "Turns counted", "", 0.05, 1000, 2, 0.06},
                  {"frames", "Over so many pictures", "", 1, 100000, 16, 0.3},
                  kCaptureRate},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const double perTurn = get(in, "frames") / get(in, "revolutions");
        const double turns = 60 * get(in, "revolutions") / get(in, "frames") * get(in, "capture-rate");
        if (perTurn < kFewestPictures)
            return fail(ErrorCode::BadArgument,
                        "A turn takes " + text(perTurn) +
                            " pictures; below four a turn more or less cannot be told. Film with at least " +
                            text(std::ceil(kFewestPictures * turns / 60)) + " pictures a second.");
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            return Values{{"spin", 60 * get(i, "revolutions") / get(i, "frames") * get(i, "capture-rate")},
                          {"frames_a_turn", get(i, "frames") / get(i, "revolutions")}};
        };
        SumAnswer a;
        a.results = *withRanges(card, in, {{"spin", "turns a minute", "Spin"}, {"frames_a_turn", "", "Pictures a turn"}}, exact);
        a.assumes = {"the rate the camera really filmed at, not the one the file plays at",
                     "the turns are seen to about " + text(std::round(360 * sigmaOf(in, *card.find("revolutions")))) +
                         " degrees"};
        a.sentence = "It turns " + range(a.results[0]) + ".";
        const double atThirty = 30 * 60 / turns;
        a.claim = {"A telephone at 30 pictures a second can count this spin.",
                   atThirty >= kFewestPictures ? ClaimVerdict::Holds : ClaimVerdict::DoesNotHold,
                   "At 30 a second a turn would take " + text(atThirty) +
                       " pictures; four are the least. A seam that seems to stand "
                       "still may have gone round once."};
        a.picture.lines = {lineOf({{0, 0}, {get(in, "frames"), 0}}, Line::Kind::Ground),
                           lineOf({{0, 0}, {get(in, "frames"), get(in, "revolutions")}}, Line::Kind::Path, "turns")};
        a.picture.acrossWords = "pictures";
        a.picture.upWords = "turns";
        a.picture.isTrue = false;
        return a;
    };
    return card;
}

SumCard framesNeeded()
{
    SumCard card{"frames_needed",
                 "Pictures needed",
                 "How fast must the camera be for an action of that length?",
                 "",
                 {{"action-ms", "The action takes", "ms", 0.1, 10000, 10, 0},
                  {"pictures", "Pictures wanted of it", "", 2, 100, 4, 0},
                  {"speed", "What moves goes", "m/s", 0, 80, 35, 1},
                  {"shutter-ms", "The shutter is open for", "ms", 0.05, 40, 1, 0}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            return Values{{"capture_rate", 1000 * get(i, "pictures") / get(i, "action-ms")},
                          {"blur", 100 * get(i, "speed") * get(i, "shutter-ms") / 1000},
                          {"shutter_for_1cm", get(i, "speed") > 0 ? 10 / get(i, "speed") : 0.0}};
        };
        SumAnswer a;
        a.results = *withRanges(card, in,
                                {{"capture_rate", "pictures a second", "Capture rate"},
                                 {"blur", "cm", "Blur"},
                                 {"shutter_for_1cm", "ms", "Shutter for 1 cm of blur"}},
                                exact);
        a.assumes = {"as many pictures as wanted lie within the action, whenever it begins"};
        a.sentence = "At least " + text(a.results[0].value) + " pictures a second; what moves is smeared over " +
                     range(a.results[1]) + ".";
        const double at = get(in, "action-ms") / 1000 * 30;
        a.claim = {"A film of 30 pictures a second shows it.",
                   at >= get(in, "pictures") ? ClaimVerdict::Holds
                   : at >= 1                 ? ClaimVerdict::Partly
                                             : ClaimVerdict::DoesNotHold,
                   "It would catch " + text(at) + " pictures of it. Between two pictures something at " + text(get(in, "speed")) +
                       " m/s goes " + text(get(in, "speed") / 30) + " m."};
        for (int n = 0; n <= 3; ++n)
            a.picture.marks.push_back({{1000.0 / 30 * n, 0}, "30"});
        for (double t = 0; t <= get(in, "action-ms") + 1e-9 && a.picture.marks.size() < 200; t += 1000 / a.results[0].value)
            a.picture.marks.push_back({{t, 1}, ""});
        a.picture.lines = {lineOf({{0, 0.5}, {get(in, "action-ms"), 0.5}}, Line::Kind::Path, "the action")};
        a.picture.acrossWords = "milliseconds";
        a.picture.isTrue = false;
        return a;
    };
    return card;
}

SumCard ballSpeed()
{
    SumCard card{"ball_speed",
                 "Ball speed from the film",
                 "How fast is the ball, with what the camera adds?",
                 "baseball",
                 {{"distance", "Way on the picture, by the scale", "m", 0.02, 60, 3, 0.03},
                  {"frames", "Pictures it takes", "", 1, 100000, 20, 0.3},
                  kCaptureRate,
                  {"behind", "Ball farther from the camera than the scale", "m", -8, 20, 0, 0.15},
                  {"camera-distance", "Camera to the scale", "m", 1, 100, 9, 0.3},
                  {"to-release", "Since release it has gone", "m", 0, 30, 0, 0.1}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        if (get(in, "behind") <= -get(in, "camera-distance"))
            return fail(ErrorCode::BadArgument, "The ball would be behind the camera.");
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            const double shown = get(i, "distance") / get(i, "frames") * get(i, "capture-rate");
            const double speed = shown * (1 + get(i, "behind") / get(i, "camera-distance"));
            // drag alone, over a short way: dv/dx = -k v
            const FlightModel m = model(i, 0);
            const double k = m.mass > 0 ? 0.5 * m.density * i.ball->area() * m.drag / m.mass : 0;
            return Values{
                {"speed", speed}, {"speed_at_release", speed * std::exp(k * get(i, "to-release"))}, {"speed_on_picture", shown}};
        };
        SumAnswer a;
        a.results = *withRanges(card, in,
                                {{"speed", "m/s", "Speed"},
                                 {"speed_at_release", "m/s", "At release"},
                                 {"speed_on_picture", "m/s", "As the scale says"}},
                                exact);
        a.assumes = assumptions(in);
        a.assumes.emplace_back("it flies square to the camera's direction");
        a.sentence = "It goes " + range(a.results[0]) + ".";
        const double off = 100 / get(in, "camera-distance");
        a.claim = {"A metre nearer the camera or farther from it does not matter.",
                   off < 2   ? ClaimVerdict::Holds
                   : off < 5 ? ClaimVerdict::Partly
                             : ClaimVerdict::DoesNotHold,
                   "A metre changes the speed by " + text(off) + " % with the camera at " + text(get(in, "camera-distance")) +
                       " m. Put the scale where the ball flies, or the camera farther away."};
        a.picture.lines = {lineOf({{0, 0}, {get(in, "distance"), 0}}, Line::Kind::Path, "ball"),
                           lineOf({{get(in, "distance") / 2, -get(in, "camera-distance")}, {0, 0}}, Line::Kind::Other),
                           lineOf({{get(in, "distance") / 2, -get(in, "camera-distance")}, {get(in, "distance"), 0}},
                                  Line::Kind::Other, "camera's view")};
        a.picture.acrossWords = "metres, from above";
        return a;
    };
    return card;
}

int repetitionsFor(double spread, double change)
{
    constexpr int kMost = 100000;
    const auto shows = [&](int n) { return studentQuantile(0.05, 2.0 * n - 2) * spread * std::sqrt(2.0 / n) <= change; };
    int few = 1, enough = 2; // more repetitions show smaller changes
    while (enough < kMost && !shows(enough)) {
        few = enough;
        enough *= 2;
    }
    while (enough - few > 1) {
        const int middle = (few + enough) / 2;
        (shows(middle) ? enough : few) = middle;
    }
    return enough;
}

SumCard repetitionsNeeded()
{
    SumCard card{"repetitions_needed",
                 "Repetitions needed",
                 "How many repetitions a day show that a change is real?",
                 "",
                 {{"spread", "One repetition differs from the next by", "(standard deviation)", 0.001, 1000, 4, 0.6},
                  {"change", "A change that matters", "(same unit)", 0.001, 1000, 5, 0}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            return Values{{"repetitions", repetitionsFor(get(i, "spread"), get(i, "change"))}};
        };
        SumAnswer a;
        a.results = *withRanges(card, in, {{"repetitions", "a day", "Repetitions"}}, exact, 24);
        a.assumes = {"both days have as many", "called real where chance does so less than once in twenty (Student's t)",
                     "the camera stands where it stood"};
        a.sentence = "About " + range(a.results[0]) + ".";
        constexpr double kOnce = 2; // a film before and a film after
        a.claim = {"One film before and one after show it.",
                   a.results[0].value <= kOnce ? ClaimVerdict::Partly : ClaimVerdict::DoesNotHold,
                   "Two repetitions of one day already differ by " + text(std::sqrt(2.0) * get(in, "spread")) +
                       " as a rule. Only several of each day tell chance from change."};
        for (int n = 2; n <= 20; ++n)
            a.picture.marks.push_back(
                {{static_cast<double>(n), studentQuantile(0.05, 2.0 * n - 2) * get(in, "spread") * std::sqrt(2.0 / n)}, ""});
        a.picture.lines = {lineOf({{2, get(in, "change")}, {20, get(in, "change")}}, Line::Kind::Path, "the change")};
        a.picture.acrossWords = "repetitions a day";
        a.picture.upWords = "least change that shows";
        a.picture.isTrue = false;
        return a;
    };
    return card;
}

} // namespace

std::vector<SumCard> filmCards()
{
    return {spin(), framesNeeded(), ballSpeed(), repetitionsNeeded()};
}

} // namespace kestrel::sums
