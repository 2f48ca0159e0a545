#include "sim/person.h"

#include <algorithm>
#include <cmath>

namespace kestrel::sim {

namespace {

constexpr double kSole = 0.016;       // under the foot: 25 mm, share of a height of 1.56 m
constexpr double kLegsOfPoses = 0.53; // poses are written for hips that high when standing

} // namespace

Proportions proportionsOf(const Person& person)
{
    Proportions p{0.245, 0.246, 0.039, 0.105, 0.040, 0.055, 0.100, 0.288, 0.117, 0.162, 0.154, 0.052, 0.066, 1};
    p.ankleHeight += kSole;
    const double grown = std::clamp(person.age, 5.0, 18.0);
    const double wider = -0.00115 * (grown - 13); // of the head's radius
    p.headRadius += wider;
    p.shouldersToHead += 0.9 * wider;
    const double legs = p.thigh + p.shank + p.ankleHeight, shorter = 1 - 1.98 * wider / legs;
    p.lower = shorter * legs / kLegsOfPoses;
    if (person.sex == Sex::Female) {
        const double share = std::clamp((person.age - 10) / 4, 0.0, 1.0);
        const auto scale = [share](double& length, double ratio) { length *= 1 + share * (ratio - 1); };
        scale(p.upperArm, 0.980);
        scale(p.forearm, 0.986);
        scale(p.hand, 0.908);
        scale(p.halfShoulders, 0.95);
        scale(p.halfHips, 1.05);
    }
    for (double* length : {&p.thigh, &p.shank, &p.ankleHeight, &p.ankleToToe, &p.heelBehindAnkle})
        *length *= shorter;
    const double shanks = p.thigh * (1 - person.thighs);
    p.thigh *= person.thighs;
    p.shank += shanks;
    p.upperArm *= person.arms;
    p.forearm *= person.arms;
    p.halfHips *= person.breadth;
    p.halfShoulders *= person.breadth;
    return p;
}

} // namespace kestrel::sim
