#include "core/measure/kind.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1), c = in.point(2), d = in.point(3);
    if (!a || !b || !c || !d || *a == *b || *c == *d)
        return tl::unexpected(in.missing());
    const BodyVector u = *b - *a, v = *d - *c;
    return Angle::radians(std::atan2(cross(u, v), dot(u, v))).asDegrees();
}

void figure(const MeasureInput& in, Figure& f)
{
    addSegment(f, {in.image(0), in.image(1)});
    addSegment(f, {in.image(2), in.image(3)});
}

} // namespace

extern const MeasureKind kSeparation;
const MeasureKind kSeparation{"separation",
                              "Signed angle in the picture plane from the line through points 1 and 2 to the line through points "
                              "3 and 4, degrees; positive against the clock as body coordinates show it, which is upward where "
                              "the first line runs toward the target (side) or the dominant side (front, rear).",
                              Quantity::Angle,
                              4,
                              When::At,
                              true,
                              viewsAny(),
                              value,
                              figure};

} // namespace kestrel
