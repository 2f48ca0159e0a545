#include "app/bench/mark_tool.h"

#include <utility>

namespace kestrel::app {

namespace {

constexpr double kHitRadius = 14; // pixels of the canvas
constexpr double kSlip = 2;       // a shorter drag is a click

} // namespace

std::optional<Landmark> MarkTool::markAt(const CanvasPoint& p) const
{
    std::optional<Landmark> nearest;
    double best = kHitRadius;
    for (const auto& m : m_bench.marks.marksHere())
        if (const double distance = (m.at - p.film).length() * p.scale; distance < best) {
            best = distance;
            nearest = m.landmark;
        }
    return nearest;
}

bool MarkTool::press(const CanvasPoint& p)
{
    if (!m_bench.context.isOpen())
        return false;
    m_pressed = p.widget;
    m_hasMoved = false;
    m_dragged = markAt(p);
    m_bench.marks.selectMark(m_dragged);
    return m_dragged || m_hasGuide;
}

void MarkTool::move(const CanvasPoint& p)
{
    m_hasMoved = m_hasMoved || (p.widget - m_pressed).manhattanLength() > kSlip;
}

void MarkTool::release(const CanvasPoint& p)
{
    move(p);
    const auto dragged = std::exchange(m_dragged, std::nullopt);
    if (dragged && m_hasMoved) {
        m_bench.marks.moveMark(*dragged, p.film);
    } else if (m_hasGuide && (!dragged || m_bench.marks.nextLandmark())) {
        m_bench.marks.selectMark({}); // joints lie close together: a click that drags nothing is meant for the next point
        m_bench.marks.placeMark(p.film);
    }
}

void MarkTool::cancel()
{
    m_dragged.reset();
}

} // namespace kestrel::app
