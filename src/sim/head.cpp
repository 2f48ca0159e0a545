#include "sim/head.h"

#include <Eigen/Geometry>
#include <QPainter>
#include <QPainterPath>
#include <QRadialGradient>
#include <cmath>
#include <numbers>

namespace kestrel::sim {

namespace {

/// Places things on the head: forward, right and up in head radii.
class HeadPainter {
public:
    HeadPainter(QPainter& painter, const Camera& camera, const Skeleton& body, double height, const HeadColours& colours)
        : m_painter(painter), m_camera(camera), m_colours(colours), m_centre(body.headCentre), m_forward(body.headForward),
          m_up(body.headUp), m_right(body.headForward.cross(body.headUp)), m_radius(proportions::kHeadRadius * height),
          m_pixels(m_radius * camera.pixelsPerMetre(body.headCentre)), m_toCamera((camera.eye() - body.headCentre).normalized())
    {
    }

    void paint()
    {
        paintPeak(true);
        paintSkull();
        paintCover(
            m_colours.hair, [](double f, double, double u) { return f < 0.12 && u > -0.40 + 0.45 * f && u < 0.62; }, 0.20);
        for (const double side : {-1.0, 1.0})
            paintEar(side);
        paintFace();
        paintCover(
            m_colours.cap, [](double f, double, double u) { return u > 0.36 + 0.10 * f; }, 0.24);
        paintPeak(false);
    }

private:
    Vec3 place(double f, double r, double u) const { return m_centre + (m_forward * f + m_right * r + m_up * u) * m_radius; }
    QPointF at(double f, double r, double u) const
    {
        const auto p = m_camera.project(place(f, r, u));
        return {p.x, p.y};
    }
    /// How squarely the camera sees the head's surface there; negative: on the far side.
    double facing(double f, double r, double u) const
    {
        return (m_forward * f + m_right * r + m_up * u).normalized().dot(m_toCamera);
    }
    void disc(QPointF p, double rx, double ry) { m_painter.drawEllipse(p, rx * m_pixels, ry * m_pixels); }

    void paintSkull()
    {
        QPainterPath head;
        head.setFillRule(Qt::WindingFill);
        head.addEllipse(at(0, 0, 0.08), m_pixels * 0.97, m_pixels);
        head.addEllipse(at(0.24, 0, -0.48), m_pixels * 0.66, m_pixels * 0.66); // jaw
        head.addEllipse(at(0.42, 0, -0.78), m_pixels * 0.34, m_pixels * 0.30); // chin
        const QPointF light = at(0, 0, 0) - QPointF(m_pixels, m_pixels) * 0.35;
        QRadialGradient shade(light, 2.0 * m_pixels);
        shade.setColorAt(0, m_colours.skin.lighter(108));
        shade.setColorAt(0.55, m_colours.skin);
        shade.setColorAt(1, m_colours.skin.darker(140));
        m_painter.setBrush(shade);
        m_painter.drawPath(head);
    }

    /// Covers the part of the near side for which the test holds, as one smooth patch.
    template <class Test> void paintCover(const QColor& colour, Test covered, double grain)
    {
        QPainterPath patch;
        patch.setFillRule(Qt::WindingFill);
        constexpr int kRings = 14, kAround = 26;
        for (int i = 1; i < kRings; ++i) {
            const double polar = std::numbers::pi * i / kRings, u = std::cos(polar), ring = std::sin(polar);
            for (int j = 0; j < kAround; ++j) {
                const double turn = 2 * std::numbers::pi * j / kAround;
                const double f = ring * std::cos(turn), r = ring * std::sin(turn);
                if (covered(f, r, u) && facing(f, r, u) > -0.05)
                    patch.addEllipse(at(0.90 * f, 0.90 * r, 0.08 + 0.92 * u), grain * m_pixels, grain * m_pixels);
            }
        }
        QRadialGradient shade(at(0, 0, 0.4) - QPointF(0.4, 0.5) * m_pixels, 2.0 * m_pixels);
        shade.setColorAt(0, colour.lighter(125));
        shade.setColorAt(1, colour.darker(135));
        m_painter.setBrush(shade);
        m_painter.drawPath(patch);
    }

    void paintEar(double side)
    {
        if (facing(0, side, 0) < 0.1)
            return;
        m_painter.setBrush(m_colours.skin.darker(108));
        disc(at(-0.02, side * 0.92, -0.08), 0.15 + 0.06 * std::abs(m_right.dot(m_toCamera)), 0.24);
        m_painter.setBrush(m_colours.skin.darker(135));
        disc(at(0.0, side * 0.94, -0.08), 0.08, 0.13);
    }

    void paintFace()
    {
        const double squarely = std::max(0.0, m_forward.dot(m_toCamera));
        for (const double side : {-1.0, 1.0}) {
            const double seen = facing(0.85, side * 0.36, 0.12);
            if (seen < 0.12)
                continue;
            const QPointF eye = at(0.86, side * 0.34, 0.13);
            m_painter.setBrush(QColor(0xf6, 0xf3, 0xee));
            disc(eye, 0.15 * std::max(0.45, seen), 0.085);
            m_painter.setBrush(QColor(0x2c, 0x20, 0x18));
            disc(at(0.90, side * 0.33, 0.125), 0.065 * std::max(0.6, seen), 0.07);
            m_painter.setPen(QPen(m_colours.hair, 0.09 * m_pixels, Qt::SolidLine, Qt::RoundCap));
            m_painter.drawLine(at(0.90, side * 0.17, 0.29), at(0.80, side * 0.52, 0.28));
            m_painter.setPen(Qt::NoPen);
        }
        if (facing(1, 0, -0.1) > -0.15) {
            QPainterPath nose(at(0.93, 0, 0.12));
            nose.lineTo(at(1.14, 0, -0.16));
            nose.lineTo(at(0.90, 0.13, -0.22));
            nose.lineTo(at(0.90, -0.13, -0.22));
            nose.closeSubpath();
            m_painter.setBrush(m_colours.skin.darker(squarely > 0.6 ? 115 : 106));
            m_painter.drawPath(nose);
        }
        if (facing(0.9, 0, -0.45) > 0.1) {
            m_painter.setPen(QPen(QColor(0x96, 0x4c, 0x44), 0.08 * m_pixels, Qt::SolidLine, Qt::RoundCap));
            QPainterPath mouth(at(0.80, -0.25, -0.50));
            mouth.quadTo(at(0.95, 0, -0.56), at(0.80, 0.25, -0.50));
            m_painter.drawPath(mouth);
            m_painter.setPen(Qt::NoPen);
        }
    }

    /// The peak of the cap is drawn behind the head when it points away.
    void paintPeak(bool before)
    {
        const bool isAway = m_forward.dot(m_toCamera) < -0.15;
        if (before != isAway)
            return;
        QPolygonF peak;
        for (int i = 0; i <= 8; ++i) {
            const double turn = (i / 8.0 - 0.5) * 2.0;
            peak << at(0.55 + 0.95 * std::cos(turn), 0.80 * std::sin(turn), 0.30);
        }
        for (int i = 8; i >= 0; --i) {
            const double turn = (i / 8.0 - 0.5) * 2.0;
            peak << at(0.10 + 0.82 * std::cos(turn), 0.92 * std::sin(turn), 0.44);
        }
        m_painter.setBrush(m_colours.cap.darker(125));
        m_painter.drawPolygon(peak, Qt::WindingFill);
    }

    QPainter& m_painter;
    const Camera& m_camera;
    HeadColours m_colours;
    Vec3 m_centre, m_forward, m_up, m_right;
    double m_radius, m_pixels;
    Vec3 m_toCamera;
};

} // namespace

void paintHead(QPainter& painter, const Camera& camera, const Skeleton& body, double height, const HeadColours& colours)
{
    HeadPainter(painter, camera, body, height, colours).paint();
}

} // namespace kestrel::sim
