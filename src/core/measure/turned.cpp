#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1), a0 = in.pointAtStart(0), b0 = in.pointAtStart(1);
    if (!a || !b || !a0 || !b0 || *a == *b || *a0 == *b0)
        return tl::unexpected(in.missing());
    const BodyVector now = *b - *a, before = *b0 - *a0;
    return Angle::radians(std::atan2(before.x * now.y - before.y * now.x, before.x * now.x + before.y * now.y)).asDegrees();
}

void figure(const MeasureInput& in, Figure& f)
{
    addSegment(f, {in.image(0), in.image(1)});
    if (in.imageAtStart(0) && in.imageAtStart(1))
        addGuide(f, *in.imageAtStart(0), *in.imageAtStart(1));
}

std::optional<double> fromTwo(const TwoViews& in)
{
    const auto now = facingFromTwo(in, 0, 1), before = facingFromTwo(in, 0, 1, true);
    return now && before ? std::optional(wrappedDegrees(*now - *before)) : std::nullopt;
}

} // namespace

extern const MeasureKind kTurned;
const MeasureKind kTurned{
    "turned",
    "How far the line from the first to the second point has turned since the start of the span, seen from above, "
    "degrees; positive when the chest turns toward the target.",
    Quantity::Angle,
    2,
    When::Span,
    true,
    viewsAbove(),
    value,
    figure,
    fromTwo};

} // namespace kestrel
