#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    if (!in.pointAtStart(0) || !in.point(0))
        return tl::unexpected(in.missing());
    double length = 0;
    std::optional<BodyPoint> last;
    in.alongSpan(0, [&](FramePosition, BodyPoint p) {
        if (last)
            length += (p - *last).length();
        last = p;
    });
    return length;
}

void figure(const MeasureInput& in, Figure& f)
{
    std::optional<ImagePoint> last;
    in.alongSpan(0, [&](FramePosition, BodyPoint p) {
        const ImagePoint now = in.toImage(p);
        if (last)
            addSegment(f, {last, now});
        last = now;
    });
    addDot(f, in.image(0));
}

} // namespace

extern const MeasureKind kTravel;
const MeasureKind kTravel{"travel",
                          "Length of the point's way through the span, along every marked frame; never negative.",
                          Quantity::Length,
                          1,
                          When::Span,
                          false,
                          viewsAny(),
                          value,
                          figure};

} // namespace kestrel
