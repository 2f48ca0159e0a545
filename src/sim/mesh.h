#pragma once

#include "sim/person.h"

#include <array>
#include <cstdint>
#include <functional>
#include <vector>

namespace kestrel::sim {

/// Red, green and blue from 0 to 1.
using Colour = Eigen::Vector3f;
/// From 0xrrggbb.
Colour colourOf(std::uint32_t rgb);

/// Triangles with a normal and a colour at each corner; world, metres.
struct Mesh {
    std::vector<Eigen::Vector3f> points, normals;
    std::vector<Colour> colours;
    std::vector<std::array<std::uint32_t, 3>> triangles;

    std::uint32_t add(const Vec3& point, const Vec3& normal, const Colour&);

    /// A limb: balls of two sizes and what lies between them.
    void addLimb(const Vec3& a, const Vec3& b, double radiusA, double radiusB, const Colour&, int sides = 14);
    /// An ellipsoid with half-axes \p x, \p y, \p z. \param paint  colour by unit direction along the axes
    void addEllipsoid(const Vec3& centre, const Vec3& x, const Vec3& y, const Vec3& z,
                      const std::function<Colour(const Vec3&)>& paint, int rings = 10, int sides = 16);
    /// A skin over closed rings of equal numbers of points, one after the other.
    struct Ring {
        Vec3 centre, x, y; ///< half-axes
        Colour colour;
    };
    void addLoft(const std::vector<Ring>&, int sides = 20);
    /// Flat and seen from both sides.
    void addFlat(const std::vector<Vec3>& corners, const Colour&);
    void addBox(const Vec3& low, const Vec3& high, const Colour&);
    /// A bent rod along a closed or open line.
    void addRod(const std::vector<Vec3>& line, double radius, const Colour&, bool isClosed = false, int sides = 6);
};

} // namespace kestrel::sim
