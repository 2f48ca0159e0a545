#include "sim/mesh.h"

#include <Eigen/Geometry>
#include <cmath>
#include <numbers>

namespace kestrel::sim {

namespace {

constexpr double kTurn = 2 * std::numbers::pi;

} // namespace

Colour colourOf(std::uint32_t rgb)
{
    return Colour(static_cast<float>(rgb >> 16 & 255), static_cast<float>(rgb >> 8 & 255), static_cast<float>(rgb & 255)) /
           255.0F;
}

std::uint32_t Mesh::add(const Vec3& point, const Vec3& normal, const Colour& colour)
{
    points.push_back(point.cast<float>());
    normals.push_back(normal.cast<float>());
    colours.push_back(colour);
    return static_cast<std::uint32_t>(points.size() - 1);
}

void Mesh::addLimb(const Vec3& a, const Vec3& b, double radiusA, double radiusB, const Colour& colour, int sides)
{
    constexpr int kCap = 4; // rings of each rounded end
    const Vec3 gap = b - a;
    const Vec3 axis = gap.norm() < 1e-9 ? Vec3(0, 1, 0) : Vec3(gap.normalized());
    const Vec3 x = axis.unitOrthogonal(), y = axis.cross(x);
    std::vector<std::uint32_t> last;
    for (int i = 0; i < 2 * kCap; ++i) {
        const bool isFirst = i < kCap;
        const double angle = (isFirst ? i - (kCap - 1) : i - kCap) * (kTurn / 4) / (kCap - 0.999);
        const double radius = isFirst ? radiusA : radiusB;
        const Vec3 centre = (isFirst ? a : b) + axis * (radius * std::sin(angle));
        const double out = std::cos(angle);
        std::vector<std::uint32_t> ring;
        for (int k = 0; k < sides; ++k) {
            const double turn = kTurn * k / sides;
            const Vec3 side = x * std::cos(turn) + y * std::sin(turn);
            ring.push_back(add(centre + side * (radius * out), side * out + axis * std::sin(angle), colour));
        }
        for (std::size_t k = 0; !last.empty() && k < ring.size(); ++k) {
            const std::size_t next = (k + 1) % ring.size();
            triangles.push_back({last[k], last[next], ring[next]});
            triangles.push_back({last[k], ring[next], ring[k]});
        }
        last = std::move(ring);
    }
}

void Mesh::addEllipsoid(const Vec3& centre, const Vec3& x, const Vec3& y, const Vec3& z,
                        const std::function<Colour(const Vec3&)>& paint, int rings, int sides)
{
    const auto index = [&, base = static_cast<std::uint32_t>(points.size())](int ring, int side) {
        return base + static_cast<std::uint32_t>(ring * sides + side % sides);
    };
    for (int i = 0; i <= rings; ++i) {
        const double polar = std::numbers::pi * i / rings;
        for (int k = 0; k < sides; ++k) {
            const double turn = kTurn * k / sides;
            const Vec3 d(std::sin(polar) * std::cos(turn), std::cos(polar), std::sin(polar) * std::sin(turn));
            const Vec3 normal = x * (d.x() / x.squaredNorm()) + y * (d.y() / y.squaredNorm()) + z * (d.z() / z.squaredNorm());
            add(centre + x * d.x() + y * d.y() + z * d.z(), normal.normalized(), paint(d));
        }
    }
    for (int i = 0; i < rings; ++i)
        for (int k = 0; k < sides; ++k) {
            triangles.push_back({index(i, k), index(i, k + 1), index(i + 1, k + 1)});
            triangles.push_back({index(i, k), index(i + 1, k + 1), index(i + 1, k)});
        }
}

void Mesh::addLoft(const std::vector<Ring>& rings, int sides)
{
    const auto base = static_cast<std::uint32_t>(points.size());
    const auto n = static_cast<std::uint32_t>(sides);
    for (const auto& r : rings)
        for (int k = 0; k < sides; ++k) {
            const double turn = kTurn * k / sides;
            const Vec3 out = r.x * (std::cos(turn) / r.x.squaredNorm()) + r.y * (std::sin(turn) / r.y.squaredNorm());
            add(r.centre + r.x * std::cos(turn) + r.y * std::sin(turn), out.normalized(), r.colour);
        }
    for (std::uint32_t i = 0; i + 1 < rings.size(); ++i)
        for (std::uint32_t k = 0; k < n; ++k) {
            const std::uint32_t next = (k + 1) % n, low = base + i * n, high = low + n;
            triangles.push_back({low + k, low + next, high + next});
            triangles.push_back({low + k, high + next, high + k});
        }
    // lids
    for (const bool isEnd : {false, true}) {
        const Ring& r = isEnd ? rings.back() : rings.front();
        const Vec3 inward = isEnd ? Vec3(rings[rings.size() - 2].centre - r.centre) : Vec3(rings[1].centre - r.centre);
        const std::uint32_t middle = add(r.centre, -inward.normalized(), r.colour);
        const std::uint32_t first = isEnd ? base + n * static_cast<std::uint32_t>(rings.size() - 1) : base;
        for (std::uint32_t k = 0; k < n; ++k)
            triangles.push_back({middle, first + k, first + (k + 1) % n});
    }
}

void Mesh::addFlat(const std::vector<Vec3>& corners, const Colour& colour)
{
    const Vec3 normal = (corners[1] - corners[0]).cross(corners[2] - corners[0]).normalized();
    const std::uint32_t first = add(corners[0], normal, colour);
    std::uint32_t last = add(corners[1], normal, colour);
    for (std::size_t i = 2; i < corners.size(); ++i) {
        const std::uint32_t now = add(corners[i], normal, colour);
        triangles.push_back({first, last, now});
        last = now;
    }
}

void Mesh::addBox(const Vec3& low, const Vec3& high, const Colour& colour)
{
    const auto corner = [&](int i) {
        return Vec3(i & 1 ? high.x() : low.x(), i & 2 ? high.y() : low.y(), i & 4 ? high.z() : low.z());
    };
    for (const auto& [a, b, c, d] :
         {std::array{0, 1, 3, 2}, {4, 6, 7, 5}, {0, 4, 5, 1}, {2, 3, 7, 6}, {0, 2, 6, 4}, {1, 5, 7, 3}})
        addFlat({corner(a), corner(b), corner(c), corner(d)}, colour);
}

void Mesh::addRod(const std::vector<Vec3>& line, double radius, const Colour& colour, bool isClosed, int sides)
{
    const std::size_t pieces = line.size() - (isClosed ? 0 : 1);
    for (std::size_t i = 0; i < pieces; ++i)
        addLimb(line[i], line[(i + 1) % line.size()], radius, radius, colour, sides);
}

} // namespace kestrel::sim
