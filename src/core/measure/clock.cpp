#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b || *a == *b)
        return tl::unexpected(in.missing());
    const BodyVector d = *b - *a;
    return Angle::radians(std::atan2(d.x, d.y)).asDegrees() / 30;
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b)
        return;
    const ImagePoint twelve = in.toImage({a->x, a->y + (*b - *a).length()});
    addSegment(f, {in.image(0), in.image(1)});
    addGuide(f, *in.image(0), twelve);
    addArc(f, twelve, in.image(0), in.image(1));
}

} // namespace

extern const MeasureKind kClock;
const MeasureKind kClock{
    "clock",
    "Direction of the second point from the first as hours on a clock face that hangs in the picture, twelve "
    "straight up; 0 at twelve, positive toward the dominant side, so that one o'clock means the same for a "
    "left-hander.",
    Quantity::Clock,
    2,
    When::At,
    false,
    viewsAcross(),
    value,
    figure};

} // namespace kestrel
