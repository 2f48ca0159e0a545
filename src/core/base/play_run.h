#pragma once

#include "core/base/time.h"

namespace kestrel {

/// One run of playing through a range of film. Pure: the caller says how much time has passed since it began, so that
/// a slow machine leaves pictures out and never plays late.
class PlayRun {
public:
    /// \param clock    outlives the run; has at least one frame
    /// \param from     where it begins; within the range
    /// \param speed    of real time; below zero backwards, never zero
    /// \param isLoop   goes on from the other end instead of stopping
    PlayRun(const FrameClock& clock, FrameIndex from, FrameRange range, double speed, bool isLoop);

    struct Place {
        FrameIndex frame;
        std::int64_t passed = 0; ///< pictures whose turn has come since the beginning, shown or not
        bool isOver = false;     ///< the last one has had its time
    };
    /// \param elapsed  seconds since the run began, >= 0
    Place at(double elapsed) const;

private:
    const FrameClock* m_clock;
    FrameIndex m_from;
    FrameRange m_range;
    double m_speed;
    bool m_isLoop;
    double m_begin = 0, m_length = 0; // seconds of real time, from the range's end that comes first
};

} // namespace kestrel
