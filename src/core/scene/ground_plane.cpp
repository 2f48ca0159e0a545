#include "core/scene/ground_plane.h"

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>

namespace kestrel {

namespace {

using Eigen::Matrix3d;
using Eigen::Vector2d;
using Eigen::Vector3d;

constexpr double kFlat = 0.02; // of the marks' spread: three nearer to one line than that are on it
constexpr double kBehind = 1e-9;

/// Brings points to their middle and to a mean distance of the square root of two.
Matrix3d normaliser(const std::vector<Vector2d>& points)
{
    Vector2d middle = Vector2d::Zero();
    for (const auto& p : points)
        middle += p / static_cast<double>(points.size());
    double mean = 0;
    for (const auto& p : points)
        mean += (p - middle).norm() / static_cast<double>(points.size());
    const double scale = mean > 0 ? std::sqrt(2.0) / mean : 1;
    Matrix3d t;
    t << scale, 0, -scale * middle.x(), 0, scale, -scale * middle.y(), 0, 0, 1;
    return t;
}

/// Whether there are four of which no three lie on one line.
bool spansAPlane(const std::vector<Vector2d>& points)
{
    double spread = 0;
    for (const auto& p : points)
        spread = std::max(spread, (p - points.front()).norm());
    const auto isFlat = [&](const Vector2d& a, const Vector2d& b, const Vector2d& c) {
        const Vector2d u = b - a, v = c - a;
        return std::abs(u.x() * v.y() - u.y() * v.x()) <= kFlat * spread * spread;
    };
    const std::size_t n = points.size();
    for (std::size_t a = 0; a < n; ++a)
        for (std::size_t b = a + 1; b < n; ++b)
            for (std::size_t c = b + 1; c < n; ++c)
                for (std::size_t d = c + 1; d < n; ++d)
                    if (!isFlat(points[a], points[b], points[c]) && !isFlat(points[a], points[b], points[d]) &&
                        !isFlat(points[a], points[c], points[d]) && !isFlat(points[b], points[c], points[d]))
                        return true;
    return false;
}

Matrix3d matrixOf(const std::array<double, 9>& rows)
{
    return Eigen::Map<const Eigen::Matrix<double, 3, 3, Eigen::RowMajor>>(rows.data());
}

std::array<double, 9> rowsOf(const Matrix3d& m)
{
    std::array<double, 9> rows{};
    Eigen::Map<Eigen::Matrix<double, 3, 3, Eigen::RowMajor>>(rows.data()) = m;
    return rows;
}

} // namespace

/// Positive below the horizon. Empty: it cannot be solved, or not all marks lie below the horizon.
std::optional<GroundPlane::Map> GroundPlane::solve(const std::vector<GroundMark>& marks)
{
    std::vector<Vector2d> seen, real;
    for (const auto& m : marks) {
        seen.emplace_back(m.at.x, m.at.y);
        real.emplace_back(m.x, m.y);
    }
    const Matrix3d a = normaliser(seen), b = normaliser(real);
    Eigen::MatrixXd rows = Eigen::MatrixXd::Zero(std::max<Eigen::Index>(9, 2 * static_cast<Eigen::Index>(marks.size())), 9);
    for (std::size_t i = 0; i < marks.size(); ++i) {
        const Vector3d p = a * seen[i].homogeneous(), q = b * real[i].homogeneous();
        const auto row = 2 * static_cast<Eigen::Index>(i);
        rows.row(row) << p.transpose(), 0, 0, 0, -q.x() * p.transpose();
        rows.row(row + 1) << 0, 0, 0, p.transpose(), -q.y() * p.transpose();
    }
    const Eigen::JacobiSVD<Eigen::MatrixXd> svd(rows, Eigen::ComputeFullV);
    const Eigen::VectorXd h = svd.matrixV().col(8);
    Matrix3d normalised;
    normalised << h(0), h(1), h(2), h(3), h(4), h(5), h(6), h(7), h(8);
    Matrix3d map = b.inverse() * normalised * a;
    if (map.row(2).dot(seen.front().homogeneous()) < 0)
        map = -map;
    map /= map.norm();
    for (const auto& p : seen)
        if (map.row(2).dot(p.homogeneous()) <= kBehind)
            return std::nullopt;
    return rowsOf(map);
}

std::optional<std::array<double, 2>> GroundPlane::apply(const Map& rows, ImagePoint p)
{
    const Vector3d q = matrixOf(rows) * Vector3d(p.x, p.y, 1);
    if (q.z() <= kBehind)
        return std::nullopt;
    return std::array{q.x() / q.z(), q.y() / q.z()};
}

Expected<GroundPlane> GroundPlane::fit(const std::vector<GroundMark>& marks)
{
    if (marks.size() < kLeastGroundMarks)
        return fail(ErrorCode::BadArgument, "The ground takes four places or more whose distances are known; " +
                                                std::to_string(marks.size()) + " are marked.");
    if (marks.size() > kMostGroundMarks)
        return fail(ErrorCode::BadArgument, "The ground takes " + std::to_string(kMostGroundMarks) + " places at most; " +
                                                std::to_string(marks.size()) + " are marked.");
    std::vector<Vector2d> seen, real;
    for (const auto& m : marks) {
        seen.emplace_back(m.at.x, m.at.y);
        real.emplace_back(m.x, m.y);
    }
    if (!spansAPlane(seen) || !spansAPlane(real))
        return fail(ErrorCode::BadArgument,
                    "Of the places that give the ground, four are needed of which no three lie on one line.");
    const auto map = solve(marks);
    if (!map)
        return fail(
            ErrorCode::BadArgument,
            "These places cannot lie like that on one level ground: two are taken for each other, or a distance is wrong.");
    GroundPlane plane;
    plane.m_toGround = *map;
    plane.m_toImage = rowsOf(matrixOf(*map).inverse());
    double squares = 0;
    for (const auto& m : marks) {
        const auto image = plane.imageOf(m.x, m.y);
        plane.m_misses.push_back(image ? (*image - m.at).length() : 0);
        squares += plane.m_misses.back() * plane.m_misses.back();
    }
    const double free = 2 * static_cast<double>(marks.size()) - 8;
    plane.m_markSigma = std::max(kCarefulClick, free > 0 ? std::sqrt(squares / free) : 0);
    for (const ImageVector off : {ImageVector{plane.m_markSigma, 0}, ImageVector{0, plane.m_markSigma}})
        for (std::size_t i = 0; i < marks.size(); ++i) {
            auto moved = marks;
            moved[i].at = moved[i].at + off;
            plane.m_moved.push_back(solve(moved).value_or(*map));
        }
    return plane;
}

std::optional<ImagePoint> GroundPlane::imageOf(double x, double y) const
{
    const Vector3d q = matrixOf(m_toImage) * Vector3d(x, y, 1);
    if (q.z() <= 0)
        return std::nullopt;
    return ImagePoint{q.x() / q.z(), q.y() / q.z()};
}

std::optional<GroundPlace> GroundPlane::at(ImagePoint p, double sigma) const
{
    const auto place = apply(m_toGround, p);
    if (!place)
        return std::nullopt;
    double squares = 0;
    const auto add = [&](const std::optional<std::array<double, 2>>& other) {
        if (other)
            squares += std::pow((*other)[0] - (*place)[0], 2) + std::pow((*other)[1] - (*place)[1], 2);
    };
    for (const Map& moved : m_moved)
        add(apply(moved, p));
    add(apply(m_toGround, p + ImageVector{sigma, 0}));
    add(apply(m_toGround, p + ImageVector{0, sigma}));
    return GroundPlace{(*place)[0], (*place)[1], std::sqrt(squares / 2)};
}

std::optional<GroundDistance> GroundPlane::distance(ImagePoint a, ImagePoint b, double sigma) const
{
    const auto between = [](const Map& map, ImagePoint p, ImagePoint q) -> std::optional<double> {
        const auto from = apply(map, p), to = apply(map, q);
        if (!from || !to)
            return std::nullopt;
        return std::hypot((*to)[0] - (*from)[0], (*to)[1] - (*from)[1]);
    };
    const auto metres = between(m_toGround, a, b);
    if (!metres)
        return std::nullopt;
    double squares = 0;
    const auto add = [&](const std::optional<double>& other) { squares += other ? std::pow(*other - *metres, 2) : 0; };
    for (const Map& moved : m_moved)
        add(between(moved, a, b));
    for (const ImageVector off : {ImageVector{sigma, 0}, ImageVector{0, sigma}}) {
        add(between(m_toGround, a + off, b));
        add(between(m_toGround, a, b + off));
    }
    return GroundDistance{*metres, std::sqrt(squares)};
}

} // namespace kestrel
