#include "sim/painter.h"

#include "sim/backdrop.h"
#include "sim/body.h"
#include "sim/head.h"

#include <QLinearGradient>
#include <QPainter>
#include <QPainterPath>
#include <QRadialGradient>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace kestrel::sim {

namespace {

constexpr double kBallRadius = 0.0365;

QPointF point(const ImagePoint& p)
{
    return {p.x, p.y};
}

/// The outline of two discs and everything between them.
QPainterPath outlineOf(QPointF a, double ra, QPointF b, double rb)
{
    const double d = std::hypot(b.x() - a.x(), b.y() - a.y());
    QPainterPath path;
    path.setFillRule(Qt::WindingFill);
    path.addEllipse(a, ra, ra);
    path.addEllipse(b, rb, rb);
    if (d <= std::abs(ra - rb))
        return path;
    // outer tangents
    const double along = std::atan2(b.y() - a.y(), b.x() - a.x());
    const double open = std::acos((ra - rb) / d);
    const auto on = [](QPointF c, double r, double angle) { return c + QPointF(r * std::cos(angle), r * std::sin(angle)); };
    QPolygonF sides;
    sides << on(a, ra, along + open) << on(a, ra, along - open) << on(b, rb, along - open) << on(b, rb, along + open);
    path.addPolygon(sides);
    return path;
}

QColor colourOf(Covering c, const Look& look)
{
    switch (c) {
    case Covering::Skin:
        return look.skin;
    case Covering::Shirt:
        return look.shirt;
    case Covering::Trousers:
        return look.trousers;
    case Covering::Sock:
        return look.cap;
    case Covering::Shoe:
        return look.shoes;
    case Covering::Glove:
        return QColor(0x7a, 0x4a, 0x22);
    }
    return look.skin;
}

/// Shaded from the lit side, above and to the left, to the other.
QLinearGradient shadeOf(const QColor& colour, QPointF lit, QPointF dark)
{
    QLinearGradient shade(lit, dark);
    shade.setColorAt(0.0, colour.lighter(112));
    shade.setColorAt(0.35, colour);
    shade.setColorAt(1.0, colour.darker(152));
    return shade;
}

struct SeenCapsule {
    QPointF a, b;
    double radiusA, radiusB;
    QPainterPath outline() const { return outlineOf(a, radiusA, b, radiusB); }
};

SeenCapsule seen(const Camera& camera, const Capsule& c)
{
    return {point(camera.project(c.a)), point(camera.project(c.b)), c.radiusA * camera.pixelsPerMetre(c.a),
            c.radiusB * camera.pixelsPerMetre(c.b)};
}

/// Both sides of the trunk and all between them.
void paintTrunk(QPainter& painter, const SeenCapsule& left, const SeenCapsule& right, const QColor& colour)
{
    QPolygonF between;
    between << left.a << right.a << right.b << left.b;
    const QPainterPath outline = left.outline() | right.outline() | outlineOf(left.a, left.radiusA, right.a, right.radiusA) |
                                 outlineOf(left.b, left.radiusB, right.b, right.radiusB);
    QPainterPath middle;
    middle.addPolygon(between);
    middle.closeSubpath();
    const QPainterPath all = outline | middle;
    const QRectF box = all.boundingRect();
    painter.setBrush(shadeOf(colour, box.topLeft(), box.bottomRight()));
    painter.drawPath(all);
}

void paintCapsule(QPainter& painter, const Camera& camera, const Capsule& c, const QColor& colour)
{
    const auto [a, b, ra, rb] = seen(camera, c);
    QPointF across(b.y() - a.y(), a.x() - b.x());
    const double length = std::hypot(across.x(), across.y());
    across = length > 0.5 ? across / length : QPointF(0.6, 0.8);
    if (across.x() * 0.55 + across.y() * 0.83 < 0)
        across = -across; // from the lit side to the shaded one
    const QPointF middle = (a + b) / 2;
    const double r = std::max(ra, rb);
    painter.setBrush(shadeOf(colour, middle - across * r, middle + across * r));
    painter.drawPath(outlineOf(a, ra, b, rb));
}

void paintShadow(QPainter& painter, const Camera& camera, const std::vector<Capsule>& body)
{
    // the sun stands high and to the left behind the camera
    const auto fallen = [&](const Vec3& p) { return Vec3(p.x() + 0.28 * p.y() * camera.right().x(), 0.0, p.z() - 0.16 * p.y()); };
    QPainterPath shadow;
    shadow.setFillRule(Qt::WindingFill);
    for (const auto& c : body) {
        const Vec3 a = fallen(c.a), b = fallen(c.b);
        const QPointF pa = point(camera.project(a)), pb = point(camera.project(b));
        const double ra = c.radiusA * camera.pixelsPerMetre(a), rb = c.radiusB * camera.pixelsPerMetre(b);
        QPainterPath flat;
        flat.setFillRule(Qt::WindingFill);
        flat.addEllipse(pa, ra, ra * 0.3);
        flat.addEllipse(pb, rb, rb * 0.3);
        QPolygonF sides;
        sides << pa + QPointF(-ra, 0) << pa + QPointF(ra, 0) << pb + QPointF(rb, 0) << pb + QPointF(-rb, 0);
        flat.addPolygon(sides);
        shadow.addPath(flat);
    }
    painter.setBrush(QColor(20, 18, 12, 70));
    painter.drawPath(shadow.simplified());
}

void paintBall(QPainter& painter, const Camera& camera, const Vec3& centre)
{
    const QPointF p = point(camera.project(centre));
    const double r = kBallRadius * camera.pixelsPerMetre(centre);
    QRadialGradient shade(p - QPointF(r, r) * 0.35, 1.5 * r);
    shade.setColorAt(0, QColor(255, 255, 252));
    shade.setColorAt(1, QColor(178, 172, 160));
    painter.setBrush(shade);
    painter.drawEllipse(p, r, r);
    painter.setPen(QPen(QColor(0xa0, 0x30, 0x28), std::max(0.6, r * 0.14)));
    painter.drawArc(QRectF(p.x() - 1.5 * r, p.y() - r, 2 * r, 2 * r), -50 * 16, 100 * 16);
    painter.setPen(Qt::NoPen);
}

} // namespace

Look lookOf(std::uint32_t number)
{
    static const std::array<QColor, 5> skins{QColor(0xe0, 0xac, 0x86), QColor(0xc6, 0x8c, 0x62), QColor(0xf0, 0xc4, 0xa2),
                                             QColor(0x8f, 0x5c, 0x3c), QColor(0xb0, 0x78, 0x52)};
    static const std::array<QColor, 4> hairs{QColor(0x3a, 0x26, 0x1a), QColor(0x1c, 0x1a, 0x1a), QColor(0x8a, 0x5a, 0x2c),
                                             QColor(0x55, 0x36, 0x20)};
    static const std::array<QColor, 5> shirts{QColor(0x2d, 0x5d, 0x8c), QColor(0x9c, 0x3d, 0x2e), QColor(0x3f, 0x7a, 0x5a),
                                              QColor(0xd9, 0xa4, 0x2c), QColor(0x6a, 0x4d, 0x84)};
    const auto pick = [number](const auto& list, std::uint32_t step) { return list[(number * step + number / 3) % list.size()]; };
    const QColor shirt = pick(shirts, 1);
    return {pick(skins, 2), pick(hairs, 3), shirt, QColor(0xdd, 0xdb, 0xd4), shirt.darker(165), QColor(0x2a, 0x2a, 0x2e)};
}

ScenePainter::ScenePainter(const Camera& camera, double height, Hand throwing, const Look& look)
    : m_camera(camera), m_height(height), m_throwing(throwing), m_look(look), m_backdrop(paintBackdrop(camera))
{
}

QImage ScenePainter::paint(const Skeleton& body, std::optional<Vec3> ball) const
{
    QImage image = m_backdrop;
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    const auto capsules = fleshOut(body, m_height, m_throwing);
    paintShadow(painter, m_camera, capsules);

    // far things first
    struct Item {
        double depth;
        int index; // into capsules, or one of those below
    };
    constexpr int kHead = -1, kBall = -2, kTrunk = -3;
    std::vector<Item> items;
    std::vector<const Capsule*> trunk;
    for (const auto& c : capsules)
        if (c.isTrunk)
            trunk.push_back(&c);
    items.push_back({m_camera.depthOf((trunk[0]->a + trunk[0]->b + trunk[1]->a + trunk[1]->b) / 4), kTrunk});
    for (std::size_t i = 0; i < capsules.size(); ++i)
        if (!capsules[i].isTrunk)
            items.push_back(
                {m_camera.depthOf((capsules[i].a + capsules[i].b) / 2) - 0.3 * std::max(capsules[i].radiusA, capsules[i].radiusB),
                 static_cast<int>(i)});
    items.push_back({m_camera.depthOf(body.headCentre) - 0.3 * proportions::kHeadRadius * m_height, kHead});
    if (ball)
        items.push_back({m_camera.depthOf(*ball), kBall});
    std::stable_sort(items.begin(), items.end(), [](const Item& a, const Item& b) { return a.depth > b.depth; });
    for (const auto& item : items) {
        if (item.index == kHead)
            paintHead(painter, m_camera, body, m_height, {m_look.skin, m_look.hair, m_look.cap});
        else if (item.index == kBall)
            paintBall(painter, m_camera, *ball);
        else if (item.index == kTrunk)
            paintTrunk(painter, seen(m_camera, *trunk[0]), seen(m_camera, *trunk[1]), m_look.shirt);
        else {
            const Capsule& c = capsules[static_cast<std::size_t>(item.index)];
            paintCapsule(painter, m_camera, c, colourOf(c.covering, m_look));
        }
    }
    return image;
}

} // namespace kestrel::sim
