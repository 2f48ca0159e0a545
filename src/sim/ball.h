#pragma once

#include "sim/skeleton.h"

#include <functional>
#include <string>
#include <vector>

namespace kestrel::sim {

enum class BallKind { Baseball, Softball, TennisBall, SquashBall, TableTennisBall, Basketball, Puck };

/// Size, weight and drag of a ball, and how it looks.
struct BallFacts {
    const char* name;
    double radius; ///< metres
    double mass;   ///< kilograms
    double drag;   ///< drag coefficient of a sphere that size at usual speeds
};
const BallFacts& factsOf(BallKind);
std::optional<BallKind> findBallKind(const std::string& word);

/// Where the ball is met, or kept.
enum class BallPlace { DomHand, OffHand, BothHands, Face, Blade };
std::optional<BallPlace> findBallPlace(const std::string& word);

/// One stretch of the ball's way. It ends at a key position; the last one never does.
struct BallStage {
    enum class Kind {
        Held,  ///< lies at the place
        Meets, ///< flies freely so that it comes to the place at the end
        Comes, ///< arrives at the place with the velocity
        Rolls, ///< as Comes, along the ground
        Flies, ///< leaves with the velocity, slowed by drag, bent by gravity and spin
    };
    Kind kind = Kind::Held;
    BallPlace place = BallPlace::DomHand; ///< of the end; unused for Flies
    std::string until;                    ///< key position; empty for the last
    Vec3 velocity{0, 0, 0};               ///< metres per second for an athlete of 1.62 m
    Vec3 spin{0, 0, 0};                   ///< radians per second about the world's axes
};

/// The ball's flight through one repetition.
class BallPath {
public:
    struct Place {
        Vec3 centre;
        Vec3 turned;         ///< rotation vector since the beginning, radians
        bool isThere = true; ///< false once it has come to the ground
    };
    /// \param bodyAt     places the body at an instant
    /// \param secondsOf  of a key position
    BallPath(BallKind, std::vector<BallStage>, const Build&, std::function<Skeleton(double)> bodyAt,
             const std::function<double(const std::string&)>& secondsOf);

    /// \param body  placed at that instant
    Place at(double seconds, const Skeleton& body) const;

private:
    struct Stretch {
        BallStage stage;
        double from, to; ///< seconds; infinite at the ends
        Vec3 start, end; ///< where it begins and ends, where that is known
    };
    Vec3 placeOn(const Skeleton&, BallPlace) const;
    Place flown(const Stretch&, double seconds) const;

    BallKind m_kind;
    Build m_build;
    std::vector<Stretch> m_stretches;
};

} // namespace kestrel::sim
