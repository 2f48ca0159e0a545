#pragma once

#include "sim/camera.h"
#include "sim/mesh.h"

#include <QImage>

namespace kestrel::sim {

/// Where the light comes from and how soft it is.
struct Light {
    Vec3 toLight{-0.30, 0.85, 0.42}; ///< any length
    float ambient = 0.58F, direct = 0.52F;
};

/// A picture in the making: colour and depth, at twice the size of the picture for smooth edges where it is not too
/// large. What never moves is painted once; each picture then starts from it.
class Canvas {
public:
    explicit Canvas(media::PixelSize);

    /// Fills with the colour the function gives for a line of sight (unit length), infinitely far away.
    void fill(const Camera&, const std::function<Colour(const Vec3&)>&);
    void draw(const Mesh&, const Camera&, const Light&);
    /// Darkens what lies at ground level where the mesh throws its shadow. \param strength  0 to 1
    void drawShadow(const Mesh&, const Camera&, const Light&, float strength);

    /// Starts from another canvas of the same size; only the rectangles that were drawn since then are copied.
    void restart(const Canvas& still);
    /// Puts what was drawn since restart() into the picture, which holds the rest already.
    void develop(QImage& picture) const;
    /// The whole picture.
    QImage developed() const;

private:
    struct Box {
        int left, top, right, bottom; ///< right and bottom not included
        bool isEmpty() const { return left >= right || top >= bottom; }
    };
    Box boxOf(const std::vector<Eigen::Vector3f>& projected) const;
    std::vector<Eigen::Vector3f> project(const std::vector<Eigen::Vector3f>&, const Camera&) const;
    void drawTriangle(const Eigen::Vector3f (&corners)[3], const Colour (&colours)[3]);
    void developRows(QImage&, const Box&) const;

    media::PixelSize m_size;
    int m_finer; // pixels a side for one of the picture
    int m_width, m_height;
    std::vector<std::uint32_t> m_colour;
    std::vector<float> m_nearness; // 1 / depth
    std::vector<Box> m_touched;
};

} // namespace kestrel::sim
