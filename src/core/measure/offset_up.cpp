#include "core/measure/kind.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b)
        return tl::unexpected(in.missing());
    return a->y - b->y;
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b)
        return;
    addGuide(f, in.toImage({a->x, b->y}), *in.image(1));
    addSegment(f, {in.image(0), in.toImage({a->x, b->y})});
    addDot(f, in.image(0));
    addDot(f, in.image(1));
}

} // namespace

extern const MeasureKind kOffsetUp;
const MeasureKind kOffsetUp{"offset_up",
                            "How far the first point is above the second; negative below.",
                            Quantity::Length,
                            2,
                            When::At,
                            false,
                            viewsAny(),
                            value,
                            figure};

} // namespace kestrel
