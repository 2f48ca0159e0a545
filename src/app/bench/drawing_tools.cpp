#include "app/bench/drawing_tools.h"

#include "core/base/segment.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <utility>

namespace kestrel::app {

namespace {

constexpr double kPinRadius = 14;  // pixels of the canvas to a mark that is followed
constexpr double kHitRadius = 9;   // to a line that is taken hold of
constexpr double kSlip = 4;        // a shorter drag is a click
constexpr double kLeastRadius = 6; // pixels of the film

/// What coaches mean to follow the body; a circle, a box and a grid stay while the body moves.
bool followsBody(DrawingKind kind)
{
    return kind != DrawingKind::Circle && kind != DrawingKind::Box && kind != DrawingKind::Grid && kind != DrawingKind::Label;
}

double distanceTo(const Stroke& s, ImagePoint p)
{
    double nearest = std::numeric_limits<double>::infinity();
    if (s.kind == Stroke::Kind::Circle && s.points.size() == 2)
        return std::abs((p - s.points[0]).length() - (s.points[1] - s.points[0]).length());
    if (s.kind == Stroke::Kind::Arc)
        return nearest;
    if (s.points.size() == 1)
        return (p - s.points[0]).length();
    for (std::size_t i = 1; i < s.points.size(); ++i)
        nearest = std::min(nearest, distanceToSegment(p, s.points[i - 1], s.points[i]));
    return nearest;
}

double distanceTo(const DrawnShape& shape, ImagePoint p)
{
    double nearest = std::numeric_limits<double>::infinity();
    for (const auto& s : shape.figure.strokes)
        nearest = std::min(nearest, distanceTo(s, p));
    for (const auto& [at, words] : shape.words)
        nearest = std::min(nearest, (at - p).length() / 2); // words are wider than a line
    return nearest;
}

std::optional<std::size_t> endAt(const DrawnShape& shape, const CanvasPoint& p)
{
    for (std::size_t i = 0; i < shape.ends.size(); ++i)
        if ((shape.ends[i] - p.film).length() * p.scale < kHitRadius)
            return i;
    return std::nullopt;
}

look::Overlay overlayOf(const Bench& bench, const Drawing& d)
{
    look::DrawingOverlay overlay;
    overlay.isThick = d.isThick;
    overlay.isChosen = true;
    Drawing here = d; // seen while it is made, wherever it will live
    here.lives = {Lives::On::Stretch, {bench.player.pictured(), bench.player.pictured()}, {}};
    if (d.kind == DrawingKind::Trail)
        here.lives = d.lives;
    if (auto shape = bench.drawings.shapeOn(here, bench.player.pictured()))
        overlay.shape = std::move(*shape);
    return overlay;
}

} // namespace

// DrawTool

Pin DrawTool::pinAt(const CanvasPoint& p) const
{
    if (!p.isFree && followsBody(m_bench.tools.drawing()))
        if (const Mark* mark = m_bench.drawings.markNear(p.film, kPinRadius / p.scale, m_bench.player.frame()))
            return {mark->at, mark->landmark};
    return {p.film, std::nullopt};
}

/// With the points set so far and the next one, if there are enough.
std::optional<Drawing> DrawTool::drawn(const std::optional<Pin>& next) const
{
    Drawing d;
    d.kind = m_bench.tools.drawing();
    d.lives = m_bench.drawings.usualLives(d.kind);
    d.at = m_pins;
    if (next)
        d.at.push_back(*next);
    if (hasRadius(d.kind)) {
        if (d.at.size() < 2)
            return std::nullopt;
        d.radius = std::max(kLeastRadius, (d.at[1].at - d.at[0].at).length());
        d.at.resize(1);
    }
    const auto [least, most] = pinCountOf(d.kind);
    if (d.at.size() < least)
        return std::nullopt;
    d.at.resize(std::min(d.at.size(), most));
    if (d.kind == DrawingKind::Label)
        d.text = DrawingEditor::tr("words").toStdString();
    return d;
}

bool DrawTool::press(const CanvasPoint& p)
{
    if (!m_bench.context.isOpen())
        return false;
    m_pressed = p.widget;
    const Pin pin = pinAt(p);
    if (m_bench.tools.drawing() == DrawingKind::Trail && !pin.landmark) {
        emit m_bench.message(DrawingEditor::tr("Click a marked point: the trail shows where it was on each picture."));
        return true;
    }
    const bool isSame = !m_pins.empty() && (m_pins.back().at - pin.at).length() * p.scale < kSlip;
    if (isSame) { // pressed twice: the line through points ends here
        finish();
        return true;
    }
    m_pins.push_back(pin);
    m_next.reset();
    addIfDone();
    return true;
}

void DrawTool::move(const CanvasPoint& p)
{
    if (!m_pins.empty())
        m_next = pinAt(p);
}

void DrawTool::hover(const CanvasPoint& p)
{
    move(p);
}

void DrawTool::release(const CanvasPoint& p)
{
    if (m_pins.empty() || (p.widget - m_pressed).manhattanLength() <= kSlip)
        return;
    m_pins.push_back(pinAt(p));
    m_next.reset();
    addIfDone();
}

void DrawTool::cancel()
{
    m_pins.clear();
    m_next.reset();
}

/// When no more points are to come.
bool DrawTool::addIfDone()
{
    const auto kind = m_bench.tools.drawing();
    const std::size_t wanted = hasRadius(kind) ? 2 : pinCountOf(kind).most;
    return m_pins.size() >= wanted && finish();
}

bool DrawTool::finish()
{
    const auto d = drawn(std::nullopt);
    if (!d)
        return false;
    cancel();
    m_bench.tools.setTool(Tool::Look);
    m_bench.drawings.add(*d);
    return true;
}

std::vector<look::Overlay> DrawTool::overlays() const
{
    if (m_pins.empty())
        return {};
    if (const auto d = drawn(m_next))
        return {overlayOf(m_bench, *d)};
    look::DrawingOverlay points; // not yet enough of them
    points.isChosen = true;
    for (const auto& pin : m_pins)
        points.shape.ends.push_back(pin.at);
    if (m_next && m_pins.size() + 1 < 4 + pinCountOf(m_bench.tools.drawing()).least) {
        points.shape.ends.push_back(m_next->at);
        points.shape.figure.strokes.push_back({Stroke::Kind::Segment, points.shape.ends});
    }
    return {points};
}

// DrawingGrip

bool DrawingGrip::take(const store::DrawingRow& row, const DrawnShape& shape, std::optional<std::size_t> end,
                       const CanvasPoint& p)
{
    m_isDragging = true;
    m_hasMoved = false;
    m_end = end;
    m_before = m_after = row;
    m_places = shape.ends;
    m_pressed = p;
    m_bench.drawings.choose(row.id);
    return true;
}

bool DrawingGrip::pressChosenEnd(const CanvasPoint& p)
{
    const auto* row = m_bench.drawings.chosenRow();
    const auto shape = row ? m_bench.drawings.shapeOn(row->drawing, m_bench.player.pictured()) : std::nullopt;
    const auto end = shape ? endAt(*shape, p) : std::nullopt;
    return end && take(*row, *shape, end, p);
}

bool DrawingGrip::press(const CanvasPoint& p)
{
    if (m_bench.drawings.areHidden())
        return false;
    const store::DrawingRow* nearest = nullptr;
    DrawnShape shape;
    double best = kHitRadius;
    for (const auto& row : m_bench.drawings.all())
        if (auto here = m_bench.drawings.shapeOn(row.drawing, m_bench.player.pictured()))
            if (const double distance = distanceTo(*here, p.film) * p.scale; distance < best) {
                best = distance;
                nearest = &row;
                shape = std::move(*here);
            }
    return nearest && take(*nearest, shape, endAt(shape, p), p);
}

void DrawingGrip::move(const CanvasPoint& p)
{
    if (!m_isDragging)
        return;
    m_hasMoved = m_hasMoved || (p.widget - m_pressed.widget).manhattanLength() > kSlip;
    if (!m_hasMoved)
        return;
    m_after = m_before;
    auto& d = m_after.drawing;
    if (m_end && *m_end < d.at.size()) {
        const Mark* mark = p.isFree || !followsBody(d.kind)
                               ? nullptr
                               : m_bench.drawings.markNear(p.film, kPinRadius / p.scale, m_bench.player.frame());
        if (d.kind == DrawingKind::Trail && !mark)
            return;
        d.at[*m_end] = mark ? Pin{mark->at, mark->landmark} : Pin{p.film, std::nullopt};
    } else if (m_end) { // the rim
        d.radius = std::max(kLeastRadius, (p.film - m_places[0]).length());
    } else if (d.kind != DrawingKind::Trail) {
        for (std::size_t i = 0; i < d.at.size(); ++i)
            d.at[i] = {m_places[i] + (p.film - m_pressed.film), std::nullopt};
    }
}

void DrawingGrip::release(const CanvasPoint& p)
{
    move(p);
    if (std::exchange(m_isDragging, false) && m_hasMoved)
        m_bench.drawings.change(DrawingEditor::tr("move %1").arg(nameOf(m_after.drawing.kind)), m_after);
}

void DrawingGrip::cancel()
{
    m_isDragging = false;
}

std::vector<look::Overlay> DrawingGrip::overlays() const
{
    if (!dragged().isValid())
        return {};
    return {overlayOf(m_bench, m_after.drawing)};
}

// LookTool

bool LookTool::press(const CanvasPoint& p)
{
    m_inHand = nullptr;
    if (m_drawings.pressChosenEnd(p)) {
        m_bench.marks.selectMark({});
        m_inHand = &m_drawings;
    } else if (m_marks.press(p)) {
        m_bench.drawings.choose({});
        m_inHand = &m_marks;
    } else if (m_drawings.press(p)) {
        m_inHand = &m_drawings;
    } else {
        m_bench.drawings.choose({});
    }
    return m_inHand != nullptr;
}

void LookTool::move(const CanvasPoint& p)
{
    if (m_inHand)
        m_inHand->move(p);
}

void LookTool::release(const CanvasPoint& p)
{
    if (auto* tool = std::exchange(m_inHand, nullptr))
        tool->release(p);
}

void LookTool::cancel()
{
    if (auto* tool = std::exchange(m_inHand, nullptr))
        tool->cancel();
}

} // namespace kestrel::app
