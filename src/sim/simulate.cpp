#include "sim/simulate.h"

#include "core/marking_json.h"
#include "sim/body.h"
#include "sim/painter.h"

#include "media/film_writer.h"
#include <Eigen/Geometry>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

namespace kestrel::sim {

namespace {

constexpr double kBefore = 0.30, kAfter = 0.35; // seconds of stillness filmed around the movement
constexpr double kGravity = 9.81;
constexpr double kMostAmount = 1.5;

template <class List> std::string listed(const List& names)
{
    std::string text;
    for (const auto& n : names)
        text += (text.empty() ? "" : ", ") + n;
    return text;
}

/// The message when a name is not one of the list; empty when it is, or when it is empty.
std::optional<Error> notOneOf(const std::string& what, const std::string& name, const std::vector<std::string>& names)
{
    if (name.empty() || std::find(names.begin(), names.end(), name) != names.end())
        return std::nullopt;
    return Error{
        ErrorCode::NotFound, "The simulator knows no " + what + " \"" + name + "\"; it knows " + listed(names) + ".", {}, {}};
}

std::optional<Error> checkOptions(const SimulateOptions& o, const SimSkill& skill)
{
    std::vector<std::string> faults;
    for (const auto& f : skill.faults)
        faults.push_back(f.id);
    for (const auto& [fault, amount] : o.motion.faults) {
        if (auto e = notOneOf("fault", fault, faults))
            return e;
        if (!(amount >= 0 && amount <= kMostAmount))
            return Error{ErrorCode::BadArgument, "The amount of the fault " + fault + " must lie between 0 and 1.5.", {}, {}};
    }
    if (auto e = notOneOf("variant", o.motion.variant, skill.variants))
        return e;
    if (auto e = notOneOf("school", o.motion.school, skill.schools))
        return e;
    const auto bad = [](const char* message) { return Error{ErrorCode::BadArgument, message, {}, {}}; };
    if (!(o.frameRate >= 10 && o.frameRate <= 1000))
        return bad("The frame rate must lie between 10 and 1000 pictures per second.");
    if (o.size.width < 160 || o.size.height < 120 || o.size.width > 3840 || o.size.height > 3840 || o.size.width % 2 ||
        o.size.height % 2)
        return bad("The size must be even, from 160x120 to 3840x3840.");
    if (!(o.heightMetres >= 0.8 && o.heightMetres <= 2.3))
        return bad("The height must lie between 0.8 and 2.3 metres.");
    if (!(o.age >= 4 && o.age <= 99))
        return bad("The age must lie between 4 and 99 years.");
    return std::nullopt;
}

/// Whether the line of sight to the point passes through another part of the body.
bool isHidden(const Camera& camera, const std::vector<Capsule>& flesh, const Skeleton& body, double headRadius,
              const Landmark& landmark, const Vec3& p)
{
    const Vec3 sight = (p - camera.eye()).normalized();
    const auto covers = [&](const Vec3& centre, double radius) {
        const Vec3 v = centre - camera.eye();
        const double along = v.dot(sight);
        return (p - camera.eye()).norm() - along > radius && (v - sight * along).norm() < 0.85 * radius;
    };
    const bool onHead =
        landmark.part == Part::Nose || landmark.part == Part::Eye || landmark.part == Part::Ear || landmark.part == Part::Neck;
    if (onHead ? landmark.part != Part::Neck && (p - body.headCentre).normalized().dot((camera.eye() - p).normalized()) < -0.2
               : covers(body.headCentre, headRadius))
        return true;
    constexpr int kSteps = 8;
    for (const auto& c : flesh) {
        if (std::find(c.landmarks.begin(), c.landmarks.end(), landmark) != c.landmarks.end())
            continue;
        for (int i = 0; i <= kSteps; ++i) {
            const double t = static_cast<double>(i) / kSteps;
            if (covers(c.a + (c.b - c.a) * t, c.radiusA + (c.radiusB - c.radiusA) * t))
                return true;
        }
    }
    return false;
}

Vec3 ballInHand(const Skeleton& body, Hand hand)
{
    const BodySide side = hand == Hand::Right ? BodySide::Right : BodySide::Left;
    const Vec3 wrist = body.at(Part::Wrist, side), tip = body.at(Part::Hand, side);
    return tip + (tip - wrist).normalized() * 0.035;
}

} // namespace

Expected<Simulated> simulate(const SimulateOptions& asked)
{
    const SimSkill* skill = findSimSkill(asked.skill);
    if (!skill) {
        std::vector<std::string> ids;
        for (const auto& s : simSkills())
            ids.push_back(s.id);
        return tl::unexpected(*notOneOf("skill", asked.skill.empty() ? "?" : asked.skill, ids));
    }
    if (auto e = checkOptions(asked, *skill))
        return tl::unexpected(*e);
    const auto camera = cameraFor(asked.view, asked.hand, asked.heightMetres, asked.size);
    if (!camera)
        return fail(ErrorCode::NotFound, "The simulator does not film from the view \"" + std::string(wordOf(asked.view)) +
                                             "\"; it knows side, rear.");

    Simulated done{asked, *camera, {}, {}, {}};
    SimulateOptions& o = done.options;
    if (o.motion.variant.empty())
        o.motion.variant = skill->variants.front();
    if (o.motion.school.empty())
        o.motion.school = skill->schools.front();
    const Motion motion = skill->motion(o.motion);
    const double first = motion.begin() - kBefore;
    const int frames = static_cast<int>(std::ceil((motion.end() + kAfter - first) * o.frameRate));
    const double releaseAt = motion.secondsOf(skill->releaseAt);
    const auto bodyAt = [&](double seconds) { return place(motion.at(seconds), o.heightMetres, o.hand); };
    const Vec3 releasePoint = ballInHand(bodyAt(releaseAt), o.hand);
    const Vec3 releaseVelocity(13.0 * o.heightMetres, 0.6, 0);

    Marking& m = done.truth;
    m.film = {"clip.mp4", o.size.width, o.size.height, frames};
    m.clock = {o.frameRate, o.playbackRate.value_or(o.frameRate)};
    m.scene = {o.view, usualTargetDirection(o.view, o.hand), {0, -1}, scaleFor(*camera, o.view)};
    m.athlete = {o.hand, o.heightMetres, o.age};
    m.skill = o.skill;
    m.variant = o.motion.variant;
    for (const auto& key : motion.keys())
        if (!key.keyPosition.empty())
            m.events.push_back({key.keyPosition, FramePosition((key.seconds - first) * o.frameRate), 0, Source::Simulated});
    for (int f = 0; f < frames; ++f) {
        const double seconds = first + f / o.frameRate;
        const Skeleton body = bodyAt(seconds);
        const auto flesh = fleshOut(body, o.heightMetres, o.hand);
        for (const auto& [landmark, p] : body.points)
            m.marks.push_back({FrameIndex(f), landmark, camera->project(p), 0, Source::Simulated,
                               !isHidden(*camera, flesh, body, proportions::kHeadRadius * o.heightMetres, landmark, p)});
        Vec3 ball = ballInHand(body, o.hand);
        if (const double flown = seconds - releaseAt; flown > 0)
            ball = releasePoint + releaseVelocity * flown - Vec3(0, kGravity / 2 * flown * flown, 0);
        const ImagePoint seen = camera->project(ball);
        if (seen.x >= 0 && seen.y >= 0 && seen.x < o.size.width && seen.y < o.size.height && ball.y() > 0)
            m.marks.push_back({FrameIndex(f), Landmark{Part::Ball, BodySide::None, {}}, seen, 0, Source::Simulated, true});
        done.bodies.push_back(body);
        done.ball.push_back(ball);
    }
    return done;
}

Expected<void> saveClip(const Simulated& s, const std::string& file, const std::function<void(int, int)>& progress,
                        std::stop_token stop)
{
    media::FilmWriterSettings settings;
    settings.size = s.options.size;
    settings.frameRate = s.truth.clock.playback;
    auto writer = media::FilmWriter::open(file, settings);
    if (!writer)
        return tl::unexpected(writer.error());
    const ScenePainter painter(s.camera, s.options.heightMetres, s.options.hand, lookOf(s.options.look));
    const int frames = static_cast<int>(s.bodies.size());
    for (int f = 0; f < frames; ++f) {
        if (stop.stop_requested())
            return fail(ErrorCode::Cancelled, "Stopped; no film was written.", file);
        const auto i = static_cast<std::size_t>(f);
        const bool ballIsUp = s.ball[i].y() > 0;
        const QImage image = painter.paint(s.bodies[i], ballIsUp ? std::optional(s.ball[i]) : std::nullopt);
        if (auto written = writer->write(image.constBits(), static_cast<int>(image.bytesPerLine()),
                                         MediaTime::fromSeconds(f / s.truth.clock.playback));
            !written)
            return written;
        if (progress)
            progress(f + 1, frames);
    }
    return writer->finish();
}

nlohmann::json truthJson(const Simulated& s)
{
    nlohmann::json root = toJson(s.truth);
    nlohmann::json simulated{
        {"school", s.options.motion.school}, {"seed", s.options.motion.seed}, {"faults", nlohmann::json::object()}};
    for (const auto& [fault, amount] : s.options.motion.faults)
        simulated["faults"][fault] = amount;
    const auto rounded = [](double v) { return std::round(v * 1e5) / 1e5; };
    nlohmann::json joints = nlohmann::json::array();
    for (std::size_t f = 0; f < s.bodies.size(); ++f) {
        nlohmann::json frame{{"frame", f}};
        for (const auto& [landmark, p] : s.bodies[f].points)
            frame[nameOf(landmark)] = {rounded(p.x()), rounded(p.y()), rounded(p.z())};
        frame["ball"] = {rounded(s.ball[f].x()), rounded(s.ball[f].y()), rounded(s.ball[f].z())};
        joints.push_back(std::move(frame));
    }
    root["simulated"] = std::move(simulated);
    root["joints3d"] = {{"unit", "m"},
                        {"axes", "x toward the target, y up, z to the side a right-hander's chest faces at address"},
                        {"frames", std::move(joints)}};
    return root;
}

} // namespace kestrel::sim
