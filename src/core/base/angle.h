#pragma once

#include <cmath>
#include <compare>
#include <numbers>

namespace kestrel {

/// A plane angle. Counter-clockwise is positive with y up.
class Angle {
public:
    constexpr Angle() = default;
    static constexpr Angle radians(double r) { return Angle(r); }
    static constexpr Angle degrees(double d) { return Angle(d * std::numbers::pi / 180.0); }
    constexpr double asRadians() const { return m_radians; }
    constexpr double asDegrees() const { return m_radians * 180.0 / std::numbers::pi; }
    friend constexpr auto operator<=>(Angle, Angle) = default;
    friend constexpr Angle operator+(Angle a, Angle b) { return Angle(a.m_radians + b.m_radians); }
    friend constexpr Angle operator-(Angle a, Angle b) { return Angle(a.m_radians - b.m_radians); }
    constexpr Angle operator-() const { return Angle(-m_radians); }

private:
    constexpr explicit Angle(double r) : m_radians(r) {}
    double m_radians = 0;
};

/// The same direction in (-180, 180] degrees.
inline double wrappedDegrees(double degrees)
{
    const double w = std::remainder(degrees, 360.0);
    return w <= -180.0 ? w + 360.0 : w;
}

} // namespace kestrel
