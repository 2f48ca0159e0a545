#pragma once

#include "core/base/index.h"

#include <map>
#include <optional>

namespace kestrel {

/// Turns of a ball between two pictures.
struct CountedTurns {
    double turns = 0;
    FrameIndex from, to;
    double sigma = 0; ///< of the turns, one standard deviation
    std::int64_t pictures() const { return to.value - from.value; }
};

/// Counts a ball's turns from what a coach sees on its pictures: when its seam has come round, and at which angle it stands.
///
/// Whole turns come from addTurn. Angles at the first picture and after the last turn add the part of a turn that is left; which
/// way round it is, is told by the pace of the whole turns. Without whole turns, angles on pictures close enough to each other
/// that the seam moves less than half a turn between them are added up.
class TurnCount {
public:
    /// The first begins, each later one is a turn more, an earlier one begins anew (and forgets the angles).
    void addTurn(FrameIndex);
    /// \param degrees  in the picture, from any direction, any way round
    void setAngle(FrameIndex, double degrees);

    int turns() const { return m_turns; } ///< whole ones
    /// Whole turns are counted and an angle is there after them, but none on the first picture: no part can be added.
    bool lacksFirstAngle() const;
    /// Empty: nothing can be told, also because the angles are too far apart.
    std::optional<CountedTurns> counted() const;

private:
    std::optional<CountedTurns> fromAngles() const;

    std::optional<FrameIndex> m_from;
    FrameIndex m_last;
    int m_turns = 0;
    std::map<FrameIndex, double> m_angles;
};

} // namespace kestrel
