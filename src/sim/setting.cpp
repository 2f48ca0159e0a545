#include "sim/setting.h"

#include "core/base/error_sample.h"

#include <cmath>
#include <numbers>

namespace kestrel::sim {

namespace {

// Sizes in metres, after the rules of the games.
constexpr double kFar = 70;
constexpr double kLine = 0.05;
constexpr double kCourtLength = 23.77, kCourtHalfWidth = 5.485, kSinglesHalfWidth = 4.115, kServiceLine = 6.40;
constexpr double kNetMiddle = 0.914, kNetPost = 1.07;
constexpr double kTableLength = 2.74, kTableHalfWidth = 0.7625, kTableHeight = 0.76, kTableNet = 0.1525;
constexpr double kHoopHeight = 3.05, kHoopRadius = 0.2285, kFreeThrow = 4.19; // from the line to the ring's middle
constexpr double kGoalHalfWidth = 0.915, kGoalHeight = 1.22;
constexpr double kPlate = 0.61;

// Flats on the ground lie over each other in this order.
constexpr double kLayer = 0.003;

class Builder {
public:
    Builder(bool mirrored, const Vec3& eye) : m_side(mirrored ? -1 : 1), m_eye(eye) {}

    Surroundings run(Setting setting)
    {
        switch (setting) {
        case Setting::Mound:
            field();
            disc(0.55, 0, 2.74, 1, 0xb08558);
            disc(0.55, 0, 1.5, 2, 0xbb9064);
            clods(0.55, 0, 2.4);
            flat(-0.105, 0.045, -kPlate / 2, kPlate / 2, 3, 0xf0eee8);
            break;
        case Setting::Circle:
            field();
            disc(0.9, 0, 2.44, 1, 0xb08558);
            clods(0.9, 0, 2.2);
            flat(-0.105, 0.045, -kPlate / 2, kPlate / 2, 2, 0xf0eee8);
            break;
        case Setting::BattersBox:
            field();
            disc(0.3, 0.6, 3.96, 1, 0xb08558);
            clods(0.3, 0.6, 3.4);
            frame(-0.75, 1.08, -0.80, 0.42, 2); // the box, 1.83 by 1.22
            ground({{0.35, 0.62}, {0.62, 0.62}, {0.62, 1.05}, {0.35, 1.05}, {0.20, 0.835}}, 2, 0xf0eee8);
            break;
        case Setting::Infield:
            field();
            disc(0, 0, 9, 1, 0xb58c60);
            clods(0, 0, 5);
            break;
        case Setting::TennisCourt:
            tennisCourt();
            break;
        case Setting::SquashCourt:
            squashCourt();
            break;
        case Setting::Table:
            table();
            break;
        case Setting::Hoop:
            hoop();
            break;
        case Setting::Rink:
            rink();
            break;
        }
        return std::move(m_made);
    }

private:
    Vec3 at(double x, double y, double z) const { return {x, y, m_side * z}; }
    void ground(const std::vector<std::pair<double, double>>& corners, int layer, std::uint32_t rgb)
    {
        std::vector<Vec3> points;
        for (const auto& [x, z] : corners)
            points.push_back(at(x, layer * kLayer, z));
        m_made.mesh.addFlat(points, colourOf(rgb));
        for (std::size_t i = m_made.mesh.normals.size() - points.size(); i < m_made.mesh.normals.size(); ++i)
            m_made.mesh.normals[i] = {0, 1, 0};
    }
    void flat(double x0, double x1, double z0, double z1, int layer, std::uint32_t rgb)
    {
        ground({{x0, z0}, {x1, z0}, {x1, z1}, {x0, z1}}, layer, rgb);
    }
    void disc(double x, double z, double radius, int layer, std::uint32_t rgb)
    {
        std::vector<std::pair<double, double>> ring;
        for (int i = 0; i < 64; ++i) {
            const double turn = 2 * std::numbers::pi * i / 64;
            ring.emplace_back(x + radius * std::cos(turn), z + radius * std::sin(turn));
        }
        ground(ring, layer, rgb);
    }
    void lineAlong(double x0, double x1, double z, int layer, std::uint32_t rgb = 0xf6f6f2)
    {
        flat(x0, x1, z - kLine / 2, z + kLine / 2, layer, rgb);
    }
    void lineAcross(double x, double z0, double z1, int layer, std::uint32_t rgb = 0xf6f6f2)
    {
        flat(x - kLine / 2, x + kLine / 2, z0, z1, layer, rgb);
    }
    void frame(double x0, double x1, double z0, double z1, int layer, std::uint32_t rgb = 0xf6f6f2)
    {
        lineAlong(x0, x1, z0, layer, rgb);
        lineAlong(x0, x1, z1, layer, rgb);
        lineAcross(x0, z0, z1, layer, rgb);
        lineAcross(x1, z0, z1, layer, rgb);
    }
    void box(const Vec3& a, const Vec3& b, std::uint32_t rgb) { m_made.mesh.addBox(a.cwiseMin(b), a.cwiseMax(b), colourOf(rgb)); }
    /// Spots of earth, so that the ground does not look like paper and a moving camera is seen to move.
    void clods(double x, double z, double radius)
    {
        const ErrorSample sample(3);
        for (std::uint64_t i = 0; i < 130; ++i) {
            const double r = radius * std::sqrt(std::abs(sample.even(ErrorSample::mix(5, i)))),
                         turn = std::numbers::pi * sample.even(ErrorSample::mix(6, i));
            const double size = 0.02 * (1.3 + sample.even(ErrorSample::mix(8, i)));
            const double cx = x + r * std::cos(turn), cz = z + r * std::sin(turn);
            ground({{cx - size, cz}, {cx, cz + size}, {cx + size, cz}, {cx, cz - size}}, 4, i % 2 ? 0x9a7146 : 0xc49c70);
        }
    }
    /// A wall is left out when the eye looks at its back.
    void wall(const std::vector<Vec3>& corners, const Vec3& inward, std::uint32_t rgb)
    {
        if ((m_eye - corners.front()).dot(inward) > 0)
            m_made.mesh.addFlat(corners, colourOf(rgb));
    }

    void sky(std::uint32_t low, std::uint32_t high)
    {
        m_made.beyond = [low = colourOf(low), high = colourOf(high)](const Vec3& d) {
            const auto t = static_cast<float>(std::clamp(d.y() * 2.2, 0.0, 1.0));
            return Colour(low * (1 - t) + high * t);
        };
    }

    void field()
    {
        sky(0xd6e2e8, 0x86acd0);
        flat(-kFar, kFar, -kFar, kFar, 0, 0x6f9450);
        const ErrorSample sample(7);
        for (int i = -16; i < 16; i += 2) // mown strips
            flat(-kFar, kFar, i * 2.2, (i + 1) * 2.2, 0, 0x7a9d58);
        // trees and a fence all round
        for (std::uint64_t i = 0; i < 150; ++i) {
            const double turn = 2 * std::numbers::pi * static_cast<double>(i) / 150,
                         away = 56 + 8 * sample.even(ErrorSample::mix(1, i));
            const double size = 2.3 + 0.9 * sample.even(ErrorSample::mix(2, i));
            const Colour leaves = colourOf(i % 3 ? 0x557a58 : 0x6b8c68);
            m_made.mesh.addEllipsoid(
                {away * std::cos(turn), 0.75 * size, away * std::sin(turn)}, {size, 0, 0}, {0, size, 0}, {0, 0, size},
                [&](const Vec3&) { return leaves; }, 8, 14);
        }
        const double ring = 26;
        for (int i = 0; i < 72; ++i) {
            const double a = 2 * std::numbers::pi * i / 72, b = 2 * std::numbers::pi * (i + 1) / 72;
            const Vec3 p(ring * std::cos(a), 0, ring * std::sin(a)), q(ring * std::cos(b), 0, ring * std::sin(b)), up(0, 1, 0);
            m_made.mesh.addRod({p, p + up * 1.15}, 0.03, colourOf(0x6c7470), false, 5);
            for (const double rail : {0.2, 0.65, 1.12})
                m_made.mesh.addRod({p + up * rail, q + up * rail}, 0.02, colourOf(0x7c847e), false, 4);
        }
    }

    void net(double x, double halfWidth, double middle, double ends, std::uint32_t cord)
    {
        const auto top = [&](double z) { return middle + (ends - middle) * z * z / (halfWidth * halfWidth); };
        const int strings = 70;
        for (int i = 0; i <= strings; ++i) {
            const double z = halfWidth * (2.0 * i / strings - 1);
            m_made.mesh.addFlat(
                {at(x, 0.03, z - 0.004), at(x, 0.03, z + 0.004), at(x, top(z), z + 0.004), at(x, top(z), z - 0.004)},
                colourOf(cord));
        }
        for (int row = 1; row < 9; ++row)
            for (int i = 0; i < 8; ++i) {
                const double z0 = halfWidth * (2.0 * i / 8 - 1), z1 = halfWidth * (2.0 * (i + 1) / 8 - 1), share = row / 9.0;
                m_made.mesh.addFlat({at(x, top(z0) * share, z0), at(x, top(z1) * share, z1), at(x, top(z1) * share + 0.007, z1),
                                     at(x, top(z0) * share + 0.007, z0)},
                                    colourOf(cord));
            }
        for (int i = 0; i < 12; ++i) {
            const double z0 = halfWidth * (2.0 * i / 12 - 1), z1 = halfWidth * (2.0 * (i + 1) / 12 - 1);
            m_made.mesh.addFlat({at(x - 0.005, top(z0) - 0.06, z0), at(x - 0.005, top(z1) - 0.06, z1), at(x - 0.005, top(z1), z1),
                                 at(x - 0.005, top(z0), z0)},
                                colourOf(0xf4f4f0));
        }
        for (const double end : {-1.0, 1.0})
            m_made.mesh.addRod({at(x, 0, end * halfWidth), at(x, ends, end * halfWidth)}, 0.04, colourOf(0x2c3a32), false, 8);
    }

    void tennisCourt()
    {
        sky(0xd6e2e8, 0x86acd0);
        flat(-kFar, kFar, -kFar, kFar, 0, 0x5d8a5a);
        flat(-6, kCourtLength + 6, -9, 9, 1, 0x3f7a56);
        flat(0, kCourtLength, -kCourtHalfWidth, kCourtHalfWidth, 2, 0x3c6ea0);
        frame(0, kCourtLength, -kCourtHalfWidth, kCourtHalfWidth, 3);
        lineAlong(0, kCourtLength, -kSinglesHalfWidth, 3);
        lineAlong(0, kCourtLength, kSinglesHalfWidth, 3);
        const double middle = kCourtLength / 2;
        for (const double x : {middle - kServiceLine, middle + kServiceLine})
            lineAcross(x, -kSinglesHalfWidth, kSinglesHalfWidth, 3);
        lineAlong(middle - kServiceLine, middle + kServiceLine, 0, 3);
        lineAlong(0, 0.1, 0, 3);
        net(middle, kCourtHalfWidth + 0.5, kNetMiddle, kNetPost, 0x23282a);
        // a hedge behind the fence
        const ErrorSample sample(9);
        for (std::uint64_t i = 0; i < 110; ++i) {
            const double turn = 2 * std::numbers::pi * static_cast<double>(i) / 110;
            const Colour leaves = colourOf(i % 3 ? 0x4f7350 : 0x5f8460);
            const double size = 1.9 + 0.5 * sample.even(i);
            m_made.mesh.addEllipsoid(
                {8 + 38 * std::cos(turn), 0.5 * size, 38 * std::sin(turn)}, {size, 0, 0}, {0, size, 0}, {0, 0, size},
                [&](const Vec3&) { return leaves; }, 8, 14);
        }
    }

    void hall(std::uint32_t floor, std::uint32_t wallColour, double halfWidth, double back, double front)
    {
        sky(0xb9b4a8, 0xd9d6cc);
        flat(back, front, -halfWidth, halfWidth, 0, floor);
        const double high = 7;
        wall({at(back, 0, -halfWidth), at(front, 0, -halfWidth), at(front, high, -halfWidth), at(back, high, -halfWidth)},
             at(0, 0, 1), wallColour);
        wall({at(back, 0, halfWidth), at(front, 0, halfWidth), at(front, high, halfWidth), at(back, high, halfWidth)},
             at(0, 0, -1), wallColour);
        wall({at(front, 0, -halfWidth), at(front, 0, halfWidth), at(front, high, halfWidth), at(front, high, -halfWidth)},
             at(-1, 0, 0), wallColour);
        wall({at(back, 0, -halfWidth), at(back, 0, halfWidth), at(back, high, halfWidth), at(back, high, -halfWidth)},
             at(1, 0, 0), wallColour);
    }

    void squashCourt()
    {
        hall(0xc9a878, 0xe9e6de, 3.2, -5.45, 4.3);
        const double front = 4.3 - 0.01;
        for (const double y : {0.48, 1.78, 4.57}) // tin, service line, out line
            m_made.mesh.addFlat({at(front, y, -3.2), at(front, y, 3.2), at(front, y + kLine, 3.2), at(front, y + kLine, -3.2)},
                                colourOf(0xb0302a));
        lineAcross(-1.19, -3.2, 3.2, 1, 0xb0302a); // short line
        lineAlong(-5.45, -1.19, 0, 1, 0xb0302a);
    }

    void table()
    {
        hall(0xa8795a, 0x8fa3ad, 7, -7, 10);
        const double near = 0.75, far = near + kTableLength;
        box(at(near, kTableHeight - 0.025, -kTableHalfWidth), at(far, kTableHeight, kTableHalfWidth), 0x2a5f8f);
        const double top = kTableHeight + 0.001;
        const auto stripe = [&](double x0, double x1, double z0, double z1) {
            m_made.mesh.addFlat({at(x0, top, z0), at(x1, top, z0), at(x1, top, z1), at(x0, top, z1)}, colourOf(0xf4f4f0));
        };
        stripe(near, near + 0.02, -kTableHalfWidth, kTableHalfWidth);
        stripe(far - 0.02, far, -kTableHalfWidth, kTableHalfWidth);
        stripe(near, far, -kTableHalfWidth, -kTableHalfWidth + 0.02);
        stripe(near, far, kTableHalfWidth - 0.02, kTableHalfWidth);
        stripe(near, far, -0.0015, 0.0015);
        for (const double x : {near + 0.35, far - 0.35})
            for (const double z : {-0.6, 0.6})
                box(at(x - 0.025, 0, z - 0.025), at(x + 0.025, kTableHeight - 0.02, z + 0.025), 0x33383c);
        const double middle = near + kTableLength / 2, reach = kTableHalfWidth + 0.1525;
        m_made.mesh.addFlat({at(middle, kTableHeight, -reach), at(middle, kTableHeight, reach),
                             at(middle, kTableHeight + kTableNet, reach), at(middle, kTableHeight + kTableNet, -reach)},
                            colourOf(0x3a4a52));
        m_made.mesh.addFlat({at(middle - 0.004, kTableHeight + kTableNet - 0.015, -reach),
                             at(middle - 0.004, kTableHeight + kTableNet - 0.015, reach),
                             at(middle - 0.004, kTableHeight + kTableNet, reach),
                             at(middle - 0.004, kTableHeight + kTableNet, -reach)},
                            colourOf(0xf4f4f0));
    }

    void hoop()
    {
        hall(0xc79a62, 0xb8bcc0, 9, -9, 9);
        for (int i = -18; i < 18; i += 2) // boards
            flat(-9, 9, i * 0.5, (i + 1) * 0.5, 0, 0xcda26c);
        const double ring = kFreeThrow + 0.3, backboard = ring + 0.38;
        lineAcross(0.3, -1.83, 1.83, 1);
        lineAlong(0.3, backboard + 1.2, -1.83, 1);
        lineAlong(0.3, backboard + 1.2, 1.83, 1);
        lineAcross(backboard + 1.2, -7.6, 7.6, 1);
        m_made.mesh.addFlat(
            {at(backboard, 2.90, -0.915), at(backboard, 2.90, 0.915), at(backboard, 3.97, 0.915), at(backboard, 3.97, -0.915)},
            colourOf(0xf2f2ee));
        m_made.mesh.addRod({at(backboard - 0.01, 3.05, -0.295), at(backboard - 0.01, 3.05, 0.295),
                            at(backboard - 0.01, 3.50, 0.295), at(backboard - 0.01, 3.50, -0.295)},
                           0.02, colourOf(0xc23b2e), true, 4);
        if (m_eye.x() < backboard) { // from behind the board its stand would hide the player
            box(at(backboard + 0.05, 2.8, -0.06), at(backboard + 1.4, 2.95, 0.06), 0x4a5058);
            box(at(backboard + 1.3, 0, -0.1), at(backboard + 1.5, 2.95, 0.1), 0x4a5058);
        }
        std::vector<Vec3> rim, low;
        for (int i = 0; i < 24; ++i) {
            const double turn = 2 * std::numbers::pi * i / 24;
            rim.push_back(at(ring + kHoopRadius * std::cos(turn), kHoopHeight, kHoopRadius * std::sin(turn)));
            low.push_back(at(ring + 0.13 * std::cos(turn + 0.15), kHoopHeight - 0.42, 0.13 * std::sin(turn + 0.15)));
        }
        m_made.mesh.addRod(rim, 0.012, colourOf(0xd8551f), true);
        for (std::size_t i = 0; i < rim.size(); i += 2)
            m_made.mesh.addRod({rim[i], low[(i + 2) % low.size()]}, 0.005, colourOf(0xf2f2ee), false, 4);
        m_made.mesh.addRod({at(ring + kHoopRadius, kHoopHeight, 0), at(backboard, kHoopHeight, 0)}, 0.03, colourOf(0xd8551f));
    }

    void rink()
    {
        sky(0x9aa6b0, 0xc8ccd0);
        flat(-kFar, kFar, -kFar, kFar, 0, 0xdfe9ee);
        for (const double x : {-6.0, 9.0})
            flat(x - 0.15, x + 0.15, -13, 13, 1, x < 0 ? 0x2c5ea8 : 0xb03038);
        for (const double side : {-1.0, 1.0}) { // boards
            const double z = side * 12;
            wall({at(-20, 0, z), at(13, 0, z), at(13, 1.07, z), at(-20, 1.07, z)}, at(0, 0, -side), 0xf2f3f0);
            wall({at(-20, 0, z * 0.999), at(13, 0, z * 0.999), at(13, 0.2, z * 0.999), at(-20, 0.2, z * 0.999)}, at(0, 0, -side),
                 0xd9b93a);
        }
        wall({at(13, 0, -12), at(13, 0, 12), at(13, 1.07, 12), at(13, 1.07, -12)}, {-1, 0, 0}, 0xf2f3f0);
        const double goal = 9;
        m_made.mesh.addRod({at(goal, 0, -kGoalHalfWidth), at(goal, kGoalHeight, -kGoalHalfWidth),
                            at(goal, kGoalHeight, kGoalHalfWidth), at(goal, 0, kGoalHalfWidth)},
                           0.03, colourOf(0xc02a2a), false, 8);
        for (int i = 0; i <= 14; ++i) {
            const double z = kGoalHalfWidth * (2.0 * i / 14 - 1);
            m_made.mesh.addRod({at(goal, kGoalHeight, z), at(goal + 0.6, kGoalHeight, z), at(goal + 1.0, 0, z)}, 0.006,
                               colourOf(0xf4f4f4), false, 4);
        }
        const ErrorSample sample(4);
        for (std::uint64_t i = 0; i < 80; ++i) { // marks of skates
            const double x = 5 * sample.even(ErrorSample::mix(1, i)), z = 4 * sample.even(ErrorSample::mix(2, i)),
                         turn = 3 * sample.even(ErrorSample::mix(3, i));
            const double dx = 0.35 * std::cos(turn), dz = 0.35 * std::sin(turn);
            ground({{x - dx, z - dz}, {x + dx, z + dz}, {x + dx + 0.012, z + dz + 0.012}, {x - dx + 0.012, z - dz + 0.012}}, 1,
                   0xc4d2da);
        }
    }

    double m_side;
    Vec3 m_eye;
    Surroundings m_made;
};

} // namespace

Surroundings surroundingsOf(Setting setting, bool mirrored, const Vec3& eye)
{
    return Builder(mirrored, eye).run(setting);
}

} // namespace kestrel::sim
