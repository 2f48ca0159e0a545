#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.pointAtStart(0), b = in.point(0);
    const auto middle = in.pointOn(0, FramePosition((in.from().value + in.to().value) / 2));
    if (!a || !b)
        return tl::unexpected(in.missing());
    if (!middle)
        return tl::unexpected(
            NoReading{Verdict::NotMarked, "Mark the point half-way between the two key positions as well to read its bend."});
    const BodyVector u = *middle - *a, v = *b - *middle, w = *b - *a;
    const double sides = u.length() * v.length() * w.length();
    if (sides == 0)
        return tl::unexpected(in.missing());
    const double bend = 2 * cross(u, v) / sides; // Menger curvature: four times the triangle's area by its sides
    return w.x < 0 ? -bend : bend;
}

void figure(const MeasureInput& in, Figure& f)
{
    drawWay(in, f);
}

} // namespace

extern const MeasureKind kPathCurvature;
const MeasureKind kPathCurvature{
    "path_curvature",
    "How much the point's way over the span bends: one over the radius of the circle through its start, its "
    "middle in time and its end, per metre; positive when a point on its way toward the target bends upward, "
    "0 straight.",
    Quantity::Bend,
    1,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
