#include "core/measure/shared.h"

namespace kestrel {

extern const MeasureKind kJointAngle;
const MeasureKind kJointAngle{"joint_angle",   "Interior angle at the second of three points, 0 to 180 degrees; 180 is straight.",
                              Quantity::Angle, 3,
                              When::At,        false,
                              viewsAny(),      jointAngle,
                              drawJoint};

} // namespace kestrel
