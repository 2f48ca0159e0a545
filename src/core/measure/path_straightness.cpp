#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto length = lengthOfWay(in);
    if (!length || *length == 0)
        return tl::unexpected(in.missing());
    return (*in.point(0) - *in.pointAtStart(0)).length() / *length;
}

void figure(const MeasureInput& in, Figure& f)
{
    drawWay(in, f);
    if (in.imageAtStart(0) && in.image(0))
        addGuide(f, *in.imageAtStart(0), *in.image(0));
}

} // namespace

extern const MeasureKind kPathStraightness;
const MeasureKind kPathStraightness{
    "path_straightness",
    "Straight distance between the ends of the point's way over the span by the length of the way: 1 is a "
    "straight line, never more.",
    Quantity::Ratio,
    1,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
