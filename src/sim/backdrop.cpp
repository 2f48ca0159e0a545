#include "sim/backdrop.h"

#include "core/draw.h"

#include <QLinearGradient>
#include <QPainter>
#include <QPainterPath>
#include <cmath>
#include <numbers>

namespace kestrel::sim {

namespace {

constexpr double kFenceDistance = 24, kFenceHeight = 1.1; // metres
constexpr double kMoundRadius = 1.5;

QPointF point(const ImagePoint& p)
{
    return {p.x, p.y};
}

class BackdropPainter {
public:
    explicit BackdropPainter(const Camera& camera)
        : m_camera(camera), m_image(camera.size().width, camera.size().height, QImage::Format_RGB32),
          m_horizon(camera.project(camera.eye() + camera.forward() * 1e4).y)
    {
    }

    QImage paint()
    {
        QPainter painter(&m_image);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(Qt::NoPen);
        paintSky(painter);
        paintTrees(painter);
        paintGrass(painter);
        paintFence(painter);
        paintMound(painter);
        return m_image;
    }

private:
    double width() const { return m_camera.size().width; }
    double height() const { return m_camera.size().height; }

    /// On the ground: so far to the picture's right of the camera's axis, so far away.
    QPointF ground(double right, double away, double up = 0) const
    {
        Vec3 p = m_camera.eye() + m_camera.right() * right + m_camera.forward() * away;
        p.y() = up;
        return point(m_camera.project(p));
    }

    void paintSky(QPainter& painter)
    {
        QLinearGradient sky(0, 0, 0, m_horizon);
        sky.setColorAt(0, QColor(0x8f, 0xb2, 0xd0));
        sky.setColorAt(1, QColor(0xd6, 0xe2, 0xe8));
        painter.fillRect(QRectF(0, 0, width(), m_horizon + 2), sky);
    }

    void paintTrees(QPainter& painter)
    {
        const Draw draw(7);
        const double step = width() / 44;
        for (int layer = 0; layer < 2; ++layer) {
            painter.setBrush(layer == 0 ? QColor(0x7e, 0x98, 0x8a) : QColor(0x5c, 0x7c, 0x62));
            for (int i = -1; i < 46; ++i) {
                const auto what = static_cast<std::uint64_t>(layer * 100 + i + 1);
                const double size = step * (1.5 + 0.7 * draw.even(Draw::mix(1, what)));
                const double rise = height() * (layer == 0 ? 0.055 : 0.020) * (1 + 0.6 * draw.even(Draw::mix(2, what)));
                painter.drawEllipse(QPointF(i * step, m_horizon - rise), size, size * 0.8);
            }
        }
    }

    void paintGrass(QPainter& painter)
    {
        const QRectF lawn(0, m_horizon, width(), height() - m_horizon);
        QLinearGradient grass(0, m_horizon, 0, height());
        grass.setColorAt(0, QColor(0x86, 0x9f, 0x68));
        grass.setColorAt(1, QColor(0x5a, 0x80, 0x42));
        painter.fillRect(lawn, grass);
        painter.setClipRect(lawn);
        painter.setBrush(QColor(255, 255, 220, 16)); // mown strips
        for (int i = -14; i < 14; i += 2) {
            QPolygonF strip;
            strip << ground(i * 1.8, 60) << ground((i + 1) * 1.8, 60) << ground((i + 1) * 1.8, 2.5) << ground(i * 1.8, 2.5);
            painter.drawPolygon(strip);
        }
        painter.setClipping(false);
    }

    void paintFence(QPainter& painter)
    {
        painter.setPen(QPen(QColor(0x6c, 0x74, 0x70), std::max(1.0, height() / 500)));
        const double reach = kFenceDistance * 1.2;
        for (double x = -reach; x <= reach; x += 2.4)
            painter.drawLine(ground(x, kFenceDistance), ground(x, kFenceDistance, kFenceHeight));
        for (const double rail : {0.15, 0.6, kFenceHeight})
            painter.drawLine(ground(-reach, kFenceDistance, rail), ground(reach, kFenceDistance, rail));
        painter.setPen(Qt::NoPen);
    }

    void paintMound(QPainter& painter)
    {
        const auto disc = [&](double radius) {
            QPolygonF ring;
            for (int i = 0; i < 72; ++i) {
                const double turn = 2 * std::numbers::pi * i / 72;
                ring << point(m_camera.project({0.55 + radius * std::cos(turn), 0, radius * std::sin(turn)}));
            }
            return ring;
        };
        QLinearGradient earth(0, m_horizon, 0, height());
        earth.setColorAt(0, QColor(0xb4, 0x8a, 0x60));
        earth.setColorAt(1, QColor(0x9c, 0x70, 0x48));
        painter.setBrush(earth);
        painter.drawPolygon(disc(kMoundRadius));
        painter.setBrush(QColor(0xc2, 0x9a, 0x70, 120));
        painter.drawPolygon(disc(0.75 * kMoundRadius));
        const Draw draw(3);
        painter.setBrush(QColor(0x6c, 0x4a, 0x2c, 70)); // clods
        for (std::uint64_t i = 0; i < 160; ++i) {
            const double r = kMoundRadius * std::sqrt(std::abs(draw.even(Draw::mix(5, i)))),
                         turn = std::numbers::pi * draw.even(Draw::mix(6, i));
            const QPointF p = point(m_camera.project({0.55 + r * std::cos(turn), 0, r * std::sin(turn)}));
            const double size = height() / 720 * (1.2 + draw.even(Draw::mix(8, i)));
            painter.drawEllipse(p, 2 * size, size);
        }
        QPolygonF plate;
        for (const auto& [x, z] : {std::pair{-0.075, -0.305}, {0.075, -0.305}, {0.075, 0.305}, {-0.075, 0.305}})
            plate << point(m_camera.project({x - 0.03, 0.005, z}));
        painter.setBrush(QColor(0xee, 0xec, 0xe6));
        painter.drawPolygon(plate);
    }

    const Camera& m_camera;
    QImage m_image;
    double m_horizon;
};

} // namespace

QImage paintBackdrop(const Camera& camera)
{
    return BackdropPainter(camera).paint();
}

} // namespace kestrel::sim
