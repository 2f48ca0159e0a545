#include "app/bench/bench_tools.h"

#include "app/tools/line_tool.h"
#include "app/tools/point_tool.h"

namespace kestrel::app {

BenchTools::BenchTools(Bench& bench) : m_bench(bench)
{
    const auto draw = [&bench](ImagePoint from, ImagePoint to) { bench.scene.drawLine(from, to); };
    auto look = std::make_unique<LookTool>(bench);
    auto drawing = std::make_unique<DrawTool>(bench);
    m_look = look.get();
    m_drawing = drawing.get();
    m_tools[Tool::Look] = std::move(look);
    m_tools[Tool::Draw] = std::move(drawing);
    m_tools[Tool::Mark] = std::make_unique<MarkTool>(bench, true);
    m_tools[Tool::Point] = std::make_unique<PointTool>([&bench](ImagePoint p) { bench.marks.placePoint(p); });
    m_tools[Tool::PlayerBox] = std::make_unique<LineTool>(draw, LineTool::Shape::Box);
    for (const auto tool : {Tool::ScaleLine, Tool::UpLine, Tool::TargetLine, Tool::GroundMark, Tool::GroundLine})
        m_tools[tool] = std::make_unique<LineTool>(draw);
    m_tools[Tool::Seam] =
        std::make_unique<LineTool>([&bench](ImagePoint middle, ImagePoint mark) { bench.spin.setAngle(middle, mark); });
    QObject::connect(&bench.tools, &ToolBox::toolChanged, &bench, [this] {
        for (const auto& [tool, canvasTool] : m_tools) // nothing half done is left for the next time
            canvasTool->cancel();
    });
}

std::vector<BenchTools::Button> BenchTools::buttons()
{
    return {
        {Tool::Mark, QStringLiteral("mark"), Bench::tr("Mark"), Bench::tr("Mark the body in the guided order"),
         QStringLiteral("mark")},
        {Tool::ScaleLine, QStringLiteral("scale"), Bench::tr("Scale"), Bench::tr("Draw a known length at the athlete's distance"),
         QStringLiteral("scale")},
        {Tool::UpLine, QStringLiteral("up"), Bench::tr("Up"), Bench::tr("Draw a line straight up, against gravity"),
         QStringLiteral("up")},
        {Tool::TargetLine, QStringLiteral("target"), Bench::tr("Target"), Bench::tr("Draw a line toward the target"),
         QStringLiteral("target")},
    };
}

std::vector<BenchTools::DrawButton> BenchTools::drawButtons()
{
    using K = DrawingKind;
    const auto tr = [](const char* words) { return DrawingEditor::tr(words); };
    return {
        {K::Line, QStringLiteral("draw-line"), tr("Draw a line; near a mark it follows the body, with Shift it stays"),
         Qt::Key_L},
        {K::Arrow, QStringLiteral("draw-arrow"), tr("Draw an arrow"), Qt::Key_A},
        {K::Path, QStringLiteral("draw-path"), tr("Draw a line through points; Enter ends it"), Qt::Key_P},
        {K::Circle, QStringLiteral("draw-circle"),
         tr("Draw a circle from its middle: round the head, it says how far the head leaves"), Qt::Key_O},
        {K::Box, QStringLiteral("draw-box"), tr("Draw a box"), Qt::Key_B},
        {K::Angle, QStringLiteral("draw-angle"), tr("Measure an angle: three points, the joint second"), Qt::Key_V},
        {K::Wedge, QStringLiteral("draw-wedge"), tr("Measure between two lines: two points each"), Qt::Key_W},
        {K::Level, QStringLiteral("draw-level"), tr("Draw a level line through a point"), Qt::Key_H},
        {K::Plumb, QStringLiteral("draw-plumb"), tr("Draw a plumb line through a point"), Qt::Key_U},
        {K::Grid, QStringLiteral("draw-grid"),
         tr("Lay a level grid: in metres where the court is marked, else in parts of the height"), Qt::Key_G},
        {K::Clock, QStringLiteral("draw-clock"), tr("Draw a clock face about a point; for left-handers it runs the other way"),
         Qt::Key_K},
        {K::Label, QStringLiteral("draw-label"), tr("Write words on the film"), Qt::Key_T},
        {K::Trail, QStringLiteral("draw-trail"), tr("Show the trail of a marked point, a dot a picture"), Qt::Key_D},
        {K::Strobe, QStringLiteral("draw-strobe"),
         tr("Lay what moves on several pictures into one: of the loop, or of the movement"), Qt::Key_S},
    };
}

std::optional<Landmark> BenchTools::dragged() const
{
    const auto* marks = m_bench.tools.tool() == Tool::Look ? &m_look->marks() : dynamic_cast<const MarkTool*>(inHand());
    return marks ? marks->dragged() : std::nullopt;
}

store::DrawingId BenchTools::draggedDrawing() const
{
    return m_bench.tools.tool() == Tool::Look ? m_look->drawings().dragged() : store::DrawingId();
}

} // namespace kestrel::app
