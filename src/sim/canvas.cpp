#include "sim/canvas.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace kestrel::sim {

namespace {

constexpr int kTallestFine = 1200;    // pictures taller than this are painted at their own size
constexpr float kNearPlane = 0.05F;   // metres
constexpr float kGroundLevel = 0.03F; // what lies lower takes a shadow, metres

std::uint32_t packed(const Colour& c)
{
    const auto byte = [](float v) { return static_cast<std::uint32_t>(std::clamp(v, 0.0F, 1.0F) * 255.0F + 0.5F); };
    return 0xff000000u | byte(c.x()) << 16 | byte(c.y()) << 8 | byte(c.z());
}

} // namespace

Canvas::Canvas(media::PixelSize size)
    : m_size(size), m_finer(size.height > kTallestFine ? 1 : 2), m_width(size.width * m_finer), m_height(size.height * m_finer),
      m_colour(static_cast<std::size_t>(m_width) * m_height), m_nearness(m_colour.size())
{
}

void Canvas::fill(const Camera& camera, const std::function<Colour(const Vec3&)>& paint)
{
    std::fill(m_nearness.begin(), m_nearness.end(), 0.0F);
    for (int y = 0; y < m_height; ++y)
        for (int x = 0; x < m_width; ++x) {
            const double right = (x + 0.5) / m_finer - m_size.width / 2.0, down = (y + 0.5) / m_finer - m_size.height / 2.0;
            const Vec3 sight = camera.forward() * camera.focal() + camera.right() * right - camera.up() * down;
            m_colour[static_cast<std::size_t>(y) * m_width + x] = packed(paint(sight.normalized()));
        }
    m_touched = {{0, 0, m_width, m_height}};
}

/// x and y on the canvas, z the depth.
std::vector<Eigen::Vector3f> Canvas::project(const std::vector<Eigen::Vector3f>& points, const Camera& camera) const
{
    const Eigen::Vector3f eye = camera.eye().cast<float>(), right = camera.right().cast<float>(), up = camera.up().cast<float>(),
                          forward = camera.forward().cast<float>();
    const float focal = static_cast<float>(camera.focal()) * static_cast<float>(m_finer);
    const float middleX = static_cast<float>(m_width) / 2, middleY = static_cast<float>(m_height) / 2;
    std::vector<Eigen::Vector3f> out;
    out.reserve(points.size());
    for (const auto& p : points) {
        const Eigen::Vector3f v = p - eye;
        const float depth = v.dot(forward), scale = focal / std::max(depth, 1e-4F);
        out.emplace_back(middleX + v.dot(right) * scale, middleY - v.dot(up) * scale, depth);
    }
    return out;
}

Canvas::Box Canvas::boxOf(const std::vector<Eigen::Vector3f>& projected) const
{
    float left = 1e9F, top = 1e9F, right = -1e9F, bottom = -1e9F;
    for (const auto& p : projected) {
        if (p.z() < kNearPlane)
            return {0, 0, m_width, m_height};
        left = std::min(left, p.x());
        right = std::max(right, p.x());
        top = std::min(top, p.y());
        bottom = std::max(bottom, p.y());
    }
    const auto within = [](float v, int most) { return static_cast<int>(std::clamp(v, 0.0F, static_cast<float>(most))); };
    return {within(std::floor(left), m_width), within(std::floor(top), m_height), within(std::ceil(right) + 1, m_width),
            within(std::ceil(bottom) + 1, m_height)};
}

void Canvas::draw(const Mesh& mesh, const Camera& camera, const Light& light)
{
    const auto seen = project(mesh.points, camera);
    if (const Box box = boxOf(seen); !box.isEmpty())
        m_touched.push_back(box);
    const Eigen::Vector3f toLight = light.toLight.normalized().cast<float>(), eye = camera.eye().cast<float>();
    std::vector<Colour> lit(mesh.points.size());
    std::vector<float> facings(mesh.points.size());
    for (std::size_t i = 0; i < lit.size(); ++i) {
        // flats are seen from both sides: the normal that faces the camera counts
        const float facing = mesh.normals[i].dot((eye - mesh.points[i]).normalized());
        const float lambert = std::max(0.0F, (facing < 0 ? -1.0F : 1.0F) * mesh.normals[i].dot(toLight));
        lit[i] = mesh.colours[i] * ((light.ambient + light.direct * lambert) * (0.82F + 0.18F * std::abs(facing)));
        facings[i] = facing;
    }
    for (const auto& t : mesh.triangles) {
        // the far side of what is round is hidden by its near side; flats have one normal and two sides
        if (facings[t[0]] < 0 && facings[t[1]] < 0 && facings[t[2]] < 0 && mesh.normals[t[0]] != mesh.normals[t[1]])
            continue;
        const Eigen::Vector3f corners[3]{seen[t[0]], seen[t[1]], seen[t[2]]};
        const Colour colours[3]{lit[t[0]], lit[t[1]], lit[t[2]]};
        const int behind = (corners[0].z() < kNearPlane) + (corners[1].z() < kNearPlane) + (corners[2].z() < kNearPlane);
        if (behind == 0) {
            drawTriangle(corners, colours);
            continue;
        }
        if (behind == 3)
            continue;
        // cut off what lies behind the lens
        std::vector<Eigen::Vector3f> cut;
        std::vector<Colour> cutColours;
        for (int i = 0; i < 3; ++i) {
            const int next = (i + 1) % 3;
            const Eigen::Vector3f &a = mesh.points[t[static_cast<std::size_t>(i)]],
                                  &b = mesh.points[t[static_cast<std::size_t>(next)]];
            const float za = corners[i].z(), zb = corners[next].z();
            if (za >= kNearPlane) {
                cut.push_back(a);
                cutColours.push_back(colours[i]);
            }
            if ((za >= kNearPlane) != (zb >= kNearPlane)) {
                const float share = (kNearPlane * 1.001F - za) / (zb - za);
                cut.push_back(a + (b - a) * share);
                cutColours.push_back(colours[i] + (colours[next] - colours[i]) * share);
            }
        }
        const auto again = project(cut, camera);
        for (std::size_t i = 2; i < again.size(); ++i)
            drawTriangle({again[0], again[i - 1], again[i]}, {cutColours[0], cutColours[i - 1], cutColours[i]});
    }
}

void Canvas::drawTriangle(const Eigen::Vector3f (&c)[3], const Colour (&colours)[3])
{
    const float area = (c[1].x() - c[0].x()) * (c[2].y() - c[0].y()) - (c[2].x() - c[0].x()) * (c[1].y() - c[0].y());
    if (std::abs(area) < 1e-6F)
        return;
    const auto bound = [](float v, int most) { return static_cast<int>(std::clamp(v, -1.0F, static_cast<float>(most))); };
    const int left = std::max(0, bound(std::floor(std::min({c[0].x(), c[1].x(), c[2].x()})), m_width));
    const int right = std::min(m_width - 1, bound(std::ceil(std::max({c[0].x(), c[1].x(), c[2].x()})), m_width));
    const int top = std::max(0, bound(std::floor(std::min({c[0].y(), c[1].y(), c[2].y()})), m_height));
    const int bottom = std::min(m_height - 1, bound(std::ceil(std::max({c[0].y(), c[1].y(), c[2].y()})), m_height));
    if (left > right || top > bottom)
        return;
    // each corner's share of a point grows evenly over the picture; so does nearness, and nearly so the colour
    const float inverse = 1 / area;
    const float stepX[2]{(c[2].y() - c[0].y()) * inverse, -(c[1].y() - c[0].y()) * inverse};
    const float stepY[2]{-(c[2].x() - c[0].x()) * inverse, (c[1].x() - c[0].x()) * inverse};
    const float near0 = 1 / c[0].z(), near1 = 1 / c[1].z() - near0, near2 = 1 / c[2].z() - near0;
    const Colour colour1 = (colours[1] - colours[0]) * 255.0F, colour2 = (colours[2] - colours[0]) * 255.0F;
    const Colour colour0 = colours[0] * 255.0F;
    for (int y = top; y <= bottom; ++y) {
        const float py = static_cast<float>(y) + 0.5F - c[0].y(), px = static_cast<float>(left) + 0.5F - c[0].x();
        float share1 = px * stepX[0] + py * stepY[0], share2 = px * stepX[1] + py * stepY[1];
        const std::size_t row = static_cast<std::size_t>(y) * static_cast<std::size_t>(m_width);
        for (int x = left; x <= right; ++x, share1 += stepX[0], share2 += stepX[1]) {
            if (share1 < 0 || share2 < 0 || share1 + share2 > 1)
                continue;
            const float nearness = near0 + near1 * share1 + near2 * share2;
            float& nearest = m_nearness[row + static_cast<std::size_t>(x)];
            if (nearness <= nearest)
                continue;
            nearest = nearness;
            const Colour shade = (colour0 + colour1 * share1 + colour2 * share2).cwiseMin(255.0F);
            m_colour[row + static_cast<std::size_t>(x)] = 0xff000000u | static_cast<std::uint32_t>(shade.x()) << 16 |
                                                          static_cast<std::uint32_t>(shade.y()) << 8 |
                                                          static_cast<std::uint32_t>(shade.z());
        }
    }
}

void Canvas::drawShadow(const Mesh& mesh, const Camera& camera, const Light& light, float strength)
{
    const Eigen::Vector3f toLight = light.toLight.normalized().cast<float>();
    std::vector<Eigen::Vector3f> fallen;
    fallen.reserve(mesh.points.size());
    for (const auto& p : mesh.points) {
        Eigen::Vector3f ground = p - toLight * (p.y() / toLight.y());
        ground.y() = 0;
        fallen.push_back(ground);
    }
    const auto seen = project(fallen, camera);
    Box box = boxOf(seen);
    constexpr int kCoarser = 4, kSoft = 2; // the mask is smaller than the canvas, and blurred by so many of its pixels
    box = {std::max(0, box.left - kCoarser * 2 * kSoft), std::max(0, box.top - kCoarser * 2 * kSoft),
           std::min(m_width, box.right + kCoarser * 2 * kSoft), std::min(m_height, box.bottom + kCoarser * 2 * kSoft)};
    if (box.isEmpty())
        return;
    m_touched.push_back(box);
    const int width = (box.right - box.left) / kCoarser + 1, height = (box.bottom - box.top) / kCoarser + 1;
    std::vector<float> mask(static_cast<std::size_t>(width) * height, 0.0F);
    for (const auto& t : mesh.triangles) {
        Eigen::Vector2f c[3];
        for (std::size_t i = 0; i < 3; ++i)
            c[i] = (seen[t[i]].head<2>() - Eigen::Vector2f(static_cast<float>(box.left), static_cast<float>(box.top))) / kCoarser;
        const float area = (c[1].x() - c[0].x()) * (c[2].y() - c[0].y()) - (c[2].x() - c[0].x()) * (c[1].y() - c[0].y());
        const int left = std::max(0, static_cast<int>(std::min({c[0].x(), c[1].x(), c[2].x()})));
        const int right = std::min(width - 1, static_cast<int>(std::max({c[0].x(), c[1].x(), c[2].x()})));
        const int top = std::max(0, static_cast<int>(std::min({c[0].y(), c[1].y(), c[2].y()})));
        const int bottom = std::min(height - 1, static_cast<int>(std::max({c[0].y(), c[1].y(), c[2].y()})));
        for (int y = top; y <= bottom; ++y)
            for (int x = left; x <= right; ++x) {
                const Eigen::Vector2f p(static_cast<float>(x) + 0.5F - c[0].x(), static_cast<float>(y) + 0.5F - c[0].y());
                const float a = (p.x() * (c[2].y() - c[0].y()) - p.y() * (c[2].x() - c[0].x())) / area;
                const float b = (p.y() * (c[1].x() - c[0].x()) - p.x() * (c[1].y() - c[0].y())) / area;
                if (a >= 0 && b >= 0 && a + b <= 1)
                    mask[static_cast<std::size_t>(y) * width + x] = 1;
            }
    }
    for (int pass = 0; pass < 2; ++pass) { // two box filters each way
        std::vector<float> next(mask.size(), 0.0F);
        for (const bool isAcross : {true, false}) {
            for (int y = 0; y < height; ++y)
                for (int x = 0; x < width; ++x) {
                    float sum = 0;
                    for (int k = -kSoft; k <= kSoft; ++k) {
                        const int xx = std::clamp(isAcross ? x + k : x, 0, width - 1),
                                  yy = std::clamp(isAcross ? y : y + k, 0, height - 1);
                        sum += mask[static_cast<std::size_t>(yy) * width + xx];
                    }
                    next[static_cast<std::size_t>(y) * width + x] = sum / (2 * kSoft + 1);
                }
            mask.swap(next);
        }
    }
    const Vec3 eye = camera.eye();
    for (int y = box.top; y < box.bottom; ++y)
        for (int x = box.left; x < box.right; ++x) {
            const float dark = mask[static_cast<std::size_t>((y - box.top) / kCoarser) * width + (x - box.left) / kCoarser];
            const std::size_t at = static_cast<std::size_t>(y) * m_width + x;
            if (dark < 0.01F || m_nearness[at] <= 0)
                continue;
            const double right = (x + 0.5) / m_finer - m_size.width / 2.0, down = (y + 0.5) / m_finer - m_size.height / 2.0;
            const double level =
                eye.y() + (camera.forward().y() * camera.focal() + camera.right().y() * right - camera.up().y() * down) /
                              (camera.focal() * m_nearness[at]);
            if (level > kGroundLevel)
                continue;
            const auto left = static_cast<std::uint32_t>(256 * (1 - strength * dark));
            const std::uint32_t c = m_colour[at];
            m_colour[at] =
                0xff000000u | ((c >> 16 & 255) * left >> 8) << 16 | ((c >> 8 & 255) * left >> 8) << 8 | (c & 255) * left >> 8;
        }
}

void Canvas::restart(const Canvas& still)
{
    for (const auto& box : m_touched)
        for (int y = box.top; y < box.bottom; ++y) {
            const std::size_t from = static_cast<std::size_t>(y) * m_width + box.left,
                              n = static_cast<std::size_t>(box.right - box.left);
            std::copy_n(still.m_colour.begin() + static_cast<std::ptrdiff_t>(from), n,
                        m_colour.begin() + static_cast<std::ptrdiff_t>(from));
            std::copy_n(still.m_nearness.begin() + static_cast<std::ptrdiff_t>(from), n,
                        m_nearness.begin() + static_cast<std::ptrdiff_t>(from));
        }
    m_touched.clear();
}

void Canvas::develop(QImage& picture) const
{
    for (const auto& box : m_touched)
        developRows(picture, box);
}

QImage Canvas::developed() const
{
    QImage picture(m_size.width, m_size.height, QImage::Format_RGB32);
    developRows(picture, {0, 0, m_width, m_height});
    return picture;
}

void Canvas::developRows(QImage& picture, const Box& box) const
{
    const int left = box.left / m_finer, right = std::min(m_size.width, (box.right + m_finer - 1) / m_finer);
    const int top = box.top / m_finer, bottom = std::min(m_size.height, (box.bottom + m_finer - 1) / m_finer);
    for (int y = top; y < bottom; ++y) {
        auto* out = reinterpret_cast<std::uint32_t*>(picture.scanLine(y));
        const std::uint32_t* a = m_colour.data() + static_cast<std::size_t>(y) * m_finer * m_width;
        if (m_finer == 1) {
            std::copy(a + left, a + right, out + left);
            continue;
        }
        const std::uint32_t* b = a + m_width;
        for (int x = left; x < right; ++x) {
            const std::uint32_t p = a[2 * x], q = a[2 * x + 1], r = b[2 * x], s = b[2 * x + 1];
            // four bytes at once: even and odd ones apart, so that sums of four fit
            const std::uint32_t even = (p & 0xff00ff) + (q & 0xff00ff) + (r & 0xff00ff) + (s & 0xff00ff) + 0x20002;
            const std::uint32_t odd =
                (p >> 8 & 0xff00ff) + (q >> 8 & 0xff00ff) + (r >> 8 & 0xff00ff) + (s >> 8 & 0xff00ff) + 0x20002;
            out[x] = 0xff000000u | (even >> 2 & 0xff00ff) | (odd >> 2 & 0xff00ff) << 8;
        }
    }
}

} // namespace kestrel::sim
