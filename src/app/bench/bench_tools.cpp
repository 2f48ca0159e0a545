#include "app/bench/bench_tools.h"

#include "app/tools/line_tool.h"
#include "app/tools/point_tool.h"

namespace kestrel::app {

BenchTools::BenchTools(Bench& bench) : m_bench(bench)
{
    const auto draw = [&bench](ImagePoint from, ImagePoint to) { bench.scene.drawLine(from, to); };
    m_tools[Tool::Look] = std::make_unique<MarkTool>(bench, false);
    m_tools[Tool::Mark] = std::make_unique<MarkTool>(bench, true);
    m_tools[Tool::Point] = std::make_unique<PointTool>([&bench](ImagePoint p) { bench.marks.placePoint(p); });
    m_tools[Tool::PlayerBox] = std::make_unique<LineTool>(draw, LineTool::Shape::Box);
    for (const auto tool : {Tool::ScaleLine, Tool::UpLine, Tool::TargetLine, Tool::GroundMark, Tool::GroundLine})
        m_tools[tool] = std::make_unique<LineTool>(draw);
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

std::optional<Landmark> BenchTools::dragged() const
{
    const auto* marks = dynamic_cast<const MarkTool*>(inHand());
    return marks ? marks->dragged() : std::nullopt;
}

} // namespace kestrel::app
