#include "core/measure/shared.h"

#include <algorithm>

namespace kestrel {

namespace {

constexpr int kFewest = 4; // the ends, and two places in between

Outcome value(const MeasureInput& in)
{
    const auto now = in.point(0);
    if (!now || !in.pointAtStart(0))
        return tl::unexpected(in.missing());
    double highest = now->y;
    int places = 0;
    in.alongSpan(0, [&](FramePosition, BodyPoint p) {
        highest = std::max(highest, p.y);
        ++places;
    });
    if (places < kFewest)
        return tl::unexpected(
            NoReading{Verdict::NotMarked, "Mark the point on the frames in between as well: its highest place is read."});
    return highest - now->y;
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto now = in.point(0);
    const auto top = instantOfMost(in, [](FramePosition, BodyPoint p) { return p.y; });
    const auto highest = top ? in.pointOn(0, *top) : std::nullopt;
    if (!now || !highest)
        return;
    addGuide(f, in.toImage(*highest), in.toImage({now->x, highest->y}));
    addSegment(f, {in.toImage({now->x, highest->y}), in.toImage(*now)});
    addDot(f, in.toImage(*now));
}

} // namespace

extern const MeasureKind kFall;
const MeasureKind kFall{"fall",
                        "How far the point, at the end of the span, is below the highest place it reached during it; never "
                        "negative. Needs marks in between.",
                        Quantity::Length,
                        1,
                        When::Span,
                        false,
                        viewsAny(),
                        value,
                        figure};

} // namespace kestrel
