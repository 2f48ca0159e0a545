#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    return depthInStrip(in, false);
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto p = in.point(0), a = in.point(1), b = in.point(2);
    if (!p || !a || !b || *a == *b)
        return;
    const BodyVector along = *b - *a;
    const BodyVector half{-along.y / 2, along.x / 2};
    for (const BodyPoint end : {*a, *b})
        addGuide(f, in.toImage(end + half * -1), in.toImage(end + half));
    addDot(f, in.image(0));
}

} // namespace

extern const MeasureKind kInside;
const MeasureKind kInside{"inside",
                          "How far the first point lies inside the strip between the lines that stand square on the way from the "
                          "second to the third point, one through each; negative outside it.",
                          Quantity::Length,
                          3,
                          When::At,
                          false,
                          viewsAny(),
                          value,
                          figure};

} // namespace kestrel
