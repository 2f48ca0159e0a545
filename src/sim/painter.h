#pragma once

#include "core/marking.h"
#include "sim/camera.h"
#include "sim/skeleton.h"

#include <QColor>
#include <QImage>

#include <cstdint>
#include <optional>

namespace kestrel::sim {

/// The colours one made-up athlete is dressed in.
struct Look {
    QColor skin, hair, shirt, trousers, cap, shoes;
};
/// One of many, the same for the same number.
Look lookOf(std::uint32_t number);

/// Paints the simulated athlete on a made-up field.
class ScenePainter {
public:
    ScenePainter(const Camera&, double heightMetres, Hand throwing, const Look&);

    /// \param ball  centre, world; empty: not in the picture
    QImage paint(const Skeleton&, std::optional<Vec3> ball) const;

private:
    Camera m_camera;
    double m_height;
    Hand m_throwing;
    Look m_look;
    QImage m_backdrop;
};

} // namespace kestrel::sim
