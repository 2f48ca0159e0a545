#include "look/body_figure.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <vector>

namespace kestrel::look {

BodyFigure::BodyFigure(const Marking& marking, FrameIndex frame) : m_hand(marking.athlete.hand)
{
    for (const auto& m : marking.marks)
        if (m.frame == frame && m.landmark.part <= Part::Toe)
            m_points[m.landmark] = m.at;
}

BodyFigure BodyFigure::standing(Hand hand)
{
    BodyFigure f;
    f.m_hand = hand;
    struct Place {
        Part part;
        double x, y;
    };
    f.m_points[{Part::Nose, BodySide::None, {}}] = {50, 13};
    f.m_points[{Part::Neck, BodySide::None, {}}] = {50, 24};
    for (const auto& [part, x, y] : {Place{Part::Eye, 3, 10},
                                     {Part::Ear, 7, 12},
                                     {Part::Shoulder, 14, 28},
                                     {Part::Elbow, 22, 45},
                                     {Part::Wrist, 27, 60},
                                     {Part::Hand, 29, 66},
                                     {Part::Hip, 8, 60},
                                     {Part::Knee, 10, 84},
                                     {Part::Ankle, 11, 108},
                                     {Part::Heel, 9, 113},
                                     {Part::Toe, 18, 113}})
        for (const auto side : {BodySide::Left, BodySide::Right}) // chest to the viewer: the athlete's left is at our right
            f.m_points[{part, side, {}}] = {50 + (side == BodySide::Left ? x : -x), y};
    return f;
}

bool BodyFigure::isEmpty() const
{
    const auto has = [this](Part part) {
        return std::any_of(m_points.begin(), m_points.end(), [part](const auto& entry) { return entry.first.part == part; });
    };
    return !(has(Part::Ear) || has(Part::Nose)) || !has(Part::Shoulder) || !has(Part::Hip);
}

double BodyFigure::height() const
{
    double top = 1e9, bottom = -1e9;
    for (const auto& [landmark, p] : m_points) {
        top = std::min(top, p.y);
        bottom = std::max(bottom, p.y);
    }
    return isEmpty() ? 0 : bottom - top;
}

void BodyFigure::paint(QPainter& painter, const QRectF& box, double scale, const Palette& t,
                       const std::optional<Landmark>& highlighted) const
{
    if (isEmpty())
        return;
    QRectF reach;
    for (const auto& [landmark, p] : m_points)
        reach |= QRectF(p.x - 0.5, p.y - 0.5, 1, 1);
    constexpr double kHeadRoom = 1.10; // the head's circle stands out above the ears
    if (scale <= 0)
        scale = std::min(box.height() / (reach.height() * kHeadRoom), box.width() / reach.width());
    const auto at = [&](const ImagePoint& p) {
        return QPointF(box.center().x() + (p.x - reach.center().x()) * scale, box.bottom() - (reach.bottom() - p.y) * scale);
    };
    const auto find = [&](Part part, BodySide side) -> std::optional<QPointF> {
        const auto it = m_points.find(Landmark{part, side, {}});
        return it == m_points.end() ? std::nullopt : std::optional(at(it->second));
    };
    const auto middle = [&](Part part) -> std::optional<QPointF> {
        const auto l = find(part, BodySide::Left), r = find(part, BodySide::Right);
        return l && r ? std::optional((*l + *r) / 2) : l ? l : r;
    };

    const BodySide dominant = m_hand == Hand::Right ? BodySide::Right : BodySide::Left;
    const double width = std::clamp(reach.height() * scale / 34, 1.6, 3.2);
    const auto limb = [&](const std::vector<std::optional<QPointF>>& joints, const QColor& colour, bool dashed) {
        QPen pen(colour, width, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
        if (dashed)
            pen.setDashPattern({2.2, 1.8});
        painter.setPen(pen);
        for (std::size_t i = 1; i < joints.size(); ++i)
            if (joints[i - 1] && joints[i])
                painter.drawLine(*joints[i - 1], *joints[i]);
    };
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    const auto hips = middle(Part::Hip), shoulders = middle(Part::Shoulder);
    for (const auto side : {dominant, opposite(dominant)}) { // the trail side is the dominant one, drawn first
        const bool isTrail = side == dominant;
        const auto shoulder = find(Part::Shoulder, side);
        limb({find(Part::Hip, side) ? find(Part::Hip, side) : hips, find(Part::Knee, side), find(Part::Ankle, side),
              find(Part::Toe, side)},
             t.slate, isTrail);
        limb({shoulder ? shoulder : shoulders, find(Part::Elbow, side), find(Part::Wrist, side), find(Part::Hand, side)},
             isTrail ? t.chestnut : t.slate, false);
    }
    limb({hips, shoulders}, t.ink, false);
    limb({find(Part::Shoulder, BodySide::Left), find(Part::Shoulder, BodySide::Right)}, t.ink, false);
    limb({find(Part::Hip, BodySide::Left), find(Part::Hip, BodySide::Right)}, t.ink, false);
    auto head = middle(Part::Ear);
    if (!head)
        head = find(Part::Nose, BodySide::None);
    if (head) {
        const double radius =
            shoulders && hips ? std::hypot(shoulders->x() - hips->x(), shoulders->y() - hips->y()) * 0.22 : width * 3;
        painter.setPen(QPen(t.ink, width));
        painter.drawEllipse(*head, radius, radius);
    }
    if (highlighted)
        if (const auto it = m_points.find(*highlighted); it != m_points.end()) {
            painter.setPen(QPen(t.ink, 1));
            painter.setBrush(t.eyeRing);
            painter.drawEllipse(at(it->second), 5, 5);
        }
    painter.restore();
}

} // namespace kestrel::look
