#pragma once

#include "core/geometry.h"
#include "core/marking.h"
#include "media/picture.h"
#include "sim/proportions.h"

#include <optional>

namespace kestrel::sim {

/// A pinhole camera that stands level and square to the target line.
class Camera {
public:
    /// \param eye      world, metres
    /// \param forward  level, unit length
    /// \param focal    pixels
    Camera(const Vec3& eye, const Vec3& forward, double focal, media::PixelSize size);

    ImagePoint project(const Vec3&) const;
    /// Distance in front of the lens plane, metres.
    double depthOf(const Vec3& p) const { return (p - m_eye).dot(m_forward); }
    /// Pixels that a length of one metre covers at that point when seen square on.
    double pixelsPerMetre(const Vec3& p) const { return m_focal / depthOf(p); }
    const Vec3& eye() const { return m_eye; }
    const Vec3& forward() const { return m_forward; }
    const Vec3& right() const { return m_right; }
    media::PixelSize size() const { return m_size; }

private:
    Vec3 m_eye, m_forward, m_right;
    double m_focal;
    media::PixelSize m_size;
};

/// Where a parent with a telephone would stand: chest to the camera for Side, behind the athlete for Rear.
/// Empty for views the simulator does not film from.
std::optional<Camera> cameraFor(View, Hand, double heightMetres, media::PixelSize);

/// A known length on the ground at the athlete's distance, as a coach would draw it.
Scale scaleFor(const Camera&, View);

} // namespace kestrel::sim
