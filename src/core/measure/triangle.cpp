#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1), top = in.point(2);
    if (!a || !b || !top)
        return tl::unexpected(in.missing());
    const double sides = ((*top - *a).length() + (*top - *b).length()) / 2;
    if (sides == 0)
        return tl::unexpected(in.missing());
    return (*b - *a).length() / sides;
}

void figure(const MeasureInput& in, Figure& f)
{
    addSegment(f, {in.image(0), in.image(1), in.image(2), in.image(0)});
}

} // namespace

extern const MeasureKind kTriangle;
const MeasureKind kTriangle{
    "triangle",
    "Base of a triangle against its sides: distance of the first two points by the mean of their distances to "
    "the third; 1 for equal sides.",
    Quantity::Ratio,
    3,
    When::At,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
