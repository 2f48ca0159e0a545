// How well the program marks the body by itself, on painted films: docs/accuracy.md.

#include "core/scene/leg_scale.h"
#include "marked.h"
#include "painted.h"
#include "vision/equipment_marks.h"
#include "vision/propose.h"

#include <QGuiApplication>
#include <QTemporaryDir>

#include <cmath>
#include <cstdio>
#include <map>

using namespace kestrel;

namespace {

constexpr std::uint32_t kSeed = 401;
constexpr double kRate = 60;
/// Points that a coach clicks once to have them followed: the cap's peak or the face, a shoe, a wrist, a racket's end.
/// Right-handed.
const Landmark kFollowed[] = {{Part::Nose, BodySide::None, {}},
                              {Part::Toe, BodySide::Left, {}},
                              {Part::Wrist, BodySide::Right, {}},
                              {Part::ImplementTip, BodySide::None, {}}};
/// Of a limb and the plane of the picture, at most: an angle between two such limbs is seen nearly as it is.
constexpr double kInPlaneDegrees = 30;
constexpr double kFaceDegrees = 10; // nearer than that a face is found as it stands
constexpr Part kJoints[] = {Part::Shoulder, Part::Elbow, Part::Wrist, Part::Hip, Part::Knee, Part::Ankle};

struct Score {
    double error = 0, angleSquares = 0, planeSquares = 0;
    int points = 0, within = 0, honest = 0, angles = 0, planeAngles = 0;
    int positions = 0, found = 0, withinOne = 0, withinTwo = 0;
    std::int64_t frames = 0, seen = 0;

    void add(const Score& o)
    {
        error += o.error, angleSquares += o.angleSquares, planeSquares += o.planeSquares;
        points += o.points, within += o.within, honest += o.honest, angles += o.angles, planeAngles += o.planeAngles;
        positions += o.positions, found += o.found, withinOne += o.withinOne, withinTwo += o.withinTwo;
        frames += o.frames, seen += o.seen;
    }
    void print(const std::string& name) const
    {
        const auto percent = [](double part, double of) { return of > 0 ? 100 * part / of : 0; };
        const auto root = [](double squares, int of) { return of > 0 ? std::sqrt(squares / of) : 0; };
        std::printf("| %s | %.1f | %.1f | %.1f | %.1f | %.1f | %.1f | %.0f of %d | %.1f | %.1f |\n", name.c_str(),
                    percent(seen, frames), points > 0 ? error / points : 0, percent(within, points),
                    root(planeSquares, planeAngles), root(angleSquares, angles), percent(honest, 2 * points),
                    percent(found, positions), positions, percent(withinOne, found), percent(withinTwo, found));
    }
};

using OnFrame = std::map<Landmark, const Mark*>;
std::map<std::int64_t, OnFrame> byFrame(const std::vector<Mark>& marks)
{
    std::map<std::int64_t, OnFrame> all;
    for (const auto& m : marks)
        all[m.frame.value][m.landmark] = &m;
    return all;
}

const Mark* find(const OnFrame& marks, Part part, BodySide side)
{
    const auto it = marks.find({part, side, {}});
    return it == marks.end() ? nullptr : it->second;
}

double trunkOf(const Marking& truth)
{
    double longest = 0;
    for (const auto& [frame, marks] : byFrame(truth.marks)) {
        const Mark *a = find(marks, Part::Shoulder, BodySide::Left), *b = find(marks, Part::Shoulder, BodySide::Right),
                   *c = find(marks, Part::Hip, BodySide::Left), *d = find(marks, Part::Hip, BodySide::Right);
        if (a && b && c && d)
            longest = std::max(longest, (midpoint(a->at, b->at) - midpoint(c->at, d->at)).length());
    }
    return longest;
}

/// Whether the camera sees a limb from one joint to another of the body across, not foreshortened.
bool isInPlane(const sim::Camera& camera, const sim::Vec3& a, const sim::Vec3& b)
{
    const sim::Vec3 sight = (a + b) * 0.5 - camera.eye(), limb = b - a;
    return std::abs(sight.dot(limb)) <= std::sin(Angle::degrees(kInPlaneDegrees).asRadians()) * sight.norm() * limb.norm();
}

void compare(const sim::Simulated& film, const std::vector<Mark>& marks, Score& score, std::map<std::string, Score>& byPart)
{
    const Marking& truth = film.truth;
    const double trunk = trunkOf(truth);
    const auto real = byFrame(truth.marks), seen = byFrame(marks);
    for (const auto& [frame, own] : seen) {
        const auto there = real.find(frame);
        if (there == real.end())
            continue;
        for (const BodySide side : {BodySide::Left, BodySide::Right}) {
            for (const Part part : kJoints) {
                const Mark *a = find(own, part, side), *b = find(there->second, part, side);
                if (!a || !b || !b->visible)
                    continue;
                const auto off = a->at - b->at;
                for (Score* s : {&score, &byPart[std::string(wordOf(part))]}) {
                    s->error += 100 * off.length() / trunk;
                    ++s->points;
                    s->within += off.length() <= 0.1 * trunk;
                    s->honest += (std::abs(off.x) <= 2 * a->sigma) + (std::abs(off.y) <= 2 * a->sigma);
                }
            }
            for (const auto& joint :
                 {std::array{Part::Shoulder, Part::Elbow, Part::Wrist}, std::array{Part::Hip, Part::Knee, Part::Ankle}}) {
                std::array<const Mark*, 3> a{}, b{};
                bool isWhole = true;
                for (std::size_t i = 0; i < 3; ++i) {
                    a[i] = find(own, joint[i], side);
                    b[i] = find(there->second, joint[i], side);
                    isWhole = isWhole && a[i] && b[i] && b[i]->visible;
                }
                if (!isWhole)
                    continue;
                const auto seenAngle = angleAt(a[0]->at, a[1]->at, a[2]->at), realAngle = angleAt(b[0]->at, b[1]->at, b[2]->at);
                if (!seenAngle || !realAngle)
                    continue;
                const double d = seenAngle->asDegrees() - realAngle->asDegrees();
                score.angleSquares += d * d;
                ++score.angles;
                const auto body = film.body(static_cast<std::size_t>(frame));
                if (isInPlane(film.camera, body.at(joint[0], side), body.at(joint[1], side)) &&
                    isInPlane(film.camera, body.at(joint[1], side), body.at(joint[2], side))) {
                    score.planeSquares += d * d;
                    ++score.planeAngles;
                }
            }
        }
    }
}

/// A point found on many pictures, against the truth.
struct Things {
    int visible = 0, found = 0, within = 0, honest = 0;
    void add(const Things& o) { visible += o.visible, found += o.found, within += o.within, honest += o.honest; }
};

Things compareThings(const Marking& truth, const std::vector<Mark>& marks, const Landmark& landmark, double height)
{
    Things t;
    std::map<std::int64_t, const Mark*> real;
    for (const auto& m : truth.marks)
        if (m.landmark == landmark) {
            real[m.frame.value] = &m;
            t.visible += m.visible;
        }
    for (const auto& m : marks) {
        if (!(m.landmark == landmark))
            continue;
        const auto it = real.find(m.frame.value);
        if (it != real.end() && !it->second->visible) // where it is hidden, nothing can be said of a mark
            continue;
        ++t.found;
        if (it == real.end())
            continue;
        const auto off = m.at - it->second->at;
        t.within += off.length() <= 0.03 * height;
        t.honest += (std::abs(off.x) <= 2 * m.sigma) + (std::abs(off.y) <= 2 * m.sigma);
    }
    return t;
}

/// The line between a face's edges.
struct Faces {
    int visible = 0, found = 0, within = 0;
    void add(const Faces& o) { visible += o.visible, found += o.found, within += o.within; }
    void print(const std::string& name) const
    {
        std::printf("| %s | %d | %.0f | %.0f |\n", name.c_str(), visible, 100.0 * found / std::max(1, visible),
                    100.0 * within / std::max(1, found));
    }
};

/// Where the camera sees at least half of its width. \param halfWidth  pixels
Faces compareFaces(const Marking& truth, const std::vector<Mark>& marks, double halfWidth)
{
    Faces faces;
    const auto real = byFrame(truth.marks), own = byFrame(marks);
    for (const auto& [frame, there] : real) {
        const Mark *a = find(there, Part::ImplementFaceA, BodySide::None), *b = find(there, Part::ImplementFaceB, BodySide::None);
        if (!a || !b || !a->visible || !b->visible || (a->at - b->at).length() < halfWidth)
            continue;
        ++faces.visible;
        const auto seen = own.find(frame);
        const Mark* c = seen == own.end() ? nullptr : find(seen->second, Part::ImplementFaceA, BodySide::None);
        const Mark* d = seen == own.end() ? nullptr : find(seen->second, Part::ImplementFaceB, BodySide::None);
        if (!c || !d)
            continue;
        ++faces.found;
        const auto one = a->at - b->at, other = c->at - d->at;
        faces.within +=
            std::abs(dot(one, other)) >= std::cos(Angle::degrees(kFaceDegrees).asRadians()) * one.length() * other.length();
    }
    return faces;
}

/// A point clicked once where it is seen in the middle of the film, and followed to both ends.
Things compareFollowed(const Marking& truth, const std::string& file, const Landmark& landmark, double height)
{
    std::vector<const Mark*> seen;
    for (const auto& m : truth.marks)
        if (m.landmark == landmark && m.visible)
            seen.push_back(&m);
    if (seen.empty())
        return {};
    const Mark& click = *seen[seen.size() / 2];
    const auto way =
        vision::followPoint(file, {{click.frame, click.at}}, {FrameIndex(0), FrameIndex(truth.film.frames - 1), {}, {}, {}});
    std::vector<Mark> marks;
    if (way)
        for (const auto& p : *way)
            marks.push_back({p.frame, landmark, p.at, p.sigma, Source::Tracked, true});
    return compareThings(truth, marks, landmark, height);
}

} // namespace

/// Arguments: one skill only, or "all"; "quick" or "thorough" for another network than the usual one.
int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    const std::string only = argc > 1 ? argv[1] : "all";
    const auto body = bench::networkOf(argc, argv);
    if (!body)
        return 1;
    const QTemporaryDir folder;
    std::printf(
        "# How well the program marks by itself\n\n"
        "Made by `./kestrel tables`: a painted film of each skill's first variant from the side and from behind, right-handed, "
        "%.0f pictures a "
        "second at "
        "1280x720 with the usual\n"
        "noise and blur of the simulated camera; what the %s network sees, mended and smoothed, against the truth, for "
        "shoulders, elbows,\nwrists, hips, knees and ankles that the camera can see. No offset was fitted to the simulated "
        "skeleton.\n\n"
        "*Error*: mean distance, %% of the trunk's length (goal 4.5). *Within*: nearer than a tenth of it (95). *In plane*: root "
        "mean square error of elbows and\nknees whose both limbs lie within %.0f degrees of the picture's plane, degrees (5); "
        "*angles*: of all as the picture shows them. *Honest*: the true point within two stated deviations, each way "
        "(90 to 98). *Positions*: key positions found of those\nthat have a detector (from behind those that a pack names one "
        "for there, and those that go by heights "
        "or a first move), and of the found "
        "ones within one (90) and "
        "two "
        "pictures (98).\n\n"
        "| film | seen, %% | error | within, %% | in plane | angles | honest, %% | positions, %% | +-1, %% | +-2, %% |\n"
        "|---|---|---|---|---|---|---|---|---|---|\n",
        kRate, std::string(vision::wordOf(*body)).c_str(), kInPlaneDegrees);
    Score all;
    std::map<std::string, Score> byPart;
    std::vector<std::pair<std::string, Things>> tips, balls;
    std::vector<std::pair<std::string, Faces>> faces;
    std::map<std::string, Things> followed;
    const bool isWhole = bench::eachSkill([&](const sim::SimSkill& skill, const Pack& pack) {
        if (only != "all" && only != skill.id)
            return;
        for (const View view : {View::Side, View::Rear}) {
            sim::SimulateOptions o = bench::filmOf(skill, kSeed, kRate);
            o.camera.view = view;
            const std::string file = (folder.path() + QStringLiteral("/clip.mp4")).toStdString();
            const auto film = bench::markedFilm(o, pack, file, *body);
            if (!film)
                continue;
            const Marking& truth = film->truth.truth;
            Score score;
            score.frames = truth.film.frames;
            score.seen = film->seen;
            if (film->seen > 0) {
                Marking m = truth;
                m.marks = film->marks;
                compare(film->truth, m.marks, score, byPart);
                const std::string name = pack.name + (view == View::Side ? ", side" : ", rear");
                const double height = standingHeight(m.marks, View::Side).value_or(0);
                if (pack.implement)
                    tips.emplace_back(name, compareThings(truth, m.marks, {Part::ImplementTip, BodySide::None, {}}, height));
                if (pack.implement && pack.implement->halfWidth > 0)
                    faces.emplace_back(name, compareFaces(truth, m.marks, pack.implement->halfWidth * height));
                balls.emplace_back(name, compareThings(truth, m.marks, {Part::Ball, BodySide::None, {}}, height));
                for (const Landmark& l : kFollowed)
                    followed[nameOf(l)].add(compareFollowed(truth, file, l, height));
                m.events.clear();
                for (const auto& d : vision::proposeKeyPositions(pack, m, film->clock)) {
                    const Event* real = findEvent(truth, d.keyPosition);
                    if (!real)
                        continue;
                    ++score.positions;
                    if (!d.frame)
                        continue;
                    ++score.found;
                    const double off = std::abs(d.frame->value - real->frame.value);
                    score.withinOne += off <= 1;
                    score.withinTwo += off <= 2;
                }
            }
            score.print(pack.name + (view == View::Side ? ", side" : ", rear"));
            all.add(score);
        }
    });
    all.print("**all**");
    std::printf("\n| joint | points | error, %% of the trunk | within, %% | honest, %% |\n|---|---|---|---|---|\n");
    for (const auto& [part, s] : byPart)
        std::printf("| %s | %d | %.1f | %.1f | %.1f |\n", part.c_str(), s.points, s.error / s.points, 100.0 * s.within / s.points,
                    50.0 * s.honest / s.points);
    std::printf(
        "\n*Tip* of the implement: of the pictures on which the camera sees it, found, and found within 3 %% of standing height "
        "(goal 85);\nof those found the true point within two stated deviations, each way.\n\n"
        "| film | pictures | found, %% | within, %% | honest, %% |\n|---|---|---|---|---|\n");
    Things allTips, allBalls;
    for (const auto& [name, t] : tips) {
        std::printf("| %s | %d | %.1f | %.1f | %.1f |\n", name.c_str(), t.visible, 100.0 * t.found / t.visible,
                    100.0 * t.within / t.visible, t.found > 0 ? 50.0 * t.honest / t.found : 0);
        allTips.add(t);
    }
    std::printf("| **all** | %d | %.1f | %.1f | %.1f |\n", allTips.visible, 100.0 * allTips.found / std::max(1, allTips.visible),
                100.0 * allTips.within / std::max(1, allTips.visible), 50.0 * allTips.honest / std::max(1, allTips.found));
    std::printf("\n*Face*: of the pictures on which the camera sees both its edges and at least half of its width, its edges "
                "found, and of "
                "those\nthe line between them within %.0f degrees of the true one.\n\n"
                "| film | pictures | found, %% | within, %% |\n|---|---|---|---|\n",
                kFaceDegrees);
    Faces allFaces;
    for (const auto& [name, f] : faces) {
        f.print(name);
        allFaces.add(f);
    }
    allFaces.print("**all**");
    std::printf("\n*Ball*: marked on so many pictures, always without a hand or a stick at it; of these within 3 %% of standing "
                "height of "
                "the true one, and honest as above.\n\n"
                "| film | marked | right, %% | honest, %% |\n|---|---|---|---|\n");
    for (const auto& [name, t] : balls) {
        std::printf("| %s | %d | %.0f | %.0f |\n", name.c_str(), t.found, t.found > 0 ? 100.0 * t.within / t.found : 0,
                    t.found > 0 ? 50.0 * t.honest / t.found : 0);
        allBalls.add(t);
    }
    std::printf("| **all** | %d | %.0f | %.0f |\n", allBalls.found, 100.0 * allBalls.within / std::max(1, allBalls.found),
                50.0 * allBalls.honest / std::max(1, allBalls.found));
    std::printf("\n*Followed*: a point clicked once where it is seen in the middle of the film, and followed to both ends or "
                "until lost; all "
                "films above. Of the pictures that show\nit those on which it was followed, and on which it was followed within "
                "3 %% of standing "
                "height; honest of the followed ones as above.\n\n"
                "| point | pictures | followed, %% | within, %% | honest, %% |\n|---|---|---|---|---|\n");
    for (const auto& [name, t] : followed)
        std::printf("| %s | %d | %.0f | %.0f | %.0f |\n", name.c_str(), t.visible, 100.0 * t.found / std::max(1, t.visible),
                    100.0 * t.within / std::max(1, t.visible), 50.0 * t.honest / std::max(1, t.found));
    return isWhole ? 0 : 1;
}
