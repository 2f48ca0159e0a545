#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1), c = in.point(2), d = in.point(3);
    const auto first = a && b && c ? angleAt(*a, *b, *c) : std::nullopt,
               second = b && c && d ? angleAt(*b, *c, *d) : std::nullopt;
    if (!first || !second)
        return tl::unexpected(in.missing());
    return 180 - std::min(first->asDegrees(), second->asDegrees());
}

void figure(const MeasureInput& in, Figure& f)
{
    addSegment(f, {in.image(0), in.image(1), in.image(2), in.image(3)});
    if (in.image(0) && in.image(3))
        addGuide(f, *in.image(0), *in.image(3));
}

} // namespace

extern const MeasureKind kLineUp;
const MeasureKind kLineUp{"line_up",
                          "By how much four points in a row leave one straight line: the larger of the two bends, degrees; 0 is "
                          "straight.",
                          Quantity::Angle,
                          4,
                          When::At,
                          false,
                          viewsAny(),
                          value,
                          figure};

} // namespace kestrel
