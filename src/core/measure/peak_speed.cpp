#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto peak = peakOf(speedAlong(in, 0));
    if (!peak)
        return tl::unexpected(noRate());
    return peak->value;
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto peak = peakOf(speedAlong(in, 0));
    if (!peak)
        return;
    f.frame = positionOf(in, *peak);
    const FramePosition before(f.frame.value - 2), after(f.frame.value + 2);
    if (const auto a = in.pointOn(0, before), b = in.pointOn(0, f.frame), c = in.pointOn(0, after); a && b && c) {
        addSegment(f, {in.toImage(*a), in.toImage(*b), in.toImage(*c)});
        addDot(f, in.toImage(*b));
    }
}

} // namespace

extern const MeasureKind kPeakSpeed;
const MeasureKind kPeakSpeed{
    "peak_speed",
    "Largest speed of the point over the span in this view's plane, along every marked frame; the part of a "
    "speed that leads toward the camera is not seen.",
    Quantity::Speed,
    1,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
