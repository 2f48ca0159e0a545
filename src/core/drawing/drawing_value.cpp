#include "core/drawing/drawing_value.h"

#include "core/scene/ground_plane.h"

#include <algorithm>
#include <cstdio>

namespace kestrel {

namespace {

constexpr const char* kHere = "here";
constexpr double kInside = 0.25; // widths of the circle: the head's middle is halfway to its rim

Landmark referenceOf(std::size_t pin)
{
    return {Part::Reference, BodySide::None, "drawn" + std::to_string(pin)};
}

/// The role that the landmark plays for this athlete.
PointRole roleOf(const Landmark& l, Hand hand)
{
    PointRole role{DerivedPoint::None, l.part, SideRole::None, l.reference};
    if (l.side != BodySide::None)
        role.side = (l.side == BodySide::Right) == (hand == Hand::Right) ? SideRole::Dom : SideRole::Off;
    return role;
}

/// The marks of a picture that are pinned, and the places set by hand as references.
Marking markingOf(const Drawing& d, const PreparedRepetition& r, FrameIndex frame)
{
    const Marking& m = r.marking();
    Marking here;
    here.film = m.film;
    here.clock = m.clock;
    here.scene = m.scene;
    here.athlete = m.athlete;
    here.events = {{kHere, FramePosition(frame), 0, Source::Coach}};
    for (std::size_t i = 0; i < d.at.size(); ++i)
        if (!d.at[i].landmark)
            here.marks.push_back({frame, referenceOf(i), d.at[i].at, kCarefulClick, Source::Coach, true});
        else
            for (const auto& mark : r.marksOf(*d.at[i].landmark))
                if (mark.frame == frame)
                    setMark(here, mark);
    return here;
}

const char* kindOf(DrawingKind kind)
{
    switch (kind) {
    case DrawingKind::Angle:
        return "joint_angle";
    case DrawingKind::Wedge:
        return "separation";
    default:
        return "distance";
    }
}

} // namespace

std::optional<Reading> valueOf(const Drawing& d, const PreparedRepetition& r, FrameIndex frame)
{
    if (!isMeasured(d.kind))
        return std::nullopt;
    const auto& m = r.marking();
    Measure measure;
    measure.id = measure.name = "drawn";
    measure.kind = findMeasureKind(kindOf(d.kind));
    measure.at = kHere;
    measure.isReported = true;
    measure.unit = measure.kind->quantity != Quantity::Length ? Unit::Degree
                   : m.athlete.heightMetres                   ? Unit::PercentHeight
                                                              : Unit::Centimetre;
    measure.views = {m.scene.view};
    for (std::size_t i = 0; i < d.at.size(); ++i)
        measure.points.push_back(roleOf(d.at[i].landmark.value_or(referenceOf(i)), m.athlete.hand));
    Pack pack;
    pack.keyPositions = {{kHere, kHere, "", 0}};
    pack.measures = {measure};
    auto reading = calcReadings(pack, PreparedRepetition(markingOf(d, r, frame), r.clock()), {}).front();
    if (reading.value)
        reading.value = std::abs(*reading.value);
    return reading;
}

std::optional<HeadLeave> headLeave(const Drawing& d, const PreparedRepetition& r, FrameRange range)
{
    if (d.kind != DrawingKind::Circle || d.at.front().landmark || d.radius <= 0)
        return std::nullopt;
    std::optional<HeadLeave> most;
    bool wasInside = false;
    const PointPath head(r, *findPointRole("head"));
    for (FrameIndex f = range.first; f <= range.last; f = FrameIndex(f.value + 1))
        if (const auto p = head.imageAt(FramePosition(f))) {
            const double widths = (*p - d.at.front().at).length() / (2 * d.radius);
            wasInside = wasInside || widths < kInside;
            if (!most || widths > most->widths)
                most = HeadLeave{widths, f};
        }
    return wasInside ? most : std::nullopt;
}

std::string wordsOn(const Drawing& d, const PreparedRepetition& r, FrameRange range, FrameIndex frame)
{
    if (const auto left = headLeave(d, r, {range.first, std::min(range.last, frame)})) {
        if (left->widths < kInside)
            return "head stays in";
        char text[80];
        std::snprintf(text, sizeof text, "head out by %.1f of its width", left->widths);
        return text + (left->frame == frame ? std::string() : ", at picture " + std::to_string(left->frame.value));
    }
    const auto reading = valueOf(d, r, frame);
    if (!reading || !reading->value || !reading->uncertainty || reading->saysNothing())
        return {};
    return withUnit(*reading->value, reading->unit) + " " + plusMinus(kWhisker * *reading->uncertainty, reading->unit);
}

} // namespace kestrel
