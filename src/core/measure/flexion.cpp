#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    return jointAngle(in).map([](double interior) { return 180.0 - interior; });
}

} // namespace

extern const MeasureKind kFlexion;
const MeasureKind kFlexion{
    "flexion",       "How far the joint at the second of three points is bent, 0 (straight) to 180 degrees.",
    Quantity::Angle, 3,
    When::At,        false,
    viewsAny(),      value,
    drawJoint};

} // namespace kestrel
