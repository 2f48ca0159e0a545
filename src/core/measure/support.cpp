#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    return depthInStrip(in, true);
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto p = in.point(0), a = in.point(1), b = in.point(2);
    if (!p || !a || !b)
        return;
    addSegment(f, {in.image(1), in.image(2)});
    addGuide(f, *in.image(0), in.toImage({p->x, std::min(a->y, b->y)}));
    addDot(f, in.image(0));
}

} // namespace

extern const MeasureKind kSupport;
const MeasureKind kSupport{"support",
                           "How far the plumb line through the first point (the mass centre) falls inside the base between the "
                           "second and the third point, the feet, along the ground; negative outside it.",
                           Quantity::Length,
                           3,
                           When::At,
                           false,
                           viewsAny(),
                           value,
                           figure};

} // namespace kestrel
