#include "sim/camera.h"

#include <Eigen/Geometry>
#include <algorithm>

namespace kestrel::sim {

namespace {

constexpr double kSideDistance = 9.5, kRearDistance = 9.0;
constexpr double kShownHeights = 1.58;      // of the athlete's height, from the picture's bottom to its top
constexpr double kSmallestWidthShare = 1.9; // the stride must fit too, whatever the picture's shape
constexpr double kPitchersPlate = 0.61;     // metres wide

} // namespace

Camera::Camera(const Vec3& eye, const Vec3& forward, double focal, media::PixelSize size)
    : m_eye(eye), m_forward(forward), m_right(forward.cross(Vec3(0, 1, 0))), m_focal(focal), m_size(size)
{
}

ImagePoint Camera::project(const Vec3& p) const
{
    const Vec3 v = p - m_eye;
    const double scale = m_focal / std::max(1e-3, v.dot(m_forward));
    return {m_size.width / 2.0 + v.dot(m_right) * scale, m_size.height / 2.0 - v.y() * scale};
}

std::optional<Camera> cameraFor(View view, Hand hand, double height, media::PixelSize size)
{
    const double z = hand == Hand::Right ? 1 : -1;
    const double perMetre = std::min(size.height / (kShownHeights * height), size.width / (kSmallestWidthShare * height));
    switch (view) {
    case View::Side:
        return Camera({0.42 * height, 0.57 * height, z * kSideDistance}, {0, 0, -z}, perMetre * kSideDistance, size);
    case View::Rear:
        return Camera({-kRearDistance, 0.57 * height, 0}, {1, 0, 0}, perMetre * (kRearDistance + 0.4 * height), size);
    default:
        return std::nullopt;
    }
}

Scale scaleFor(const Camera& camera, View view)
{
    if (view == View::Rear)
        return {camera.project({0, 0, -kPitchersPlate / 2}), camera.project({0, 0, kPitchersPlate / 2}), kPitchersPlate};
    const bool rightward = camera.right().x() > 0;
    const Vec3 a(0, 0, 0), b(1, 0, 0);
    return {camera.project(rightward ? a : b), camera.project(rightward ? b : a), 1.0};
}

} // namespace kestrel::sim
