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

std::optional<ImagePoint> BodyFigure::find(Part part, BodySide side) const
{
    const auto it = m_points.find(Landmark{part, side, {}});
    return it == m_points.end() ? std::nullopt : std::optional(it->second);
}

std::optional<ImagePoint> BodyFigure::middle(Part part) const
{
    const auto l = find(part, BodySide::Left), r = find(part, BodySide::Right);
    return l && r ? std::optional(midpoint(*l, *r)) : l ? l : r;
}

/// In the order in which they are drawn: the trail side is the dominant one, and comes first.
std::vector<BodyFigure::Limb> BodyFigure::limbs() const
{
    std::vector<Limb> all;
    const auto add = [&](Limb::Tone tone, const std::vector<std::optional<ImagePoint>>& joints, bool isTrailLeg = false) {
        Limb piece{tone, {}, isTrailLeg}; // a joint that is missing breaks it
        const auto finish = [&] {
            if (piece.points.size() > 1)
                all.push_back(piece);
            piece.points.clear();
        };
        for (const auto& joint : joints)
            joint ? piece.points.push_back(*joint) : finish();
        finish();
    };
    const BodySide dominant = m_hand == Hand::Right ? BodySide::Right : BodySide::Left;
    const auto hips = middle(Part::Hip), shoulders = middle(Part::Shoulder);
    for (const auto side : {dominant, opposite(dominant)}) {
        const auto hip = find(Part::Hip, side), shoulder = find(Part::Shoulder, side);
        add(Limb::Tone::Leg, {hip ? hip : hips, find(Part::Knee, side), find(Part::Ankle, side), find(Part::Toe, side)},
            side == dominant);
        add(side == dominant ? Limb::Tone::DominantArm : Limb::Tone::OtherArm,
            {shoulder ? shoulder : shoulders, find(Part::Elbow, side), find(Part::Wrist, side), find(Part::Hand, side)});
    }
    add(Limb::Tone::Trunk, {hips, shoulders});
    add(Limb::Tone::Trunk, {find(Part::Shoulder, BodySide::Left), find(Part::Shoulder, BodySide::Right)});
    add(Limb::Tone::Trunk, {find(Part::Hip, BodySide::Left), find(Part::Hip, BodySide::Right)});
    return all;
}

std::vector<std::vector<ImagePoint>> BodyFigure::lines() const
{
    std::vector<std::vector<ImagePoint>> all;
    for (auto& limb : limbs())
        all.push_back(std::move(limb.points));
    return all;
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
    const double width = std::clamp(reach.height() * scale / 34, 1.6, 3.2);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    for (const auto& limb : limbs()) {
        const QColor colour = limb.tone == Limb::Tone::Trunk         ? t.ink
                              : limb.tone == Limb::Tone::DominantArm ? t.chestnut
                                                                     : t.slate;
        QPen pen(colour, width, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
        if (limb.isTrailLeg)
            pen.setDashPattern({2.2, 1.8});
        painter.setPen(pen);
        for (std::size_t i = 1; i < limb.points.size(); ++i)
            painter.drawLine(at(limb.points[i - 1]), at(limb.points[i]));
    }
    const auto hips = middle(Part::Hip), shoulders = middle(Part::Shoulder);
    auto head = middle(Part::Ear);
    if (!head)
        head = find(Part::Nose, BodySide::None);
    if (head) {
        const double radius = shoulders && hips ? (*shoulders - *hips).length() * scale * 0.22 : width * 3;
        painter.setPen(QPen(t.ink, width));
        painter.drawEllipse(at(*head), radius, radius);
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
