#include "core/measure/kind.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), vertex = in.point(1), b = in.point(2);
    const auto a0 = in.pointAtStart(0), vertex0 = in.pointAtStart(1), b0 = in.pointAtStart(2);
    if (!a || !vertex || !b || !a0 || !vertex0 || !b0)
        return tl::unexpected(in.missing());
    const auto before = angleAt(*a0, *vertex0, *b0), after = angleAt(*a, *vertex, *b);
    if (!before || !after)
        return tl::unexpected(in.missing());
    return (*after - *before).asDegrees();
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto a = in.imageAtStart(0), vertex = in.imageAtStart(1), b = in.imageAtStart(2);
    if (a && vertex && b) {
        addGuide(f, *a, *vertex);
        addGuide(f, *vertex, *b);
    }
    addSegment(f, {in.image(0), in.image(1), in.image(2)});
    addArc(f, in.image(0), in.image(1), in.image(2));
}

} // namespace

extern const MeasureKind kAngleChange;
const MeasureKind kAngleChange{"angle_change",
                               "Change of the interior angle at the second of three points from the start to the end of the "
                               "span, degrees; positive when the joint straightens.",
                               Quantity::Angle,
                               3,
                               When::Span,
                               false,
                               viewsAny(),
                               value,
                               figure};

} // namespace kestrel
