#include "sim/camera.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel::sim {

namespace {

constexpr double kUsualDistance = 9.5; // metres
constexpr double kScaleLength = 1.0;   // metres

double rad(double degrees)
{
    return degrees * std::numbers::pi / 180;
}

} // namespace

Camera::Camera(const Vec3& eye, const Vec3& forward, const Vec3& up, double focal, media::PixelSize size)
    : m_eye(eye), m_forward(forward.normalized()), m_right(m_forward.cross(up).normalized()), m_up(m_right.cross(m_forward)),
      m_focal(focal), m_size(size)
{
}

ImagePoint Camera::project(const Vec3& p) const
{
    const Vec3 v = p - m_eye;
    const double scale = m_focal / std::max(1e-3, v.dot(m_forward));
    return {m_size.width / 2.0 + v.dot(m_right) * scale, m_size.height / 2.0 - v.dot(m_up) * scale};
}

Camera Camera::turned(double yaw, double pitch, double roll) const
{
    const Eigen::AngleAxisd about(rad(-yaw), m_up), lift(rad(pitch), m_right), spin(rad(-roll), m_forward);
    return {m_eye, about * (lift * m_forward), about * (lift * (spin * m_up)), m_focal, m_size};
}

Camera cameraFor(const CameraSetup& setup, const Framing& framing, const Build& build, media::PixelSize size)
{
    const double height = build.person.heightMetres, z = build.isMirrored() ? -1 : 1;
    const Vec3 middle(framing.x * height, framing.y * height, 0);
    const double away = setup.distance.value_or(kUsualDistance);
    Vec3 toward(0, 0, z), up(0, 1, 0); // from the action to the camera
    double across = framing.width, tall = framing.height;
    switch (setup.view) {
    case View::Side:
        break;
    case View::SideBack:
        toward = {0, 0, -z};
        break;
    case View::Front:
        toward = {1, 0, 0};
        break;
    case View::Rear:
        toward = {-1, 0, 0};
        break;
    case View::Diagonal:
        toward = Vec3(1, 0, z).normalized();
        break;
    case View::Overhead:
        toward = {0, 1, 0};
        up = {0, 0, -z}; // the target on the right for a right-hander, as from the side
        tall = std::max(1.2, framing.width * 0.7);
        break;
    }
    if (setup.view == View::Front || setup.view == View::Rear)
        across = std::min(across, std::max(1.3, framing.height * 0.9));
    if (setup.view != View::Overhead)
        toward = Eigen::AngleAxisd(rad(setup.yawError), Vec3(0, 1, 0)) * toward;
    Vec3 eye = middle + toward * away;
    if (setup.height && setup.view != View::Overhead)
        eye.y() = *setup.height;
    // usually level and as high as the middle of the action; from elsewhere it looks at it
    const Vec3 forward = setup.height ? Vec3(middle - eye) : Vec3(-toward);
    const double perMetre = setup.zoom * std::min(size.height / (tall * height), size.width / (across * height));
    const Camera camera(eye, forward, up, perMetre * away, size);
    return setup.roll == 0 ? camera : camera.turned(0, 0, setup.roll);
}

TargetDirection targetDirection(const Camera& camera)
{
    const Vec3 target(1, 0, 0);
    const double right = camera.right().dot(target), deep = camera.forward().dot(target);
    if (std::abs(right) >= 0.6)
        return right > 0 ? TargetDirection::Right : TargetDirection::Left;
    return deep > 0 ? TargetDirection::Away : TargetDirection::Toward;
}

Scale scaleFor(const Camera& camera)
{
    const bool alongTarget = std::abs(camera.right().x()) >= 0.5;
    const Vec3 half = alongTarget ? Vec3(kScaleLength / 2, 0, 0) : Vec3(0, 0, kScaleLength / 2);
    const Vec3 middle = alongTarget ? half : Vec3(0, 0, 0);
    const bool isReversed = half.dot(camera.right()) < 0;
    const Vec3 a = middle - half, b = middle + half;
    return {camera.project(isReversed ? b : a), camera.project(isReversed ? a : b), kScaleLength};
}

} // namespace kestrel::sim
