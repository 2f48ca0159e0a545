#pragma once

#include "core/base/geometry.h"

#include <algorithm>

namespace kestrel {

/// How far p lies from the nearest point between a and b, in the unit of the points; from a where both coincide.
template <class Space> double distanceToSegment(Point2<Space> p, Point2<Space> a, Point2<Space> b)
{
    const Vec2<Space> whole = b - a;
    const double length2 = dot(whole, whole);
    const double share = length2 > 0 ? std::clamp(dot(p - a, whole) / length2, 0.0, 1.0) : 0;
    return (p - lerp(a, b, share)).length();
}

} // namespace kestrel
