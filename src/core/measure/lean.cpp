#include "core/measure/kind.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto lower = in.point(0), upper = in.point(1);
    if (!lower || !upper || *lower == *upper)
        return tl::unexpected(in.missing());
    const BodyVector d = *upper - *lower;
    return Angle::radians(std::atan2(d.x, d.y)).asDegrees();
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto lower = in.point(0), upper = in.point(1);
    if (!lower || !upper)
        return;
    addSegment(f, {in.image(0), in.image(1)});
    const ImagePoint plumb = in.toImage({lower->x, lower->y + (*upper - *lower).length()});
    addGuide(f, *in.image(0), plumb);
    addArc(f, plumb, in.image(0), in.image(1));
}

} // namespace

extern const MeasureKind kLean;
const MeasureKind kLean{"lean",
                        "Lean of the line from the lower to the upper point from the vertical, degrees; positive toward the "
                        "target (side views) or the dominant side (front and rear views).",
                        Quantity::Angle,
                        2,
                        When::At,
                        true,
                        viewsAny(),
                        value,
                        figure};

} // namespace kestrel
