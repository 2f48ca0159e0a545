#include "core/measure/kind.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto lower = in.point(0), upper = in.point(1), lower0 = in.pointAtStart(0), upper0 = in.pointAtStart(1);
    if (!lower || !upper || !lower0 || !upper0)
        return tl::unexpected(in.missing());
    const auto before = directionOf(*lower0, *upper0), after = directionOf(*lower, *upper);
    if (!before || !after)
        return tl::unexpected(in.missing());
    return std::abs(wrappedDegrees((*after - *before).asDegrees()));
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto lower = in.point(0), lower0 = in.pointAtStart(0), upper0 = in.pointAtStart(1);
    if (lower && lower0 && upper0) // the first lean, carried to where the line is now
        addGuide(f, in.toImage(*lower), in.toImage(*lower + (*upper0 - *lower0)));
    addSegment(f, {in.image(0), in.image(1)});
}

} // namespace

extern const MeasureKind kLeanChange;
const MeasureKind kLeanChange{"lean_change",
                              "How much the lean of the line from the lower to the upper point differs between the start and the "
                              "end of the span, degrees; never negative.",
                              Quantity::Angle,
                              2,
                              When::Span,
                              false,
                              viewsAny(),
                              value,
                              figure};

} // namespace kestrel
