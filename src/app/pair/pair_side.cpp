#include "app/pair/pair_side.h"

namespace kestrel::app {

namespace {

/// Pixels of the film that somebody stands high: by the scale, else by the trunk.
std::optional<double> standingPixels(const PairSide& side, FrameIndex frame)
{
    const auto& m = side.film.marking;
    if (side.prepared->scene().hasScale() && m.athlete.heightMetres)
        return *m.athlete.heightMetres / side.prepared->scene().metresPerPixel();
    constexpr double kTrunkShare = 0.30; // of standing height, from the hips to the shoulders
    const auto hip = placeOf(side, "midHip", frame), shoulder = placeOf(side, "midShoulder", frame);
    return hip && shoulder ? std::optional((*shoulder - *hip).length() / kTrunkShare) : std::nullopt;
}

} // namespace

std::optional<ImagePoint> placeOf(const PairSide& side, const std::string& role, FrameIndex frame)
{
    return PointPath(*side.prepared, *findPointRole(role)).imageAt(FramePosition(frame));
}

bool areMirrored(const PairSide& a, const PairSide& b)
{
    return a.film.marking.athlete.hand != b.film.marking.athlete.hand;
}

std::optional<QTransform> secondToFirst(const PairSide& first, FrameIndex a, const PairSide& second, FrameIndex b,
                                        const std::string& anchor)
{
    const auto at = placeOf(first, anchor, a), from = placeOf(second, anchor, b);
    const auto highA = standingPixels(first, a), highB = standingPixels(second, b);
    if (!at || !from || !highA || !highB || *highB <= 0)
        return std::nullopt;
    const double scale = *highA / *highB;
    QTransform t;
    t.translate(at->x, at->y);
    t.scale(areMirrored(first, second) ? -scale : scale, scale);
    t.translate(-from->x, -from->y);
    return t;
}

} // namespace kestrel::app
