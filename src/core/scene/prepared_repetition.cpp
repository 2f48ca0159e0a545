#include "core/scene/prepared_repetition.h"

#include "core/scene/bridge_gaps.h"
#include "core/scene/depth_model.h"
#include "core/scene/leg_scale.h"
#include "core/scene/smooth_marks.h"

#include <algorithm>
#include <iterator>

namespace kestrel {

namespace {

constexpr double kYawSigma = 5.0 * std::numbers::pi / 180.0;
constexpr double kRollSigma = 0.7 * std::numbers::pi / 180.0;
constexpr double kScaleLengthSigma = 0.01;

/// Where a segment's mass sits between its two ends and what share of the body it is: Winter, Biomechanics and Motor
/// Control of Human Movement, anthropometric table after Dempster. A hand counts at the wrist, a foot half-way to the toe.
struct SegmentMass {
    Part from, to;
    double share, along;
};
constexpr SegmentMass kLimbs[] = {{Part::Shoulder, Part::Elbow, 0.028, 0.436}, {Part::Elbow, Part::Wrist, 0.016, 0.430},
                                  {Part::Wrist, Part::Wrist, 0.006, 0},        {Part::Hip, Part::Knee, 0.100, 0.433},
                                  {Part::Knee, Part::Ankle, 0.0465, 0.433},    {Part::Ankle, Part::Toe, 0.0145, 0.5}};
/// How far the mass centre of a person lies from where these shares put it, one standard deviation as a share of standing
/// height: tables by different authors differ by about that much.
constexpr double kMassModelSigma = 0.008;
constexpr double kTrunkShare = 0.497, kHeadShare = 0.081;
constexpr Part kMassParts[] = {Part::Ear, Part::Shoulder, Part::Elbow, Part::Wrist,
                               Part::Hip, Part::Knee,     Part::Ankle, Part::Toe};

constexpr std::uint64_t kYawKey = 1, kRollKey = 2, kScaleKey = 3, kMarkKey = 5, kMassKey = 9; // 6, 7: lasting_error.cpp

} // namespace

PreparedRepetition::PreparedRepetition(Marking marking, FrameClock clock)
    : m_marking(std::move(marking)), m_clock(std::move(clock)), m_scene(m_marking.scene, m_marking.athlete.hand)
{
    // a tracked film has tens of thousands of marks of few landmarks: those without a name of their own are found by number
    constexpr std::size_t kSides = 3;
    std::vector<std::vector<Mark>*> known((static_cast<std::size_t>(Part::Reference) + 1) * kSides, nullptr);
    for (const auto& m : m_marking.marks) {
        if (m.landmark.part == Part::Reference) {
            m_byLandmark[m.landmark].push_back(m);
            continue;
        }
        auto*& list = known[static_cast<std::size_t>(m.landmark.part) * kSides + static_cast<std::size_t>(m.landmark.side)];
        if (!list)
            list = &m_byLandmark[m.landmark];
        list->push_back(m);
    }
    const auto isEarlier = [](const Mark& a, const Mark& b) { return a.frame < b.frame; };
    for (auto& [landmark, list] : m_byLandmark)
        if (!std::is_sorted(list.begin(), list.end(), isEarlier))
            std::sort(list.begin(), list.end(), isEarlier);
    for (auto& [landmark, list] : m_byLandmark)
        bridgeGaps(list, m_clock);
    prepareErrors();
}

void PreparedRepetition::prepareErrors()
{
    const double height = m_marking.athlete.heightMetres.value_or(kUsualHeight);
    m_heightUnits =
        m_scene.hasScale()
            ? height
            : standingHeight(m_marking.marks, m_marking.scene.view).value_or(static_cast<double>(m_marking.film.height) / 2);
    m_unitsPerMetre = m_heightUnits / height;
    m_cameraUnits = cameraDistance(m_marking.scene.view) * m_heightUnits;
    m_middle = m_scene.toBody({m_marking.film.width / 2.0, m_marking.film.height / 2.0});
    const auto [first, last] = std::minmax_element(m_marking.marks.begin(), m_marking.marks.end(),
                                                   [](const Mark& a, const Mark& b) { return a.frame < b.frame; });
    if (first != m_marking.marks.end()) {
        m_firstMark = first->frame;
        double begin = static_cast<double>(first->frame.value), end = static_cast<double>(last->frame.value);
        if (m_marking.events.size() > 1) {
            const auto [from, to] = std::minmax_element(m_marking.events.begin(), m_marking.events.end(),
                                                        [](const Event& a, const Event& b) { return a.frame < b.frame; });
            begin = from->frame.value;
            end = to->frame.value;
        }
        const double turn = 2 * std::numbers::pi * m_clock.meanInterval() / kDepthPeriod;
        for (std::int64_t f = first->frame.value; f <= last->frame.value; ++f) {
            const double phase = turn * static_cast<double>(f - first->frame.value);
            m_moments.push_back(
                {std::cos(phase), std::sin(phase), end > begin ? (static_cast<double>(f) - begin) / (end - begin) : 0});
        }
        const double pixels = (m_scene.toBody({0, 1}) - m_scene.toBody({0, 0})).length();
        m_correlated = lastingErrors(m_byLandmark, m_clock, m_firstMark, m_moments.size(), m_heightUnits / pixels);
    }
    for (const auto& [landmark, list] : m_byLandmark)
        for (std::uint32_t n = 0; n <= kErrorSamples; ++n)
            m_depths[landmark].push_back(depthShare(landmark, m_marking.scene.view, ErrorSample(n)) * m_heightUnits);
    const double lengthError = std::hypot(m_scene.scaleError(), kScaleLengthSigma);
    for (std::uint32_t n = 0; n <= kErrorSamples; ++n) {
        const ErrorSample sample(n);
        const double yaw = kYawSigma * sample.normal(kYawKey), roll = kRollSigma * sample.normal(kRollKey);
        m_sceneErrors.push_back({std::cos(yaw), std::sin(yaw), std::cos(roll), std::sin(roll),
                                 1 + lengthError * sample.normal(kScaleKey), depthTravel(m_marking.scene.view, sample)});
    }
}

PreparedRepetition::Moment PreparedRepetition::momentOf(FrameIndex f) const
{
    const auto n = f.value - m_firstMark.value;
    return n >= 0 && n < static_cast<std::int64_t>(m_moments.size()) ? m_moments[static_cast<std::size_t>(n)] : Moment{};
}

const std::vector<Depth>& PreparedRepetition::depthsOf(const Landmark& l) const
{
    static const std::vector<Depth> none;
    const auto it = m_depths.find(l);
    return it == m_depths.end() ? none : it->second;
}

PreparedRepetition::PreparedRepetition(const Marking& marking)
    : PreparedRepetition(marking, evenClock(marking.film.frames, marking.clock.capture > 0 ? marking.clock.capture : 30.0))
{
}

const std::vector<Mark>& PreparedRepetition::marksOf(const Landmark& l) const
{
    static const std::vector<Mark> none;
    const auto it = m_byLandmark.find(l);
    return it == m_byLandmark.end() ? none : it->second;
}

const Mark* PointPath::Series::find(const std::vector<Mark>& marks, FrameIndex f)
{
    if (marks.empty())
        return nullptr;
    // tracked films have a mark on every frame: look there first
    const auto guess = f.value - marks.front().frame.value;
    if (guess >= 0 && guess < static_cast<std::int64_t>(marks.size())) {
        const Mark& m = marks[static_cast<std::size_t>(guess)];
        if (m.frame == f)
            return &m;
    }
    const auto it = std::lower_bound(marks.begin(), marks.end(), f, [](const Mark& m, FrameIndex x) { return m.frame < x; });
    return it != marks.end() && it->frame == f ? &*it : nullptr;
}

PointPath::PointPath(const PreparedRepetition& repetition, const PointRole& role, double depth)
    : m_repetition(&repetition), m_role(role), m_depth(depth)
{
    const auto add = [&](Part part, BodySide side, const std::string& reference = {}) {
        const Landmark l{part, side, reference};
        const auto correlated = repetition.m_correlated.find(l);
        // a ball that is struck turns within a picture: its way has a corner that smoothing would cut
        m_series.push_back({.marks = &repetition.marksOf(l),
                            .key = keyOf(l),
                            .correlated = correlated != repetition.m_correlated.end() ? &correlated->second : nullptr,
                            .depths = &repetition.depthsOf(l),
                            .isStruck = part == Part::Ball,
                            .smooth = {}});
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

std::optional<BodyPoint> PointPath::bodyOf(const Series& series, FrameIndex f, ErrorSample sample) const
{
    const Mark* m = Series::find(*series.marks, f);
    if (!m)
        return std::nullopt;
    return disturbed(series, *m, static_cast<std::uint64_t>(f.value) * 8 + kMarkKey, sample);
}

ImageVector PointPath::errorOf(const Series& series, const Mark& m, std::uint64_t noiseKey, ErrorSample sample) const
{
    const auto [right, down] = sample.normalPair(ErrorSample::mix(series.key, noiseKey));
    const ImageVector anew{right, down};
    if (!series.correlated || !isByProgram(m.source))
        return anew * m.sigma;
    const auto picture = static_cast<std::size_t>(m.frame.value - m_repetition->m_firstMark.value);
    return (anew * std::sqrt(kErrorAnew) + series.correlated->on(picture, sample) * std::sqrt(1 - kErrorAnew)) * m.sigma;
}

BodyPoint PointPath::disturbed(const Series& series, const Mark& m, std::uint64_t noiseKey, ErrorSample sample) const
{
    const SceneFrame& scene = m_repetition->scene();
    if (sample.isBestEstimate())
        return scene.toBody(m.at);

    const ImagePoint p = m.sigma > 0 ? m.at + errorOf(series, m, noiseKey, sample) : m.at;
    const PreparedRepetition::SceneError& e = m_repetition->sceneError(sample);
    const PreparedRepetition::Moment moment = m_repetition->momentOf(m.frame);
    const double unturned = m_depth * ((*series.depths)[sample.number()].at(moment.cos, moment.sin) +
                                       e.travel.at(moment.progress) * m_repetition->m_heightUnits);
    const BodyPoint middle = m_repetition->m_middle;
    const BodyVector away = scene.toBody(p) - middle;
    // The camera turned about the plumb line through the middle of the picture: what lies to a side of it is nearer or
    // farther as well, and what is nearer looks larger.
    const double depth = unturned * e.cosYaw - away.x * e.sinYaw;
    const double x = away.x * e.cosYaw + unturned * e.sinYaw;
    const double larger = 1 + depth / (m_repetition->m_cameraUnits);
    return middle + BodyVector{e.scale * larger * (x * e.cosRoll - away.y * e.sinRoll),
                               e.scale * larger * (x * e.sinRoll + away.y * e.cosRoll)};
}

void PointPath::smooth(FramePosition from, FramePosition to)
{
    const double interval = std::max(m_repetition->clock().meanInterval(), 1e-6);
    const double reach = std::ceil(kSmoothReach / interval); // what the fit at the span's ends looks at
    for (auto& series : m_series) {
        series.smooth.clear();
        if (series.isStruck)
            continue;
        std::vector<Mark> marks;
        std::copy_if(series.marks->begin(), series.marks->end(), std::back_inserter(marks), [&](const Mark& m) {
            const auto at = static_cast<double>(m.frame.value);
            return at >= from.value - reach && at <= to.value + reach;
        });
        std::vector<double> noise;
        series.smooth = smoothedMarks(marks, m_repetition->clock(), kSmoothReach, &noise);
        for (std::size_t i = 0; i < noise.size(); ++i) { // what lasts is not smoothed away
            const double anew = isByProgram(series.smooth[i].source) ? kErrorAnew : 1;
            series.smooth[i].sigma *= std::sqrt(1 - anew + anew * noise[i] * noise[i]);
        }
    }
}

void PointPath::smoothAround(FramePosition at)
{
    const double interval = m_repetition->clock().meanInterval();
    m_isSmoothThroughout = interval > 0 && interval <= kSmoothReach / 2;
    if (m_isSmoothThroughout)
        smooth(FramePosition(std::floor(at.value) - 1), FramePosition(std::ceil(at.value) + 1));
}

std::optional<BodyPoint> PointPath::smoothOn(FrameIndex f, ErrorSample sample) const
{
    // neighbours share most of the marks they are smoothed from, and so their noise
    constexpr int kShared = 4;
    return combine([&](const Series& s) -> std::optional<BodyPoint> {
        const Mark* m = Series::find(s.smooth, f);
        return m ? std::optional(disturbed(s, *m, static_cast<std::uint64_t>(f.value / kShared) * 8 + kMarkKey, sample))
                 : bodyOf(s, f, sample);
    });
}

std::optional<BodyPoint> PointPath::markOn(FrameIndex f, ErrorSample sample) const
{
    return combine([&](const Series& s) { return bodyOf(s, f, sample); });
}

std::optional<ImagePoint> PointPath::imageOnFrame(FrameIndex f) const
{
    return combine([&](const Series& s) -> std::optional<ImagePoint> {
        const Mark* m = Series::find(*s.marks, f);
        return m ? std::optional(m->at) : std::nullopt;
    });
}

std::optional<BodyPoint> PointPath::at(FramePosition position, ErrorSample sample) const
{
    const auto onFrame = [&](FrameIndex f) { return m_isSmoothThroughout ? smoothOn(f, sample) : markOn(f, sample); };
    auto p = interpolate(position, onFrame);
    if (p && m_role.derived == DerivedPoint::MassCentre) {
        const double sigma = kMassModelSigma * m_repetition->m_heightUnits;
        *p = *p + BodyVector{sigma * sample.normal(kMassKey), sigma * sample.normal(kMassKey + 100)};
    }
    return p;
}

std::optional<BodyPoint> PointPath::markAt(FramePosition position, ErrorSample sample) const
{
    return interpolate(position, [&](FrameIndex f) { return markOn(f, sample); });
}

std::optional<ImagePoint> PointPath::imageAt(FramePosition p) const
{
    return interpolate(p, [&](FrameIndex f) { return imageOnFrame(f); });
}

} // namespace kestrel
