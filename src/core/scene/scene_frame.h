#pragma once

#include "core/scene/marking.h"

namespace kestrel {

/// Turns pixels into body coordinates for one scene and one athlete.
///
/// x grows toward the target when it lies left or right in the picture, and toward the athlete's dominant side in
/// front and rear views, so that a left-hander's reading means the same as a right-hander's.
class SceneFrame {
public:
    SceneFrame(const Scene& scene, Hand hand);

    /// False: no scale was given; body coordinates are then in pixels and no length may be read.
    bool hasScale() const { return m_hasScale; }
    double metresPerPixel() const { return m_metresPerPixel; }
    /// Relative error (one standard deviation) of the scale from setting its two ends by eye.
    double scaleError() const { return m_scaleError; }

    BodyPoint toBody(ImagePoint p) const
    {
        const ImageVector v{p.x, p.y};
        return {m_metresPerPixel * dot(v, m_ahead), m_metresPerPixel * dot(v, m_up)};
    }
    ImagePoint toImage(BodyPoint p) const
    {
        const ImageVector v = m_ahead * (p.x / m_metresPerPixel) + m_up * (p.y / m_metresPerPixel);
        return {v.x, v.y};
    }

private:
    ImageVector m_up, m_ahead; // unit vectors in the picture
    double m_metresPerPixel = 1;
    double m_scaleError = 0;
    bool m_hasScale = false;
};

} // namespace kestrel
