#pragma once

#include "core/pack/pack.h"
#include "core/read/reading.h"

#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// A measure on two repetitions.
struct Difference {
    std::string measure, keyPosition;
    Unit unit = Unit::Degree;
    double a = 0, b = 0;
    double difference = 0;      ///< b - a; of directions the short way round
    double uncertainty = 0;     ///< one standard deviation
    std::optional<bool> isReal; ///< larger than noise explains (95 %); empty: nobody can say
    std::string why;
    bool operator==(const Difference&) const = default;
};

/// Every measure that both show, surest first.
/// \param isSameCamera  both lie on one film: what its camera puts into both alike falls out
std::vector<Difference> calcDifferences(const Pack&, const std::vector<Reading>& a, const std::vector<Reading>& b,
                                        bool isSameCamera);

/// How long a stretch between two key positions takes on both.
struct PhaseTempo {
    std::string from, to;          ///< key positions that follow each other on both
    double a = 0, b = 0;           ///< seconds
    double shareA = 0, shareB = 0; ///< of the time from the first common key position to the last
    bool operator==(const PhaseTempo&) const = default;
};
/// Empty: fewer than two key positions are placed on both.
std::vector<PhaseTempo> calcTempo(const Pack&, const Marking& a, const FrameClock& clockA, const Marking& b,
                                  const FrameClock& clockB);

/// Lines two repetitions up: which picture of the other belongs to one of this.
class LineUp {
public:
    enum class By { RealTime, Phase };
    /// \param at  key position at which both stand together; where it is not placed on both, their first pictures do
    LineUp(const Marking& a, const FrameClock& clockA, const Marking& b, const FrameClock& clockB, const Pack&,
           const std::string& at, By);

    /// The other's place for one of A's. Real time is counted from the key position; by phase both pass every common key position
    /// together, and outside of them real time goes on. \param offset  frames of B by which it is moved besides
    FramePosition ofB(FramePosition a, double offset = 0) const;
    bool hasCommon() const { return !m_pairs.empty(); } ///< some key position is placed on both

private:
    struct Pair {
        double a = 0, b = 0; // seconds
    };
    const FrameClock& m_clockA;
    const FrameClock& m_clockB;
    By m_by;
    std::vector<Pair> m_pairs; // common key positions, in time
    Pair m_at;
};

} // namespace kestrel
