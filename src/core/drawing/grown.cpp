#include "core/drawing/grown.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel {

namespace {

/// The beginning of a line through points.
std::vector<ImagePoint> beginning(const std::vector<ImagePoint>& points, double share)
{
    double whole = 0;
    for (std::size_t i = 1; i < points.size(); ++i)
        whole += (points[i] - points[i - 1]).length();
    double left = share * whole;
    std::vector<ImagePoint> part{points.front()};
    for (std::size_t i = 1; i < points.size(); ++i) {
        const double length = (points[i] - points[i - 1]).length();
        if (length >= left) {
            part.push_back(length > 0 ? lerp(points[i - 1], points[i], left / length) : points[i]);
            break;
        }
        part.push_back(points[i]);
        left -= length;
    }
    return part;
}

/// Part of a circle as a line through points, from its rim's point on.
std::vector<ImagePoint> roundPart(ImagePoint middle, ImagePoint rim, double share)
{
    constexpr int kSteps = 64;
    std::vector<ImagePoint> part;
    const ImageVector r = rim - middle;
    for (int i = 0; i <= kSteps; ++i) {
        const double a = share * 2 * std::numbers::pi * i / kSteps;
        part.push_back(middle + ImageVector{r.x * std::cos(a) - r.y * std::sin(a), r.x * std::sin(a) + r.y * std::cos(a)});
    }
    return part;
}

} // namespace

Figure grown(const Figure& figure, double share)
{
    if (share >= 1)
        return figure;
    Figure part{figure.frame, {}};
    if (share <= 0)
        return part;
    for (const auto& s : figure.strokes) {
        if (s.points.empty())
            continue;
        switch (s.kind) {
        case Stroke::Kind::Dot:
            part.strokes.push_back(s);
            break;
        case Stroke::Kind::Arc: // opens once its arms are there
            if (share > 0.7)
                part.strokes.push_back(s);
            break;
        case Stroke::Kind::Circle:
            if (s.points.size() == 2)
                part.strokes.push_back({Stroke::Kind::Segment, roundPart(s.points[0], s.points[1], share)});
            break;
        default:
            part.strokes.push_back({s.kind, beginning(s.points, share)});
        }
    }
    return part;
}

} // namespace kestrel
