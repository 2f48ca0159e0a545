#include "sim/likeness.h"

#include "core/scene/camera_place.h"
#include "core/scene/prepared_repetition.h"

#include <algorithm>
#include <cmath>

namespace kestrel::sim {

namespace {

constexpr std::size_t kLeastPictures = 20; // on which both ends are marked
constexpr double kLongest = 0.9;           // the share of pictures that show a limb shorter than this
constexpr double kUnsure = 0.03;           // of standing height: marks that are farther off tell nothing
constexpr double kMostUnusual = 0.15;      // a body that differs by more is not believed

/// Lengths on the picture.
class Lengths {
public:
    /// \param mostSigma  pixels
    Lengths(const Marking& marking, double mostSigma) : m_marking(marking), m_mostSigma(mostSigma) {}

    /// Of a limb as its longest pictures show it, pixels; 0: too few of them.
    double of(const Landmark& from, const Landmark& to) const
    {
        std::vector<double> all;
        for (std::int64_t n = 0; n < m_marking.film.frames; ++n) {
            const Mark* a = findMark(m_marking, FrameIndex(n), from);
            const Mark* b = findMark(m_marking, FrameIndex(n), to);
            if (a && b && std::max(a->sigma, b->sigma) <= m_mostSigma)
                all.push_back((b->at - a->at).length());
        }
        if (all.size() < kLeastPictures)
            return 0;
        const auto at = all.begin() + static_cast<std::ptrdiff_t>(kLongest * static_cast<double>(all.size()));
        std::nth_element(all.begin(), at, all.end());
        return *at;
    }
    /// Of the side that is seen longer.
    double ofEither(Part from, Part to) const
    {
        return std::max(of({from, BodySide::Left, {}}, {to, BodySide::Left, {}}),
                        of({from, BodySide::Right, {}}, {to, BodySide::Right, {}}));
    }
    double across(Part part) const { return of({part, BodySide::Left, {}}, {part, BodySide::Right, {}}); }

private:
    const Marking& m_marking;
    double m_mostSigma;
};

/// Against what is usual; 1 where it is not known or not believed.
double shareOf(double seen, double usual)
{
    const double share = usual > 0 ? seen / usual : 0;
    return std::abs(share - 1) <= kMostUnusual ? share : 1;
}

/// Where the feet are on the ground, at the first picture that shows an ankle.
std::optional<GroundPlace> feetOf(const Marking& marking, const GroundPlane& ground)
{
    for (std::int64_t n = 0; n < marking.film.frames; ++n)
        for (const auto side : {BodySide::Left, BodySide::Right})
            if (const Mark* ankle = findMark(marking, FrameIndex(n), {Part::Ankle, side, {}}))
                return ground.at(ankle->at, ankle->sigma);
    return std::nullopt;
}

} // namespace

Person personOf(const Marking& marking)
{
    Person person;
    person.heightMetres = marking.athlete.heightMetres.value_or(person.heightMetres);
    person.age = marking.athlete.age.value_or(person.age);
    const PreparedRepetition prepared(marking);
    if (!prepared.scene().hasScale())
        return person;
    const Proportions usual = proportionsOf(person);
    const double tall = person.heightMetres / prepared.scene().metresPerPixel(); // pixels
    const Lengths lengths(marking, kUnsure * tall);
    const double upper = lengths.ofEither(Part::Shoulder, Part::Elbow), fore = lengths.ofEither(Part::Elbow, Part::Wrist);
    if (upper > 0 && fore > 0)
        person.arms = shareOf(upper + fore, (usual.upperArm + usual.forearm) * tall);
    const double thigh = lengths.ofEither(Part::Hip, Part::Knee), shank = lengths.ofEither(Part::Knee, Part::Ankle);
    if (thigh > 0 && shank > 0)
        person.thighs = shareOf(thigh / (thigh + shank), usual.thigh / (usual.thigh + usual.shank));
    if (isFromEnd(marking.scene.view)) {
        const double hips = lengths.across(Part::Hip), shoulders = lengths.across(Part::Shoulder);
        if (hips > 0 && shoulders > 0)
            person.breadth = shareOf(hips + shoulders, 2 * (usual.halfHips + usual.halfShoulders) * tall);
    }
    return person;
}

SimulateOptions optionsLike(const Marking& player, const std::string& skill, const std::string& school)
{
    constexpr double kNearest = 2, kFarthest = 40, kLowest = 0.2, kHighest = 6; // metres: where a coach may stand
    SimulateOptions o;
    o.skill = skill;
    o.motion.variant = player.variant;
    o.motion.school = school;
    o.camera.view = player.scene.view;
    o.hand = player.athlete.hand;
    o.person = personOf(player);
    if (const auto ground = GroundPlane::fit(player.scene.ground))
        if (const auto camera = cameraPlace(*ground, player.film.width, player.film.height))
            if (const auto feet = feetOf(player, *ground)) {
                const double away = std::hypot(camera->x - feet->x, camera->y - feet->y);
                if (away >= kNearest && away <= kFarthest && camera->height >= kLowest && camera->height <= kHighest) {
                    o.camera.distance = away;
                    o.camera.height = camera->height;
                }
            }
    return o;
}

} // namespace kestrel::sim
