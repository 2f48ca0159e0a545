#pragma once

#include <optional>
#include <string>

namespace kestrel::sim {

/// What is held to hit with.
enum class ImplementKind { Bat, TennisRacket, SquashRacket, TableTennisBat, Stick };

/// One implement and how it is held. Lengths as shares of the athlete's height: juniors play with shorter ones.
struct Implement {
    ImplementKind kind = ImplementKind::Bat;
    double length = 0.4;           ///< from butt to tip
    double domHand = 0.03;         ///< from the butt to the middle of the dominant hand
    std::optional<double> offHand; ///< the same for the other one; empty: it is held in one hand
    /// From the butt to the middle of the face; where the ball is met.
    double sweetSpot() const { return length * (kind == ImplementKind::Stick ? 1.0 : kind == ImplementKind::Bat ? 0.82 : 0.76); }
    /// Half the face's width at the sweet spot; 0 for what has no face.
    double halfWidth() const
    {
        switch (kind) {
        case ImplementKind::TennisRacket:
            return 0.078;
        case ImplementKind::SquashRacket:
            return 0.062;
        case ImplementKind::TableTennisBat:
            return 0.047;
        case ImplementKind::Stick:
            return 0.045;
        case ImplementKind::Bat:
            break;
        }
        return 0;
    }
};

std::optional<ImplementKind> findImplementKind(const std::string& word);

} // namespace kestrel::sim
