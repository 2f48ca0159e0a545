#include "core/scene/camera_place.h"

#include <Eigen/Dense>

#include <cmath>

namespace kestrel {

std::optional<CameraPlace> cameraPlace(const GroundPlane& plane, int width, int height)
{
    constexpr double kClear = 1e-3; // of a column's length: below it a condition tells nothing
    Eigen::Matrix3d map;
    for (int i = 0; i < 9; ++i)
        map(i / 3, i % 3) = plane.toImage()[static_cast<std::size_t>(i)];
    Eigen::Matrix3d centred = Eigen::Matrix3d::Identity();
    centred(0, 2) = -width / 2.0;
    centred(1, 2) = -height / 2.0;
    map = centred * map;
    const double size = width; // so that the numbers are near 1
    map.topRows(2) /= size;
    map /= map.col(0).norm();
    const Eigen::Vector3d a = map.col(0), b = map.col(1);
    // the ground's two directions are square to each other and as long: each gives the focal length, the clearer one is taken
    const double square = a.z() * b.z(), longer = b.z() * b.z() - a.z() * a.z();
    const double focal2 = std::abs(square) > std::abs(longer) ? -(a.x() * b.x() + a.y() * b.y()) / square
                                                              : (a.head<2>().squaredNorm() - b.head<2>().squaredNorm()) / longer;
    if (std::max(std::abs(square), std::abs(longer)) < kClear * kClear || !(focal2 > 0))
        return std::nullopt;
    const double focal = std::sqrt(focal2);
    const Eigen::Vector3d unfocus(1 / focal, 1 / focal, 1);
    Eigen::Vector3d right = unfocus.asDiagonal() * a, on = unfocus.asDiagonal() * b, to = unfocus.asDiagonal() * map.col(2);
    const double scale = 2 / (right.norm() + on.norm());
    if (!std::isfinite(scale))
        return std::nullopt;
    right *= scale;
    on *= scale;
    to *= scale;
    Eigen::Matrix3d turn;
    turn << right, on, right.cross(on);
    const Eigen::Vector3d eye = -turn.inverse() * to;
    if (!eye.allFinite())
        return std::nullopt;
    return CameraPlace{eye.x(), eye.y(), std::abs(eye.z()), focal * size};
}

} // namespace kestrel
