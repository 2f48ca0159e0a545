#pragma once

#include "core/base/angle.h"

#include <cmath>
#include <optional>

namespace kestrel {

/// Pixels of the upright picture with square pixels: origin at its top left corner, x right, y down; the centre of the
/// first pixel is (0.5, 0.5).
struct ImageSpace;
/// Metres: x toward the target (side views) or toward the dominant side (front and rear views), y up along gravity,
/// origin at the picture's lower left as seen after levelling.
struct BodySpace;

template <class Space> struct Vec2 {
    double x = 0, y = 0;
    friend constexpr bool operator==(Vec2, Vec2) = default;
    friend constexpr Vec2 operator+(Vec2 a, Vec2 b) { return {a.x + b.x, a.y + b.y}; }
    friend constexpr Vec2 operator-(Vec2 a, Vec2 b) { return {a.x - b.x, a.y - b.y}; }
    friend constexpr Vec2 operator*(Vec2 a, double s) { return {a.x * s, a.y * s}; }
    double length() const { return std::hypot(x, y); }
};

template <class Space> struct Point2 {
    double x = 0, y = 0;
    friend constexpr bool operator==(Point2, Point2) = default;
    friend constexpr Vec2<Space> operator-(Point2 a, Point2 b) { return {a.x - b.x, a.y - b.y}; }
    friend constexpr Point2 operator+(Point2 a, Vec2<Space> d) { return {a.x + d.x, a.y + d.y}; }
};

using ImagePoint = Point2<ImageSpace>;
using BodyPoint = Point2<BodySpace>;
using ImageVector = Vec2<ImageSpace>;
using BodyVector = Vec2<BodySpace>;

template <class Space> constexpr double dot(Vec2<Space> a, Vec2<Space> b)
{
    return a.x * b.x + a.y * b.y;
}
template <class Space> constexpr double cross(Vec2<Space> a, Vec2<Space> b)
{
    return a.x * b.y - a.y * b.x;
}

template <class Space> constexpr Point2<Space> lerp(Point2<Space> a, Point2<Space> b, double t)
{
    return {a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t};
}
template <class Space> constexpr Point2<Space> midpoint(Point2<Space> a, Point2<Space> b)
{
    return lerp(a, b, 0.5);
}

/// Interior angle a-vertex-b in [0, pi]. Empty if an arm has no length.
template <class Space> std::optional<Angle> angleAt(Point2<Space> a, Point2<Space> vertex, Point2<Space> b)
{
    const auto u = a - vertex, v = b - vertex;
    if (u.length() == 0 || v.length() == 0)
        return std::nullopt;
    return Angle::radians(std::atan2(std::abs(cross(u, v)), dot(u, v)));
}

/// Direction of the line from a to b against +x, in (-pi, pi]. Empty if the points coincide.
inline std::optional<Angle> directionOf(BodyPoint a, BodyPoint b)
{
    const auto d = b - a;
    if (d.length() == 0)
        return std::nullopt;
    return Angle::radians(std::atan2(d.y, d.x));
}

} // namespace kestrel
