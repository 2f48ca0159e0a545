#pragma once

#include <Eigen/Core>

namespace kestrel::sim {

using Vec3 = Eigen::Vector3d;

enum class Sex { Female, Male };

/// Whose body it is.
struct Person {
    double heightMetres = 1.62; ///< barefoot
    double age = 13;            ///< years
    Sex sex = Sex::Male;
    double breadth = 1; ///< of hips and shoulders, against what is usual for the height
    double arms = 1;    ///< length of both bones, likewise
    double thighs = 1;  ///< length, likewise; the shanks give what they take
};

/// Segment lengths and joint places as shares of height barefoot.
struct Proportions {
    double thigh, shank, ankleHeight, ankleToToe, heelBehindAnkle; ///< the ankle's above the ground, in shoes
    double halfHips, halfShoulders;                                ///< from the middle to the joint
    double trunk;                                                  ///< from between the hips to between the shoulders
    double shouldersToHead;                                        ///< to the head's centre
    double upperArm, forearm, hand;                                ///< the hand to the middle of its grip
    double headRadius;
    double lower; ///< of all that lies below the hips, against the body the poses are written for
};

/// Lengths after Drillis and Contini (1966) as tabulated by Winter, for a 13-year-old boy; joint centres are closer
/// together than the outer breadths there. The two bones of the arm after de Leva (1996), whose lengths lie between joint
/// centres: those of the older table begin at the shoulder's bony tip and end below the elbow's axis, 2.4 % of height too long
/// above. The ankle stands on a sole of 25 mm, as in any sports shoe, so that the athlete is that much taller on the picture than
/// measured barefoot. Age moves height between head and legs: the head from chin to crown is about a sixth of a six-year-old and
/// 0.13 of an adult, as growth charts commonly show. For women and, from 10 to 14 years growing, for girls: arms, hands and
/// shoulders after the ratios of the female to the male means of de Leva, and hips wider by a twentieth; leg lengths are left
/// alike, since the two tables place the hip joint differently.
Proportions proportionsOf(const Person&);

} // namespace kestrel::sim
