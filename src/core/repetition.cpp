#include "core/repetition.h"

#include <algorithm>

namespace kestrel {

namespace {

constexpr double kYawSigma = 5.0 * std::numbers::pi / 180.0;
constexpr double kRollSigma = 0.7 * std::numbers::pi / 180.0;
constexpr double kDepthSigmaOfHeight = 0.10;
constexpr double kScaleLengthSigma = 0.01;
constexpr double kUsualHeight = 1.6; // only where the athlete's height is unknown, and only for the depth above

/// Where a segment's mass sits between its two ends and what share of the body it is: Winter, Biomechanics and Motor
/// Control of Human Movement, anthropometric table after Dempster. A hand counts at the wrist, a foot half-way to the toe.
struct SegmentMass {
    Part from, to;
    double share, along;
};
constexpr SegmentMass kLimbs[] = {{Part::Shoulder, Part::Elbow, 0.028, 0.436}, {Part::Elbow, Part::Wrist, 0.016, 0.430},
                                  {Part::Wrist, Part::Wrist, 0.006, 0},        {Part::Hip, Part::Knee, 0.100, 0.433},
                                  {Part::Knee, Part::Ankle, 0.0465, 0.433},    {Part::Ankle, Part::Toe, 0.0145, 0.5}};
constexpr double kTrunkShare = 0.497, kHeadShare = 0.081;
constexpr Part kMassParts[] = {Part::Ear, Part::Shoulder, Part::Elbow, Part::Wrist,
                               Part::Hip, Part::Knee,     Part::Ankle, Part::Toe};

constexpr std::uint64_t kYawKey = 1, kRollKey = 2, kScaleKey = 3, kDepthKey = 4, kMarkKey = 5;

} // namespace

Repetition::Repetition(Marking marking, FrameClock clock)
    : m_marking(std::move(marking)), m_clock(std::move(clock)), m_frame(m_marking.scene, m_marking.athlete.hand)
{
    for (const auto& m : m_marking.marks)
        m_byLandmark[m.landmark].push_back(m);
    for (auto& [landmark, list] : m_byLandmark)
        std::sort(list.begin(), list.end(), [](const Mark& a, const Mark& b) { return a.frame < b.frame; });
}

Repetition::Repetition(Marking marking) : Repetition(std::move(marking), FrameClock{})
{
    m_clock = evenClock(m_marking.film.frames, m_marking.clock.capture > 0 ? m_marking.clock.capture : 30.0);
}

const std::vector<Mark>& Repetition::marksOf(const Landmark& l) const
{
    static const std::vector<Mark> none;
    const auto it = m_byLandmark.find(l);
    return it == m_byLandmark.end() ? none : it->second;
}

const Mark* PointPath::Series::at(FrameIndex f) const
{
    if (marks->empty())
        return nullptr;
    // tracked films have a mark on every frame: look there first
    const auto guess = f.value - marks->front().frame.value;
    if (guess >= 0 && guess < static_cast<std::int64_t>(marks->size())) {
        const Mark& m = (*marks)[static_cast<std::size_t>(guess)];
        if (m.frame == f)
            return &m;
    }
    const auto it = std::lower_bound(marks->begin(), marks->end(), f, [](const Mark& m, FrameIndex x) { return m.frame < x; });
    return it != marks->end() && it->frame == f ? &*it : nullptr;
}

PointPath::PointPath(const Repetition& repetition, const PointRole& role) : m_repetition(&repetition), m_role(role)
{
    const auto add = [&](Part part, BodySide side, const std::string& reference = {}) {
        const Landmark l{part, side, reference};
        const auto key =
            Draw::mix(static_cast<std::uint64_t>(part) * 4 + static_cast<std::uint64_t>(side), Draw::keyOf(reference));
        m_series.push_back({&repetition.marksOf(l), key});
    };
    const auto addBoth = [&](Part part) {
        add(part, BodySide::Left);
        add(part, BodySide::Right);
    };
    switch (role.derived) {
    case DerivedPoint::Head:
        addBoth(Part::Ear);
        add(Part::Nose, BodySide::None);
        break;
    case DerivedPoint::MidShoulder:
        addBoth(Part::Shoulder);
        break;
    case DerivedPoint::MidHip:
        addBoth(Part::Hip);
        break;
    case DerivedPoint::Sternum:
        addBoth(Part::Shoulder);
        addBoth(Part::Hip);
        break;
    case DerivedPoint::MassCentre:
        for (const Part part : kMassParts)
            addBoth(part);
        break;
    case DerivedPoint::None: {
        const auto l = resolve(role, repetition.marking().athlete.hand);
        add(l.part, l.side, l.reference);
        break;
    }
    }
}

/// Every joint is needed but the head's, which the neck's end stands in for.
template <class Get> auto PointPath::massCentre(Get get) const -> decltype(get(std::declval<const Series&>()))
{
    const auto seriesOf = [&](Part part, int side) {
        const auto i = std::find(std::begin(kMassParts), std::end(kMassParts), part) - std::begin(kMassParts);
        return get(m_series[static_cast<std::size_t>(2 * i + side)]);
    };
    const auto shoulderL = seriesOf(Part::Shoulder, 0), shoulderR = seriesOf(Part::Shoulder, 1), hipL = seriesOf(Part::Hip, 0),
               hipR = seriesOf(Part::Hip, 1);
    if (!shoulderL || !shoulderR || !hipL || !hipR)
        return std::nullopt;
    const auto midShoulder = midpoint(*shoulderL, *shoulderR), midHip = midpoint(*hipL, *hipR);
    double x = kTrunkShare * (midShoulder.x + midHip.x) / 2, y = kTrunkShare * (midShoulder.y + midHip.y) / 2;
    const auto earL = seriesOf(Part::Ear, 0), earR = seriesOf(Part::Ear, 1);
    const auto head = earL ? *earL : earR ? *earR : midShoulder;
    x += kHeadShare * head.x;
    y += kHeadShare * head.y;
    for (const auto& limb : kLimbs)
        for (const int side : {0, 1}) {
            const auto from = seriesOf(limb.from, side), to = seriesOf(limb.to, side);
            if (!from || !to)
                return std::nullopt;
            const auto p = lerp(*from, *to, limb.along);
            x += limb.share * p.x;
            y += limb.share * p.y;
        }
    auto centre = midHip;
    centre.x = x;
    centre.y = y;
    return centre;
}

/// Applies the derivation to whatever `get` yields for each series.
template <class Get> auto PointPath::combine(Get get) const -> decltype(get(std::declval<const Series&>()))
{
    const auto middle = [](auto a, auto b) { return a && b ? std::optional(midpoint(*a, *b)) : std::nullopt; };
    switch (m_role.derived) {
    case DerivedPoint::None:
        return get(m_series[0]);
    case DerivedPoint::Head: {
        const auto left = get(m_series[0]), right = get(m_series[1]);
        if (left && right)
            return middle(left, right);
        return left ? left : right ? right : get(m_series[2]);
    }
    case DerivedPoint::MidShoulder:
    case DerivedPoint::MidHip:
        return middle(get(m_series[0]), get(m_series[1]));
    case DerivedPoint::Sternum: {
        const auto top = middle(get(m_series[0]), get(m_series[1]));
        const auto bottom = middle(get(m_series[2]), get(m_series[3]));
        return top && bottom ? std::optional(lerp(*top, *bottom, 0.2)) : std::nullopt;
    }
    case DerivedPoint::MassCentre:
        return massCentre(get);
    }
    return std::nullopt;
}

template <class Get> auto PointPath::interpolate(FramePosition p, Get get) const -> decltype(get(FrameIndex{}))
{
    const FrameIndex before(static_cast<std::int64_t>(std::floor(p.value)));
    const double share = p.value - static_cast<double>(before.value);
    const auto a = get(before);
    if (share < 1e-9)
        return a;
    const auto b = get(FrameIndex(before.value + 1));
    if (a && b)
        return lerp(*a, *b, share);
    return share <= 0.5 ? a : b;
}

std::optional<BodyPoint> PointPath::bodyOf(const Series& series, FrameIndex f, Draw draw) const
{
    const Mark* m = series.at(f);
    if (!m)
        return std::nullopt;
    const SceneFrame& scene = m_repetition->frame();
    if (draw.isBestEstimate())
        return scene.toBody(m->at);

    ImagePoint p = m->at;
    if (m->sigma > 0) {
        const auto key = Draw::mix(series.key, static_cast<std::uint64_t>(f.value) * 8 + kMarkKey);
        p.x += m->sigma * draw.normal(key);
        p.y += m->sigma * draw.normal(key + 1);
    }
    BodyPoint b = scene.toBody(p);
    const double height = m_repetition->marking().athlete.heightMetres.value_or(kUsualHeight);
    const double unitsPerMetre = scene.hasScale() ? 1.0 : static_cast<double>(m_repetition->marking().film.height) / (2 * height);
    const double depth = kDepthSigmaOfHeight * height * unitsPerMetre * draw.normal(Draw::mix(series.key, kDepthKey));
    const double yaw = kYawSigma * draw.normal(kYawKey);
    const double roll = kRollSigma * draw.normal(kRollKey);
    const double scale = 1 + std::hypot(scene.scaleError(), kScaleLengthSigma) * draw.normal(kScaleKey);
    // Turning about the picture's origin moves everything alike, which no measure sees.
    const double x = b.x * std::cos(yaw) + depth * std::sin(yaw);
    return BodyPoint{scale * (x * std::cos(roll) - b.y * std::sin(roll)), scale * (x * std::sin(roll) + b.y * std::cos(roll))};
}

std::optional<BodyPoint> PointPath::onFrame(FrameIndex f, Draw draw) const
{
    return combine([&](const Series& s) { return bodyOf(s, f, draw); });
}

std::optional<ImagePoint> PointPath::imageOnFrame(FrameIndex f) const
{
    return combine([&](const Series& s) -> std::optional<ImagePoint> {
        const Mark* m = s.at(f);
        return m ? std::optional(m->at) : std::nullopt;
    });
}

std::optional<BodyPoint> PointPath::at(FramePosition p, Draw draw) const
{
    return interpolate(p, [&](FrameIndex f) { return onFrame(f, draw); });
}

std::optional<ImagePoint> PointPath::imageAt(FramePosition p) const
{
    return interpolate(p, [&](FrameIndex f) { return imageOnFrame(f); });
}

} // namespace kestrel
