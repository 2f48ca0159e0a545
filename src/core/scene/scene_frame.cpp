#include "core/scene/scene_frame.h"

namespace kestrel {

namespace {

/// A line's end is set by eye to about this many pixels.
constexpr double kLineEndSigmaPixels = 1.5;

bool aheadIsPictureRight(const Scene& scene, Hand hand)
{
    switch (scene.target) {
    case TargetDirection::Right:
        return true;
    case TargetDirection::Left:
        return false;
    case TargetDirection::Away:
        return hand == Hand::Right;
    case TargetDirection::Toward:
        return hand == Hand::Left;
    }
    return true;
}

} // namespace

SceneFrame::SceneFrame(const Scene& scene, Hand hand)
{
    const double length = scene.up.length();
    m_up = length > 0 ? scene.up * (1 / length) : ImageVector{0, -1};
    const ImageVector right{-m_up.y, m_up.x};
    m_ahead = aheadIsPictureRight(scene, hand) ? right : right * -1;
    if (scene.scale) {
        const double pixels = (scene.scale->to - scene.scale->from).length();
        if (pixels > 0 && scene.scale->metres > 0) {
            m_metresPerPixel = scene.scale->metres / pixels;
            m_scaleError = kLineEndSigmaPixels * std::sqrt(2.0) / pixels;
            m_hasScale = true;
        }
    }
}

} // namespace kestrel
