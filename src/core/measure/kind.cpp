#include "core/measure/kind.h"

#include <cmath>

namespace kestrel {

MeasureInput::MeasureInput(const PreparedRepetition& repetition, std::span<const PointPath> operands, FramePosition from,
                           FramePosition to)
    : m_repetition(&repetition), m_operands(operands), m_from(from), m_to(to), m_nominalFrom(from), m_nominalTo(to)
{
}

MeasureInput MeasureInput::under(ErrorSample sample, double fromShift, double toShift) const
{
    MeasureInput other = *this;
    other.m_draw = sample;
    other.m_from = FramePosition(m_nominalFrom.value + fromShift);
    other.m_to = FramePosition(m_nominalTo.value + toShift);
    return other;
}

MeasureInput MeasureInput::until(FramePosition end) const
{
    MeasureInput other = *this;
    other.m_to = other.m_nominalTo = end;
    return other;
}

double MeasureInput::duration() const
{
    const auto a = m_repetition->clock().timeOf(m_from), b = m_repetition->clock().timeOf(m_to);
    return a && b ? *b - *a : 0;
}

std::optional<BodyPoint> MeasureInput::pointAt(std::size_t operand, FramePosition shifted, FramePosition nominal) const
{
    if (const auto p = m_operands[operand].at(shifted, m_draw))
        return p;
    return m_operands[operand].at(nominal, m_draw);
}

void MeasureInput::alongSpan(std::size_t operand, const std::function<void(FramePosition, BodyPoint)>& visit) const
{
    if (const auto p = pointAtStart(operand))
        visit(m_from, *p);
    for (auto f = static_cast<std::int64_t>(std::floor(m_from.value)) + 1; static_cast<double>(f) < m_to.value; ++f)
        if (const auto p = m_operands[operand].smoothOn(FrameIndex(f), m_draw))
            visit(FramePosition(FrameIndex(f)), *p);
    if (m_to > m_from)
        if (const auto p = point(operand))
            visit(m_to, *p);
}

void MeasureInput::eachMarked(std::size_t operand, const std::function<void(FramePosition, BodyPoint)>& visit) const
{
    for (auto f = static_cast<std::int64_t>(std::ceil(m_from.value)); static_cast<double>(f) <= m_to.value; ++f)
        if (const auto p = m_operands[operand].markAt(FramePosition(FrameIndex(f)), m_draw))
            visit(FramePosition(FrameIndex(f)), *p);
}

NoReading MeasureInput::missing() const
{
    for (std::size_t i = 0; i < m_operands.size(); ++i) {
        const bool atEnd = point(i).has_value();
        if (atEnd && pointAtStart(i))
            continue;
        const auto frame = (atEnd ? m_nominalFrom : m_nominalTo).nearest().value;
        return {Verdict::NotMarked,
                "Mark " + nameOf(m_operands[i].role()) + " on frame " + std::to_string(frame) + " to read this."};
    }
    return {Verdict::NotMarked, "Two of the marked points lie on each other."};
}

namespace {
constexpr View kAlong[] = {View::Side, View::SideBack, View::Overhead};
constexpr View kAcross[] = {View::Front, View::Rear};
constexpr View kAny[] = {View::Side, View::SideBack, View::Front, View::Rear, View::Overhead, View::Diagonal};
constexpr View kAbove[] = {View::Overhead};
} // namespace

std::span<const View> viewsAbove()
{
    return kAbove;
}
std::span<const View> viewsAlong()
{
    return kAlong;
}
std::span<const View> viewsAcross()
{
    return kAcross;
}
std::span<const View> viewsAny()
{
    return kAny;
}

void addSegment(Figure& figure, std::initializer_list<std::optional<ImagePoint>> points)
{
    Stroke s{Stroke::Kind::Segment, {}};
    for (const auto& p : points) {
        if (!p)
            return;
        s.points.push_back(*p);
    }
    figure.strokes.push_back(std::move(s));
}

void addGuide(Figure& figure, ImagePoint from, ImagePoint to)
{
    figure.strokes.push_back({Stroke::Kind::Guide, {from, to}});
}

void addArc(Figure& figure, std::optional<ImagePoint> a, std::optional<ImagePoint> vertex, std::optional<ImagePoint> b)
{
    if (a && vertex && b)
        figure.strokes.push_back({Stroke::Kind::Arc, {*a, *vertex, *b}});
}

void addDot(Figure& figure, std::optional<ImagePoint> p)
{
    if (p)
        figure.strokes.push_back({Stroke::Kind::Dot, {*p}});
}

} // namespace kestrel
