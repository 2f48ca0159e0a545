#include "sim/figure.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace kestrel::sim {

namespace {

Vec3 between(const Vec3& a, const Vec3& b, double t)
{
    return a + (b - a) * t;
}

constexpr BodySide kSides[]{BodySide::Left, BodySide::Right};

/// Dresses one placed body. Sizes are shares of height.
class Dresser {
public:
    Dresser(const Skeleton& body, const Build& build, const Look& look)
        : m_body(body), m_build(build), m_look(look), m_height(build.person.heightMetres), m_p(proportionsOf(build.person))
    {
    }

    Mesh run(bool hasGlove, bool holdsBall)
    {
        paintTrunk();
        for (const auto side : kSides) {
            paintLeg(side);
            const bool isDom = side == m_build.domSide();
            const bool holds = m_body.implement ? isDom || m_build.implement->offHand.has_value() : isDom && holdsBall;
            paintArm(side, hasGlove && !isDom, holds);
        }
        paintHead();
        if (m_body.implement)
            paintImplement();
        return std::move(m_mesh);
    }

private:
    Vec3 at(Part part, BodySide side = BodySide::None) const { return m_body.at(part, side); }
    void limb(const Vec3& a, const Vec3& b, double ra, double rb, const Colour& colour, int sides = 14)
    {
        m_mesh.addLimb(a, b, ra * m_height, rb * m_height, colour, sides);
    }

    /// Where the trunk is and how it lies; across is to the athlete's right.
    struct Trunk {
        Vec3 midHip, midShoulder, up, hipAcross, hipForward, chestAcross, chestForward;
        Vec3 seatUp; ///< the seat lies between the trunk and the thighs, which may be bent a long way
    };
    Trunk trunkOfBody() const
    {
        const Vec3 hips = at(Part::Hip, BodySide::Right) - at(Part::Hip, BodySide::Left);
        Trunk t;
        t.midHip = between(at(Part::Hip, BodySide::Left), at(Part::Hip, BodySide::Right), 0.5);
        t.midShoulder = m_body.chestCentre;
        t.up = (t.midShoulder - t.midHip).normalized();
        t.hipAcross = hips.normalized();
        t.chestAcross = m_body.chestRight;
        const Vec3 knees = between(at(Part::Knee, BodySide::Left), at(Part::Knee, BodySide::Right), 0.5);
        t.seatUp = (t.up + (t.midHip - knees).normalized()).normalized();
        t.hipForward = t.seatUp.cross(t.hipAcross).normalized();
        t.chestForward = t.up.cross(t.chestAcross).normalized();
        return t;
    }

    void paintTrunk()
    {
        const Trunk trunk = trunkOfBody();
        struct Row {
            double t, wide, deep; // place from hips to shoulders, half width and half depth as shares of height
            bool isShirt, isStripe;
        };
        // The shoulders lie as high as the shoulder blades' points (sim/person), with two fingers of flesh on top that rise to
        // the neck; the seat is as wide as the thighs that grow out of it.
        static constexpr Row kRows[]{
            {-0.24, 0.034, 0.040, false, false}, {-0.14, 0.086, 0.060, false, false}, {-0.02, 0.100, 0.068, false, false},
            {0.10, 0.088, 0.062, false, false},  {0.10, 0.089, 0.063, true, false},   {0.34, 0.076, 0.055, true, false},
            {0.60, 0.086, 0.060, true, false},   {0.60, 0.086, 0.060, true, true},    {0.74, 0.092, 0.063, true, true},
            {0.74, 0.092, 0.063, true, false},   {0.90, 0.098, 0.060, true, false},   {1.00, 0.098, 0.048, true, false},
            {1.05, 0.078, 0.043, true, false},   {1.10, 0.046, 0.037, true, false},   {1.13, 0.034, 0.032, true, false}};
        std::vector<Mesh::Ring> rings;
        for (const auto& r : kRows) {
            const double t = std::clamp(r.t, 0.0, 1.0), grow = m_p.halfShoulders / 0.100;
            const Vec3 up = r.t < 0 ? trunk.seatUp : trunk.up;
            Vec3 across = trunk.hipAcross * (1 - t) + trunk.chestAcross * t;
            across = (across - up * across.dot(up)).normalized();
            const Vec3 forward = across.cross(up), below = up * (std::min(0.0, r.t) * (trunk.midShoulder - trunk.midHip).norm());
            const Colour& colour = !r.isShirt ? m_look.trousers : r.isStripe ? m_look.stripe : m_look.shirt;
            rings.push_back({between(trunk.midHip, trunk.midShoulder, std::max(0.0, r.t)) + below,
                             across * (r.wide * m_height * (t > 0.5 ? grow : 1.0)), forward * (r.deep * m_height), colour});
        }
        m_mesh.addLoft(rings, 22);
        for (const BodySide side : kSides) {
            // the shoulder's own flesh joins the arm wherever that points
            const Vec3 shoulder = at(Part::Shoulder, side), chest = between(trunk.midHip, trunk.midShoulder, 0.84);
            limb(shoulder, between(shoulder, chest, 0.45), 0.0275, 0.046, m_look.shirt);
            limb(at(Part::Neck), shoulder, 0.026, 0.0275, m_look.shirt);
            const Vec3 seat = between(at(Part::Hip, side), trunk.midHip, 0.2);
            m_mesh.addEllipsoid(seat - (trunk.seatUp * 0.016 + trunk.hipForward * 0.014) * m_height,
                                trunk.hipAcross * (0.046 * m_height), trunk.seatUp * (0.046 * m_height),
                                trunk.hipForward * (0.048 * m_height), [&](const Vec3&) { return m_look.trousers; });
        }
        limb(at(Part::Neck), between(at(Part::Neck), m_body.headCentre, 0.5), 0.033, 0.034, m_look.skin);
        paintFrontOfShirt(trunk);
        if (m_look.hasSkirt)
            paintSkirt(trunk);
    }

    /// It is open at the throat and buttoned below: what tells the front from the back.
    void paintFrontOfShirt(const Trunk& trunk)
    {
        const auto onChest = [&](double t, double across, double forward) {
            return Vec3(between(trunk.midHip, trunk.midShoulder, t) +
                        (trunk.chestAcross * across + trunk.chestForward * forward) * m_height);
        };
        for (const double side : {-1.0, 1.0})
            m_mesh.addRod({onChest(1.10, side * 0.038, 0.026), onChest(0.98, 0, 0.054)}, 0.0050 * m_height, m_look.stripe);
        m_mesh.addFlat({onChest(1.10, -0.036, 0.032), onChest(0.985, 0, 0.056), onChest(1.10, 0.036, 0.032)}, m_look.skin);
        m_mesh.addRod({onChest(0.98, 0, 0.052), onChest(0.84, 0, 0.061)}, 0.0040 * m_height, m_look.stripe);
    }

    void paintSkirt(const Trunk& trunk)
    {
        std::vector<Mesh::Ring> skirt;
        const Vec3 knees = between(at(Part::Knee, BodySide::Left), at(Part::Knee, BodySide::Right), 0.5);
        for (const double t : {-0.10, 0.0, 0.30, 0.55})
            skirt.push_back({between(trunk.midHip, knees, t), trunk.hipAcross * ((0.094 + 0.10 * std::max(0.0, t)) * m_height),
                             trunk.hipForward * ((0.068 + 0.12 * std::max(0.0, t)) * m_height), m_look.trousers});
        m_mesh.addLoft(skirt, 22);
    }

    void paintArm(BodySide side, bool wearsGlove, bool holds)
    {
        const Vec3 shoulder = at(Part::Shoulder, side), elbow = at(Part::Elbow, side), wrist = at(Part::Wrist, side),
                   grip = at(Part::Hand, side);
        limb(shoulder, between(shoulder, elbow, 0.22), 0.0270, 0.0320, m_look.shirt);
        limb(between(shoulder, elbow, 0.22), between(shoulder, elbow, 0.60), 0.0320, 0.0290, m_look.shirt);
        limb(between(shoulder, elbow, 0.5), elbow, 0.0245, 0.0210, m_look.skin);
        limb(between(elbow, wrist, 0.02), between(elbow, wrist, 0.35), 0.0215, 0.0225, m_look.skin);
        limb(between(elbow, wrist, 0.35), wrist, 0.0225, 0.0145, m_look.skin);
        const Vec3 along = (grip - wrist).normalized();
        if (wearsGlove) {
            const Colour leather = colourOf(0x7a4a22);
            const Vec3 across = along.unitOrthogonal(), deep = along.cross(across);
            m_mesh.addEllipsoid(between(wrist, grip, 1.15), along * (0.062 * m_height), across * (0.052 * m_height),
                                deep * (0.030 * m_height), [&](const Vec3&) { return leather; });
            limb(wrist, grip, 0.021, 0.030, leather);
            return;
        }
        limb(wrist, grip, 0.0140, 0.0180, m_look.skin);
        // fingers lie beside each other, square to the forearm's bend
        Vec3 spread = along.cross((wrist - elbow).cross(elbow - shoulder).cross(along));
        spread = spread.norm() < 1e-9 ? along.unitOrthogonal() : Vec3(spread.normalized());
        Vec3 palm = along.cross(spread);
        if (m_body.implement && holds) { // round the handle
            const Vec3 axis = m_body.implement->axis;
            spread = axis;
            palm = along.cross(axis).norm() < 1e-6 ? along.unitOrthogonal() : Vec3(along.cross(axis).normalized());
        }
        for (int i = 0; i < 4; ++i) {
            const Vec3 root = grip + spread * ((i - 1.5) * 0.0095 * m_height) + along * (0.004 * m_height);
            if (holds) {
                const Vec3 knuckle = root + (along * 0.6 + palm * 0.6) * (0.018 * m_height);
                limb(root, knuckle, 0.0068, 0.0062, m_look.skin, 8);
                limb(knuckle, knuckle + (palm * 0.8 - along * 0.7) * (0.018 * m_height), 0.0062, 0.0056, m_look.skin, 8);
            } else {
                const double length = i == 1 || i == 2 ? 0.046 : 0.038;
                const Vec3 tip = root + (along + spread * ((i - 1.5) * 0.10) + palm * 0.18).normalized() * (length * m_height);
                limb(root, tip, 0.0066, 0.0052, m_look.skin, 8);
            }
        }
        const Vec3 thumbRoot = between(wrist, grip, 0.45) - spread * (0.014 * m_height);
        limb(thumbRoot, thumbRoot + (along * 0.7 - spread * 0.5 + palm * 0.35).normalized() * (0.036 * m_height), 0.0078, 0.0060,
             m_look.skin, 8);
    }

    void paintLeg(BodySide side)
    {
        const Vec3 hip = at(Part::Hip, side), knee = at(Part::Knee, side), ankle = at(Part::Ankle, side),
                   heel = at(Part::Heel, side), toe = at(Part::Toe, side);
        const Vec3 shank = (ankle - knee).normalized(), foot = (toe - heel).normalized();
        const Vec3 back = (shank * shank.dot(foot) - foot).normalized() * m_height;
        const Vec3 calf = between(knee, ankle, 0.28) + back * 0.006, below = between(knee, ankle, 0.11);
        const auto thigh = [&](double to, double radius, const Colour& colour) {
            limb(hip, between(hip, knee, 0.25), 0.046, 0.050, colour);
            limb(between(hip, knee, 0.25), between(hip, knee, to), 0.050, radius, colour);
        };
        const bool areBare = m_look.hasShorts || m_look.hasSkirt;
        if (areBare) {
            thigh(m_look.hasSkirt ? 0.3 : 0.62, m_look.hasSkirt ? 0.050 : 0.047, m_look.trousers);
            limb(between(hip, knee, 0.3), knee, 0.047, 0.032, m_look.skin);
            // narrowest under the kneecap, widest at the calf, as girths of legs are
            limb(knee, below, 0.0310, 0.0290, m_look.skin);
            limb(below, calf, 0.0290, 0.0335, m_look.skin);
            limb(calf, between(knee, ankle, 0.85), 0.0335, 0.0205, m_look.skin);
            limb(between(knee, ankle, 0.80), ankle, 0.0225, 0.0205, m_look.socks);
        } else {
            thigh(1, 0.037, m_look.trousers);
            limb(knee, between(calf, ankle, 0.28), 0.0365, 0.0345, m_look.trousers);
            limb(between(calf, ankle, 0.10), ankle, 0.0320, 0.0205, m_look.socks);
        }
        const Colour& cover = areBare ? m_look.skin : m_look.trousers;
        limb(knee - back * 0.018, knee - back * 0.018 + shank * (0.006 * m_height), 0.0185, 0.0175, cover); // the kneecap
        // the ankle bones, which a low shoe leaves free: its collar lies just below them
        const Vec3 across = shank.cross(back) * 0.0150;
        for (const double out : {-1.0, 1.0})
            limb(ankle + across * out, ankle + across * out, 0.0095, 0.0095, m_look.socks, 10);
        const Vec3 rise(0, 0.008 * m_height, 0), instep = ankle + shank * (0.019 * m_height);
        limb(heel + rise, between(heel, toe, 0.55) + rise * 1.4, 0.0200, 0.0215, m_look.shoes);
        limb(between(heel, toe, 0.55) + rise * 1.4, toe + rise * 0.8, 0.0215, 0.0150, m_look.shoes);
        limb(instep, between(ankle, toe, 0.4), 0.0205, 0.0190, m_look.shoes);
    }

    // ---- the head: forward, up and right in head radii

    Vec3 onHead(double f, double u, double r) const
    {
        return m_body.headCentre + (m_body.headForward * f + m_body.headUp * u + m_headRight * r) * m_radius;
    }
    void ball(double f, double u, double r, double deep, double tall, double wide, const Colour& colour, int rings = 8)
    {
        m_mesh.addEllipsoid(
            onHead(f, u, r), m_body.headForward * (deep * m_radius), m_body.headUp * (tall * m_radius),
            m_headRight * (wide * m_radius), [&](const Vec3&) { return colour; }, rings, 2 * rings);
    }

    void paintHead()
    {
        m_headRight = m_body.headForward.cross(m_body.headUp);
        m_radius = m_p.headRadius * m_height;
        const Colour skin = m_look.skin, shade = skin * 0.88F;
        ball(0, 0.08, 0, 0.97, 1.0, 0.82, skin, 14);
        ball(0.24, -0.48, 0, 0.66, 0.62, 0.58, skin, 10); // jaw
        ball(0.46, -0.80, 0, 0.32, 0.26, 0.30, skin);     // chin
        for (const double side : {-1.0, 1.0}) {
            ball(-0.04, -0.06, side * 0.84, 0.15, 0.25, 0.09, shade, 6);
            ball(0.80, 0.14, side * 0.33, 0.13, 0.085, 0.155, colourOf(0xf6f3ee), 6);
            ball(0.885, 0.135, side * 0.32, 0.06, 0.075, 0.075, colourOf(0x2c2018), 6);
            m_mesh.addRod({onHead(0.97, 0.31, side * 0.15), onHead(0.95, 0.36, side * 0.34), onHead(0.84, 0.30, side * 0.54)},
                          0.045 * m_radius, m_look.hair * 0.9F);
        }
        m_mesh.addLimb(onHead(0.97, 0.12, 0), onHead(1.08, -0.16, 0), 0.06 * m_radius, 0.13 * m_radius, skin * 0.97F, 10);
        m_mesh.addRod({onHead(0.80, -0.47, -0.26), onHead(0.90, -0.51, 0), onHead(0.80, -0.47, 0.26)}, 0.045 * m_radius,
                      colourOf(0x8c463e));
        // hair stands off the skull at the back and on top, so that the face stays free
        ball(-0.16, 0.24, 0, 0.96, 0.93, 0.89, m_look.hair, 14);
        ball(-0.42, -0.20, 0, 0.58, 0.62, 0.72, m_look.hair, 10);
        if (m_look.hasLongHair)
            m_mesh.addLimb(onHead(-0.95, 0.15, 0), onHead(-1.30, -1.15, 0), 0.30 * m_radius, 0.14 * m_radius, m_look.hair, 10);
        if (m_look.hasCap) {
            ball(-0.04, 0.42, 0, 1.03, 0.72, 0.93, m_look.cap, 14);
            std::vector<Vec3> brim;
            for (int i = 0; i <= 10; ++i) {
                const double turn = (i / 10.0 - 0.5) * 2.4;
                brim.push_back(onHead(0.62 + 0.98 * std::cos(turn), 0.44, 0.78 * std::sin(turn)));
            }
            m_mesh.addFlat(brim, m_look.cap * 0.8F);
        }
    }

    void paintImplement()
    {
        const HeldImplement& h = *m_body.implement;
        const Vec3 wide = h.axis.cross(h.face);
        const double length = (h.tip - h.butt).norm();
        const auto along = [&](double t) { return Vec3(h.butt + h.axis * (length * t)); };
        const auto rod = [&](double from, double to, double ra, double rb, const Colour& colour) {
            m_mesh.addLimb(along(from), along(to), ra * m_height, rb * m_height, colour, 12);
        };
        const Colour grip = colourOf(0x26262a);
        switch (m_build.implement->kind) {
        case ImplementKind::Bat: {
            rod(0.0, 0.02, 0.015, 0.015, grip);
            rod(0.01, 0.36, 0.0085, 0.0095, grip);
            const Colour wood = colourOf(0xb9935c);
            rod(0.36, 0.60, 0.0095, 0.017, wood);
            rod(0.60, 0.985, 0.017, 0.0205, wood);
            break;
        }
        case ImplementKind::TennisRacket:
        case ImplementKind::SquashRacket: {
            const double half = m_build.implement->halfWidth() * m_height;
            const double centre = m_build.implement->sweetSpot() / m_build.implement->length, tall = (1 - centre) * length;
            const Colour frame = m_build.implement->kind == ImplementKind::TennisRacket ? colourOf(0xc23b2e) : colourOf(0x2e6ec2);
            rod(0, 0.30, 0.0100, 0.0090, grip);
            const Vec3 middle = along(centre);
            std::vector<Vec3> oval;
            for (int i = 0; i < 24; ++i) {
                const double turn = 2 * 3.14159265358979 * i / 24;
                oval.push_back(middle + wide * (half * std::sin(turn)) + h.axis * (tall * std::cos(turn)));
            }
            m_mesh.addRod(oval, 0.0062 * m_height, frame, true);
            for (const double side : {-1.0, 1.0})
                m_mesh.addRod({along(0.29), middle - h.axis * (0.80 * tall) + wide * (side * 0.55 * half)}, 0.0060 * m_height,
                              frame);
            const Colour strings = colourOf(0xe8e6d8);
            for (int i = -4; i <= 4; ++i) {
                const double t = i / 5.0, reach = std::sqrt(1 - t * t);
                m_mesh.addRod(
                    {middle + wide * (half * t) - h.axis * (tall * reach), middle + wide * (half * t) + h.axis * (tall * reach)},
                    0.0012 * m_height, strings, false, 4);
                m_mesh.addRod(
                    {middle + h.axis * (tall * t) - wide * (half * reach), middle + h.axis * (tall * t) + wide * (half * reach)},
                    0.0012 * m_height, strings, false, 4);
            }
            break;
        }
        case ImplementKind::TableTennisBat: {
            rod(0, 0.42, 0.0085, 0.0085, colourOf(0xb98d58));
            const double centre = m_build.implement->sweetSpot() / m_build.implement->length;
            const Vec3 thick = h.face * (0.0045 * m_height);
            m_mesh.addEllipsoid(
                along(centre), wide * (m_build.implement->halfWidth() * m_height), h.axis * ((1 - centre) * length), thick,
                [](const Vec3& d) { return d.z() > 0 ? colourOf(0xb02a2a) : colourOf(0x1c1c20); }, 12, 20);
            break;
        }
        case ImplementKind::Stick: {
            const Colour shaft = colourOf(0x30343c);
            m_mesh.addLimb(h.butt, h.middle, 0.0090 * m_height, 0.0090 * m_height, shaft, 10);
            m_mesh.addLimb(h.middle, h.tip, 0.0090 * m_height, 0.0085 * m_height, shaft, 10);
            Vec3 blade(h.axis.x(), 0, h.axis.z());
            blade -= h.face * blade.dot(h.face);
            blade.y() = 0;
            blade = blade.norm() < 1e-6 ? wide : Vec3(blade.normalized());
            const Vec3 end = h.tip + blade * (0.17 * m_height);
            const Vec3 up(0, 0.042 * m_height, 0);
            m_mesh.addFlat({h.tip, end, end + up, h.tip + up}, colourOf(0xd9c79a));
            m_mesh.addLimb(h.tip + up * 0.5, end + up * 0.5, 0.011 * m_height, 0.010 * m_height, colourOf(0x30343c), 8);
            break;
        }
        }
    }

    const Skeleton& m_body;
    const Build& m_build;
    const Look& m_look;
    double m_height;
    Proportions m_p;
    Vec3 m_headRight;
    double m_radius = 0;
    Mesh m_mesh;
};

} // namespace

std::vector<Capsule> fleshOut(const Skeleton& s, const Build& build)
{
    const double height = build.person.heightMetres;
    std::vector<Capsule> all;
    const auto limb = [&](const Vec3& a, const Vec3& b, double ra, double rb, std::vector<Landmark> own) {
        all.push_back({a, b, ra * height, rb * height, std::move(own)});
    };
    const auto name = [](Part p, BodySide side) { return Landmark{p, side, {}}; };
    const Vec3 midHip = between(s.at(Part::Hip, BodySide::Left), s.at(Part::Hip, BodySide::Right), 0.5);
    const Vec3 midShoulder = between(s.at(Part::Shoulder, BodySide::Left), s.at(Part::Shoulder, BodySide::Right), 0.5);
    for (const auto side : kSides) {
        const auto at = [&](Part p) { return s.at(p, side); };
        const Landmark shoulder = name(Part::Shoulder, side), elbow = name(Part::Elbow, side), wrist = name(Part::Wrist, side),
                       hand = name(Part::Hand, side), hip = name(Part::Hip, side), knee = name(Part::Knee, side),
                       ankle = name(Part::Ankle, side), heel = name(Part::Heel, side), toe = name(Part::Toe, side);
        limb(at(Part::Shoulder), at(Part::Elbow), 0.031, 0.022, {shoulder, elbow});
        limb(at(Part::Elbow), at(Part::Wrist), 0.0225, 0.0150, {elbow, wrist});
        limb(at(Part::Wrist), at(Part::Hand), 0.0165, 0.0215, {wrist, hand});
        limb(at(Part::Hip), at(Part::Knee), 0.050, 0.036, {hip, knee});
        limb(at(Part::Knee), at(Part::Ankle), 0.034, 0.021, {knee, ankle});
        limb(at(Part::Heel), at(Part::Toe), 0.020, 0.016, {ankle, heel, toe});
        // trunk, half a body each side
        limb(between(at(Part::Shoulder), midShoulder, 0.3), between(at(Part::Hip), midHip, 0.2), 0.048, 0.054,
             {shoulder, hip, name(Part::Neck, BodySide::None)});
    }
    all.push_back({s.headCentre,
                   s.headCentre,
                   proportionsOf(build.person).headRadius * height,
                   proportionsOf(build.person).headRadius * height,
                   {name(Part::Neck, BodySide::None), name(Part::Nose, BodySide::None), name(Part::Ear, BodySide::Left),
                    name(Part::Ear, BodySide::Right), name(Part::Eye, BodySide::Left), name(Part::Eye, BodySide::Right)}});
    return all;
}

Mesh figureOf(const Skeleton& body, const Build& build, const Look& look, bool hasGlove, bool holdsBall)
{
    return Dresser(body, build, look).run(hasGlove, holdsBall);
}

Mesh ballMesh(BallKind kind, const Vec3& centre, const Vec3& turned)
{
    const double r = factsOf(kind).radius;
    Vec3 x(r, 0, 0), y(0, r, 0), z(0, 0, r);
    if (const double angle = turned.norm(); angle > 1e-9) {
        const Eigen::AngleAxisd turn(angle, turned / angle);
        x = turn * x;
        y = turn * y;
        z = turn * z;
    }
    if (kind == BallKind::Puck)
        y *= 0.33;
    static constexpr std::uint32_t kColours[][2]{{0xf4f1ea, 0xb0392e}, {0xd8e04a, 0xb0392e}, {0xcfe04a, 0xf4f4e8},
                                                 {0x24262c, 0xe0c23c}, {0xfafaf5, 0xe08a3c}, {0xc8702e, 0x2a1a10},
                                                 {0x1c1c20, 0x3a3a40}};
    const auto& [ground, seam] = kColours[static_cast<std::size_t>(kind)];
    Mesh mesh;
    mesh.addEllipsoid(
        centre, x, y, z,
        [&, g = colourOf(ground), s = colourOf(seam)](const Vec3& d) {
            // two loops like a baseball's seam; from far they read as stripes that turn
            const double loop = std::abs(d.y() - 0.55 * (d.x() * d.x() - d.z() * d.z()));
            return loop < 0.14 ? s : g;
        },
        18, 28);
    return mesh;
}

} // namespace kestrel::sim
