#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    auto a = in.point(0), b = in.point(1);
    if (!a || !b || *a == *b)
        return tl::unexpected(in.missing());
    if (a->y > b->y)
        std::swap(a, b);
    return Angle::radians(std::atan2(a->x - b->x, b->y - a->y)).asDegrees();
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b)
        return;
    addSegment(f, {in.image(0), in.image(1)});
    const BodyPoint low = a->y < b->y ? *a : *b;
    addGuide(f, in.toImage(low), in.toImage({low.x, low.y + (*b - *a).length()}));
}

} // namespace

extern const MeasureKind kFace;
const MeasureKind kFace{
    "face",
    "How far a face whose two edges are the points is open, degrees from the vertical: positive when its upper "
    "edge lies back from the target, negative when closed.",
    Quantity::Angle,
    2,
    When::At,
    false,
    viewsAlong(),
    value,
    figure};

} // namespace kestrel
