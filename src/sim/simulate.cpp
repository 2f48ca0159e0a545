#include "sim/simulate.h"

#include "core/base/error_sample.h"
#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking_json.h"
#include "sim/figure.h"

#include <Eigen/Geometry>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

namespace kestrel::sim {

namespace {

constexpr double kBefore = 0.30, kAfter = 0.35; // seconds of stillness filmed around the movement
constexpr double kMostAmount = 1.5;
constexpr double kWanderRate = 5;   // new directions per second of a hand that holds a camera
constexpr double kSoFarAway = 4000; // metres: no perspective is left

template <class List> std::string listed(const List& list)
{
    std::string text;
    for (const auto& e : list)
        text += (text.empty() ? "" : ", ") + e.id;
    return text;
}

/// The message when the name is not that of one in the list; empty when it is, or when it is empty.
template <class List> std::optional<Error> notOneOf(const std::string& what, const std::string& name, const List& list)
{
    if (name.empty() || std::any_of(list.begin(), list.end(), [&](const auto& e) { return e.id == name; }))
        return std::nullopt;
    return Error{
        ErrorCode::NotFound, "The simulator knows no " + what + " \"" + name + "\"; it knows " + listed(list) + ".", {}, {}};
}

std::optional<Error> checkOptions(const SimulateOptions& o, const SimSkill& skill)
{
    for (const auto& [fault, amount] : o.motion.faults) {
        if (auto e = notOneOf("fault", fault, skill.faults))
            return e;
        if (!(amount >= 0 && amount <= kMostAmount))
            return Error{ErrorCode::BadArgument, "The amount of the fault " + fault + " must lie between 0 and 1.5.", {}, {}};
    }
    if (auto e = notOneOf("variant", o.motion.variant, skill.variants))
        return e;
    const std::string variant = skill.variantOf(o.motion).id;
    for (const auto& f : skill.faults)
        if (o.motion.faults.count(f.id) > 0 && !f.isFor(variant))
            return Error{ErrorCode::BadArgument, "The fault " + f.id + " means nothing in the variant " + variant + ".", {}, {}};
    if (auto e = notOneOf("school", o.motion.school, skill.schools))
        return e;
    struct Limit {
        double value, low, high;
        const char* message;
    };
    const Limit limits[]{
        {o.frameRate, 10, 1000, "The frame rate must lie between 10 and 1000 pictures per second."},
        {o.playbackRate.value_or(o.frameRate), 1, 1000, "The playback rate must lie between 1 and 1000 pictures per second."},
        {o.person.heightMetres, 0.8, 2.3, "The height must lie between 0.8 and 2.3 metres."},
        {o.person.age, 4, 99, "The age must lie between 4 and 99 years."},
        {static_cast<double>(o.motion.style.number), 0, 1e6, "The style must be a number from 0 to a million."},
        {o.motion.tempo, 0.25, 3, "The tempo must lie between 0.25 and 3."},
        {o.camera.distance.value_or(5), 1.5, 1e5, "The camera must stand at least 1.5 metres away."},
        {o.camera.zoom, 0.1, 10, "The zoom must lie between 0.1 and 10."},
        {o.camera.shake, 0, 100, "The shake must lie between 0 and 100 pixels."},
        {o.film.exposure, 0, 1 / o.frameRate, "The exposure must lie between 0 and the time from picture to picture."},
        {o.film.readout, 0, 1 / o.frameRate, "The readout must lie between 0 and the time from picture to picture."},
        {o.film.noise, 0, 100, "The noise must lie between 0 and 100 grey levels."},
        {o.film.dim, 0.02, 3, "The light must lie between 0.02 and 3."},
        {static_cast<double>(o.film.quality), 1, 51, "The quality must lie between 1, best, and 51."},
        {o.film.uneven, 0, 1, "The unevenness must lie between 0 and 1."},
    };
    for (const auto& l : limits)
        if (!(l.value >= l.low && l.value <= l.high))
            return Error{ErrorCode::BadArgument, l.message, {}, {}};
    if (o.size.width < 160 || o.size.height < 120 || o.size.width > 3840 || o.size.height > 3840 || o.size.width % 2 ||
        o.size.height % 2)
        return Error{ErrorCode::BadArgument, "The size must be even, from 160x120 to 3840x3840.", {}, {}};
    if (o.film.rotation % 90 != 0 || o.film.rotation < 0 || o.film.rotation > 270)
        return Error{ErrorCode::BadArgument, "The rotation must be 0, 90, 180 or 270 degrees.", {}, {}};
    return std::nullopt;
}

/// Whether the line of sight to the point passes through another part of the body.
bool isHidden(const Camera& camera, const std::vector<Capsule>& flesh, const Skeleton& body, const Landmark& landmark,
              const Vec3& p)
{
    const bool isOfFace = landmark.part == Part::Nose || landmark.part == Part::Eye || landmark.part == Part::Ear;
    if (isOfFace && (p - body.headCentre).normalized().dot((camera.eye() - p).normalized()) < -0.2)
        return true;
    const Vec3 toPoint = p - camera.eye(), sight = toPoint.normalized();
    constexpr int kSteps = 8;
    for (const auto& c : flesh) {
        if (std::find(c.landmarks.begin(), c.landmarks.end(), landmark) != c.landmarks.end())
            continue;
        for (int i = 0; i <= kSteps; ++i) {
            const double t = static_cast<double>(i) / kSteps, radius = c.radiusA + (c.radiusB - c.radiusA) * t;
            const Vec3 v = c.a + (c.b - c.a) * t - camera.eye();
            const double along = v.dot(sight);
            if (toPoint.norm() - along > radius && (v - sight * along).norm() < 0.85 * radius)
                return true;
        }
    }
    return false;
}

/// When each picture is taken and shown.
void setTimes(Simulated& s, double first, double last)
{
    const auto& o = s.options;
    const ErrorSample sample(o.motion.seed);
    const double slow = o.playbackRate ? o.frameRate / *o.playbackRate : 1;
    const int frames = static_cast<int>(std::ceil((last - first) * o.frameRate));
    for (int f = 0; f < frames; ++f) {
        const double wobble =
            f == 0 ? 0 : 0.45 * o.film.uneven * sample.even(ErrorSample::mix(0x71e, static_cast<std::uint64_t>(f)));
        const double seconds = (f + wobble) / o.frameRate;
        s.shown.push_back(MediaTime::fromSeconds(seconds * slow));
        const bool repeats = o.film.repeatEvery > 0 && f > 0 && f % o.film.repeatEvery == 0;
        s.instants.push_back(repeats ? s.instants.back() : first + seconds);
    }
}

enum class Sight { Looked, Ignored };

/// \param sight  whether it is worth finding out what hides what
void markFrame(Simulated& s, std::size_t frame, Sight sight)
{
    const auto& o = s.options;
    const auto index = FrameIndex(static_cast<std::int64_t>(frame));
    const double seconds = s.instants[frame];
    const Camera camera = s.cameraAt(seconds);
    const Skeleton body = s.bodyAt(seconds);
    const auto flesh = sight == Sight::Looked ? fleshOut(body, s.build) : std::vector<Capsule>{};
    const auto isInside = [&](ImagePoint p) { return p.x >= 0 && p.y >= 0 && p.x < o.size.width && p.y < o.size.height; };
    // a row lower in the picture is taken later
    const auto seenAt = [&](ImagePoint at, const std::function<Vec3(double)>& where) {
        if (o.film.readout > 0)
            for (int round = 0; round < 2; ++round)
                at = camera.project(where(seconds + o.film.readout * (at.y / o.size.height - 0.5)));
        return at;
    };
    for (const auto& [landmark, p] : body.points) {
        const ImagePoint at = seenAt(camera.project(p), [&, l = landmark](double t) { return s.bodyAt(t).points.at(l); });
        s.truth.marks.push_back(
            {index, landmark, at, 0, Source::Simulated, isInside(at) && !isHidden(camera, flesh, body, landmark, p)});
    }
    if (const auto ball = s.ball.at(seconds, body); ball.isThere && camera.depthOf(ball.centre) > 0) {
        const ImagePoint at = seenAt(camera.project(ball.centre), [&](double t) { return s.ball.at(t, s.bodyAt(t)).centre; });
        if (isInside(at))
            s.truth.marks.push_back({index, Landmark{Part::Ball, BodySide::None, {}}, at, 0, Source::Simulated, true});
    }
}

} // namespace

Camera Simulated::cameraAt(double seconds) const
{
    if (options.camera.shake == 0)
        return camera;
    const ErrorSample sample(options.motion.seed + 1);
    const auto wander = [&](std::uint64_t axis) {
        const double at = (seconds + 100) * kWanderRate, whole = std::floor(at), part = at - whole;
        const double smooth = part * part * (3 - 2 * part);
        const auto knot = [&](double n) { return sample.normal(ErrorSample::mix(axis, static_cast<std::uint64_t>(n))); };
        return knot(whole) * (1 - smooth) + knot(whole + 1) * smooth;
    };
    const double degree = options.camera.shake / camera.focal() * 180 / std::numbers::pi;
    return camera.turned(degree * wander(1), degree * wander(2), 0);
}

namespace {

Expected<Simulated> simulateWith(const SimulateOptions& asked, Sight sight)
{
    auto skill = loadSimSkill(asked.skill);
    if (!skill)
        return tl::unexpected(skill.error());
    if (auto e = checkOptions(asked, *skill))
        return tl::unexpected(*e);
    SimulateOptions o = asked;
    if (o.motion.variant.empty())
        o.motion.variant = skill->variants.front().id;
    if (o.motion.school.empty())
        o.motion.school = skill->schools.front().id;
    const Build build{styled(o.person, o.motion.style), skill->dominant, skill->implement, o.hand};
    const Motion motion = skill->motion(o.motion);
    const SimVariant& variant = skill->variantOf(o.motion);
    const BallPath ball(
        variant.ballKind, variant.ball, build, [&](double t) { return place(motion.at(t), build); },
        [&](const std::string& key) { return motion.secondsOf(key); });
    const Camera camera = cameraFor(o.camera, skill->framing, build, o.size);
    Simulated s{o, std::move(*skill), build, motion, ball, camera, {}, {}, {}};
    setTimes(s, motion.begin() - kBefore, motion.end() + kAfter);

    Marking& m = s.truth;
    m.film = {"clip.mp4", o.size.width, o.size.height, static_cast<std::int64_t>(s.frames())};
    m.clock = {o.frameRate, o.playbackRate.value_or(o.frameRate)};
    const Vec3 action(s.skill.framing.x * o.person.heightMetres, 0.5 * o.person.heightMetres, 0);
    const ImagePoint low = camera.project(action), high = camera.project(action + Vec3(0, 0.1, 0));
    const bool isFromAbove = o.camera.view == View::Overhead;
    m.scene = {o.camera.view, targetDirection(camera), isFromAbove ? ImageVector{0, -1} : high - low, scaleFor(camera)};
    m.athlete = {o.hand, o.person.heightMetres, o.person.age};
    m.skill = o.skill;
    m.variant = o.motion.variant;
    const FrameClock clock(s.shown, m.clock.slowFactor());
    for (const auto& key : motion.keys())
        if (!key.keyPosition.empty())
            m.events.push_back(
                {key.keyPosition, clock.positionAt(RealTime{key.seconds - (motion.begin() - kBefore)}), 0, Source::Simulated});
    for (std::size_t f = 0; f < s.frames(); ++f)
        markFrame(s, f, sight);
    return s;
}

} // namespace

Expected<Simulated> simulate(const SimulateOptions& options)
{
    return simulateWith(options, Sight::Looked);
}

std::vector<Reading> trueReadings(const SimulateOptions& options, const Pack& pack)
{
    std::map<View, std::vector<Reading>> byView;
    std::vector<Reading> all;
    for (const auto& m : pack.measures) {
        const View view = m.views.front();
        if (byView.count(view) == 0) {
            SimulateOptions o = options;
            o.camera = {};
            o.camera.view = view;
            o.camera.distance = kSoFarAway;
            o.film = {};
            o.frameRate = 240;
            if (const auto s = simulateWith(o, Sight::Ignored))
                byView[view] = calcReadings(pack, PreparedRepetition(s->truth), {o.motion.school, {}});
        }
        for (const auto& r : byView[view])
            if (r.measure == m.id)
                all.push_back(r);
    }
    return all;
}

namespace {

/// How far outside its band each measure truly is, in margins; none for those inside or without a value.
std::map<std::string, double> excessOf(const SimulateOptions& options, const Pack& pack)
{
    std::map<std::string, double> excess;
    for (const auto& r : trueReadings(options, pack))
        if (r.value && (r.low || r.high)) {
            const double beyond = std::max(r.low ? *r.low - *r.value : 0.0, r.high ? *r.value - *r.high : 0.0);
            if (beyond > 0)
                excess[r.measure] = beyond / std::max(pack.findMeasure(r.measure)->margin, 1e-6);
        }
    return excess;
}

} // namespace

Style fitStyle(const SimulateOptions& options, const Pack& pack, std::uint32_t number)
{
    SimulateOptions o = options;
    o.motion.faults.clear();
    o.motion.style = {};
    const auto usual = excessOf(o, pack);
    const auto total = [&](const Style& style) {
        o.motion.style = style;
        double sum = 0;
        for (const auto& [measure, beyond] : excessOf(o, pack))
            sum += std::max(0.0, beyond - (usual.count(measure) > 0 ? usual.at(measure) : 0.0));
        return sum;
    };
    Style style{number, {}};
    double left = total(style);
    for (std::size_t turn = 0; left > 0; ++turn) {
        Style other = style;
        auto& redraws = other.redraws[turn % kStyleParts];
        if (redraws == kMostRedraws)
            continue;
        ++redraws;
        const double now = total(other);
        // after some rounds parts that do not help grow smaller as well, so that an end is reached
        if (now < left || turn > 3 * kStyleParts) {
            style = other;
            left = now;
        }
        if (style.redraws == decltype(style.redraws){kMostRedraws})
            break;
    }
    return style;
}

nlohmann::json truthJson(const Simulated& s)
{
    nlohmann::json root = toJson(s.truth);
    nlohmann::json simulated{
        {"school", s.options.motion.school}, {"seed", s.options.motion.seed}, {"faults", nlohmann::json::object()}};
    for (const auto& [fault, amount] : s.options.motion.faults)
        simulated["faults"][fault] = amount;
    if (s.options.motion.style.number > 0)
        simulated["style"] = s.options.motion.style.number;
    if (const auto pack = findPack(s.options.skill)) {
        simulated["readings"] = nlohmann::json::object();
        for (const auto& r : trueReadings(s.options, *pack))
            simulated["readings"][r.measure] = finiteOrNull(r.value);
    }
    const auto rounded = [](const Vec3& v) {
        const auto to = [](double x) { return std::round(x * 1e5) / 1e5; };
        return nlohmann::json{to(v.x()), to(v.y()), to(v.z())};
    };
    simulated["camera"] = {{"eye", rounded(s.camera.eye())},
                           {"forward", rounded(s.camera.forward())},
                           {"up", rounded(s.camera.up())},
                           {"focalPixels", s.camera.focal()},
                           {"middle", {s.options.size.width / 2.0, s.options.size.height / 2.0}}};
    nlohmann::json joints = nlohmann::json::array();
    for (std::size_t f = 0; f < s.frames(); ++f) {
        nlohmann::json frame{{"frame", f}};
        const Skeleton body = s.body(f);
        for (const auto& [landmark, p] : body.points)
            frame[nameOf(landmark)] = rounded(p);
        frame["ball"] = rounded(s.ball.at(s.instants[f], body).centre);
        joints.push_back(std::move(frame));
    }
    root["simulated"] = std::move(simulated);
    root["joints3d"] = {{"unit", "m"},
                        {"axes", "x toward the target, y up, z to the right of one who faces the target"},
                        {"frames", std::move(joints)}};
    return root;
}

} // namespace kestrel::sim
