#pragma once

#include "core/base/geometry.h"
#include "core/scene/marking.h"
#include "media/picture.h"
#include "sim/skill.h"

#include <optional>

namespace kestrel::sim {

/// A pinhole camera.
class Camera {
public:
    /// \param eye      world, metres
    /// \param forward  any length; not straight up or down unless \p up says how the picture stands
    /// \param up       what shows upward in the picture; made square to forward
    /// \param focal    pixels
    Camera(const Vec3& eye, const Vec3& forward, const Vec3& up, double focal, media::PixelSize size);

    ImagePoint project(const Vec3&) const;
    /// Distance in front of the lens plane, metres.
    double depthOf(const Vec3& p) const { return (p - m_eye).dot(m_forward); }
    const Vec3& eye() const { return m_eye; }
    const Vec3& forward() const { return m_forward; }
    const Vec3& right() const { return m_right; }
    const Vec3& up() const { return m_up; }
    double focal() const { return m_focal; }
    media::PixelSize size() const { return m_size; }

    /// Turned in its place: yaw to its right, pitch upward, roll clockwise as the picture is seen; degrees.
    Camera turned(double yaw, double pitch, double roll) const;

private:
    Vec3 m_eye, m_forward, m_right, m_up;
    double m_focal;
    media::PixelSize m_size;
};

/// Where the camera stands and how badly it is held.
struct CameraSetup {
    View view = View::Side;
    std::optional<double> distance; ///< metres from the action; empty: 9.5
    std::optional<double> height;   ///< of the lens, metres; empty: level with the middle of the action
    double zoom = 1;                ///< 1: as close as the action allows
    double yawError = 0;            ///< degrees off the view's direction, walked round the athlete
    double roll = 0;                ///< degrees, clockwise as the picture is seen
    double shake = 0;               ///< pixels, standard deviation of the picture's wander
};

/// \param build  whose athlete is filmed; the side views show the chest or the back of that one
Camera cameraFor(const CameraSetup&, const Framing&, const Build&, media::PixelSize);

/// Where the target lies in the picture.
TargetDirection targetDirection(const Camera&);

/// A known length on the ground at the athlete's distance, as a coach would draw it.
Scale scaleFor(const Camera&);

} // namespace kestrel::sim
