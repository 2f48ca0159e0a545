#include "core/measure/kind.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1), c = in.point(2), d = in.point(3);
    if (!a || !b || !c || !d || *c == *d)
        return tl::unexpected(in.missing());
    return (*b - *a).length() / (*d - *c).length();
}

void figure(const MeasureInput& in, Figure& f)
{
    addSegment(f, {in.image(0), in.image(1)});
    addSegment(f, {in.image(2), in.image(3)});
}

} // namespace

extern const MeasureKind kDistanceRatio;
const MeasureKind kDistanceRatio{"distance_ratio",
                                 "Distance of points 1 and 2 divided by the distance of points 3 and 4.",
                                 Quantity::Ratio,
                                 4,
                                 When::At,
                                 false,
                                 viewsAny(),
                                 value,
                                 figure};

} // namespace kestrel
