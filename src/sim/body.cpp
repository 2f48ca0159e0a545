#include "sim/body.h"

namespace kestrel::sim {

std::vector<Capsule> fleshOut(const Skeleton& s, double height, Hand throwing)
{
    std::vector<Capsule> all;
    const auto limb = [&](const Vec3& a, const Vec3& b, double ra, double rb, Covering c, std::vector<Landmark> own) {
        all.push_back({a, b, ra * height, rb * height, c, std::move(own)});
    };
    const auto between = [](const Vec3& a, const Vec3& b, double t) { return Vec3(a + (b - a) * t); };
    const auto name = [](Part p, BodySide side) { return Landmark{p, side, {}}; };

    for (const auto side : {BodySide::Left, BodySide::Right}) {
        const auto at = [&](Part p) { return s.at(p, side); };
        const Landmark shoulder = name(Part::Shoulder, side), elbow = name(Part::Elbow, side), wrist = name(Part::Wrist, side),
                       hand = name(Part::Hand, side), hip = name(Part::Hip, side), knee = name(Part::Knee, side),
                       ankle = name(Part::Ankle, side), heel = name(Part::Heel, side), toe = name(Part::Toe, side);
        // arm: a sleeve that ends above the elbow
        limb(at(Part::Shoulder), between(at(Part::Shoulder), at(Part::Elbow), 0.72), 0.034, 0.030, Covering::Shirt,
             {shoulder, elbow});
        limb(between(at(Part::Shoulder), at(Part::Elbow), 0.6), at(Part::Elbow), 0.025, 0.0215, Covering::Skin,
             {shoulder, elbow});
        limb(at(Part::Elbow), at(Part::Wrist), 0.0225, 0.0155, Covering::Skin, {elbow, wrist});
        const bool wearsGlove = (side == BodySide::Left) == (throwing == Hand::Right);
        if (wearsGlove)
            limb(at(Part::Wrist), between(at(Part::Wrist), at(Part::Hand), 1.5), 0.026, 0.052, Covering::Glove, {wrist, hand});
        else
            limb(at(Part::Wrist), between(at(Part::Wrist), at(Part::Hand), 1.25), 0.0165, 0.0215, Covering::Skin, {wrist, hand});
        // leg: trousers to below the knee, long socks, shoes
        limb(at(Part::Hip), at(Part::Knee), 0.052, 0.034, Covering::Trousers, {hip, knee});
        limb(at(Part::Knee), between(at(Part::Knee), at(Part::Ankle), 0.5), 0.034, 0.031, Covering::Trousers, {knee, ankle});
        limb(between(at(Part::Knee), at(Part::Ankle), 0.35), at(Part::Ankle), 0.028, 0.0185, Covering::Sock, {knee, ankle});
        limb(at(Part::Heel) + Vec3(0, 0.006 * height, 0), at(Part::Toe) + Vec3(0, 0.010 * height, 0), 0.019, 0.016,
             Covering::Shoe, {ankle, heel, toe});
        limb(at(Part::Ankle), between(at(Part::Ankle), at(Part::Toe), 0.35), 0.021, 0.018, Covering::Shoe, {ankle, heel, toe});
        // trunk, half a body each side
        const std::vector<Landmark> trunk{shoulder, hip, name(Part::Neck, BodySide::None)};
        const Vec3 midHip = between(s.at(Part::Hip, BodySide::Left), s.at(Part::Hip, BodySide::Right), 0.5);
        const Vec3 midShoulder = between(s.at(Part::Shoulder, BodySide::Left), s.at(Part::Shoulder, BodySide::Right), 0.5);
        limb(between(at(Part::Shoulder), midShoulder, 0.25), between(between(at(Part::Hip), midHip, 0.1), midShoulder, 0.14),
             0.046, 0.048, Covering::Shirt, trunk);
        all.back().isTrunk = true;
        limb(between(at(Part::Hip), midHip, 0.15), between(at(Part::Hip), midShoulder, 0.12), 0.055, 0.054, Covering::Trousers,
             trunk);
        limb(at(Part::Shoulder), midShoulder, 0.036, 0.044, Covering::Shirt, trunk);
    }
    limb(s.at(Part::Neck), between(s.at(Part::Neck), s.headCentre, 0.45), 0.032, 0.034, Covering::Skin,
         {name(Part::Neck, BodySide::None), name(Part::Nose, BodySide::None), name(Part::Ear, BodySide::Left),
          name(Part::Ear, BodySide::Right), name(Part::Eye, BodySide::Left), name(Part::Eye, BodySide::Right)});
    return all;
}

} // namespace kestrel::sim
