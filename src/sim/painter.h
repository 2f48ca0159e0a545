#pragma once

#include "sim/ball.h"
#include "sim/canvas.h"
#include "sim/look.h"

#include <optional>

namespace kestrel::sim {

/// One athlete at one place with one ball, painted from wherever the camera is.
class ScenePainter {
public:
    ScenePainter(const SimSkill&, const Build&, BallKind, const Look&);

    /// \param ball  empty: not in the picture. \param holdsBall  the throwing hand is closed round it
    QImage paint(const Camera&, const Skeleton&, const std::optional<BallPath::Place>& ball, bool holdsBall);

private:
    void paintStill(const Camera&);

    Setting m_setting;
    bool m_hasGlove;
    Build m_build;
    BallKind m_ball;
    Look m_look;
    // what stands still, for the camera it was last painted from
    std::optional<Camera> m_stillFrom;
    std::optional<Canvas> m_still, m_moving;
    QImage m_stillPicture;
};

} // namespace kestrel::sim
