#include "core/measure/kind.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b)
        return tl::unexpected(in.missing());
    return (*b - *a).length();
}

void figure(const MeasureInput& in, Figure& f)
{
    addSegment(f, {in.image(0), in.image(1)});
    addDot(f, in.image(0));
    addDot(f, in.image(1));
}

} // namespace

extern const MeasureKind kDistance;
const MeasureKind kDistance{"distance",
                            "Distance between two points in the picture plane; never negative.",
                            Quantity::Length,
                            2,
                            When::At,
                            false,
                            viewsAny(),
                            value,
                            figure};

} // namespace kestrel
