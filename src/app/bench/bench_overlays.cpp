#include "app/bench/bench_overlays.h"

#include <iterator>

namespace kestrel::app {

namespace {

constexpr std::int64_t kGap = 2; // pictures; over a longer one a way is not drawn

/// What of the scene belongs to the tool in hand: the scale's line, faint, or the places of the court.
void addScene(const Bench& bench, std::vector<look::Overlay>& into)
{
    const auto& scene = bench.context.marking().scene;
    const Tool tool = bench.tools.tool();
    if (scene.scale && tool == Tool::ScaleLine)
        into.emplace_back(look::LineOverlay{scene.scale->from, scene.scale->to, look::LineOverlay::Style::Faint});
    if (tool != Tool::GroundMark && tool != Tool::GroundLine)
        return;
    for (const GroundMark& g : scene.ground)
        into.emplace_back(look::PlaceOverlay{g.at, Bench::tr("%1, %2 m").arg(g.x).arg(g.y)});
    if (const auto& line = bench.scene.groundLine())
        into.emplace_back(look::LineOverlay{line->from, line->to, look::LineOverlay::Style::Drawn, line->text});
}

/// The way of the chosen point through the film.
void addTrajectory(const Bench& bench, std::vector<look::Overlay>& into)
{
    if (!bench.marks.selectedMark())
        return;
    look::TrajectoryOverlay trajectory;
    const Mark* before = nullptr;
    for (const auto& m : bench.context.marking().marks) // in the order of the film
        if (m.landmark == *bench.marks.selectedMark()) {
            if (!before || m.frame.value - before->frame.value > kGap)
                trajectory.pieces.emplace_back();
            trajectory.pieces.back().push_back(m.at);
            before = &m;
        }
    into.emplace_back(std::move(trajectory));
}

void addMarks(const Bench& bench, const std::optional<Landmark>& hidden, std::vector<look::Overlay>& into)
{
    const auto hand = bench.context.marking().athlete.hand;
    for (const auto& m : bench.marks.marksOn(bench.player.pictured())) {
        if (hidden == m.landmark)
            continue;
        look::MarkOverlay mark;
        mark.at = m.at;
        mark.isChosen = bench.marks.selectedMark() == m.landmark;
        mark.isTrail = m.landmark.side != BodySide::None && (m.landmark.side == BodySide::Right) == (hand == Hand::Right);
        mark.isByProgram = m.source != Source::Coach;
        mark.isVisible = m.visible;
        mark.sigma = m.sigma;
        if (mark.isChosen)
            mark.name = plainName(m.landmark, hand, bench.context.pack());
        into.emplace_back(std::move(mark));
    }
}

void addReading(const Bench& bench, std::vector<look::Overlay>& into)
{
    if (const Reading* r = bench.review.shownReading())
        into.emplace_back(look::readingOverlay(*r));
}

void append(std::vector<look::Overlay> more, std::vector<look::Overlay>& to)
{
    to.insert(to.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
}

} // namespace

std::vector<look::Overlay> stillOverlays(const Bench& bench)
{
    std::vector<look::Overlay> overlays;
    if (const auto& line = bench.scene.groundLine())
        overlays.emplace_back(look::LineOverlay{line->from, line->to, look::LineOverlay::Style::Drawn, line->text});
    addReading(bench, overlays);
    append(bench.drawings.stillOverlaysOn(bench.player.frame()), overlays);
    return overlays;
}

std::vector<look::Overlay> benchOverlays(const Bench& bench, const std::optional<Landmark>& hidden,
                                         store::DrawingId hiddenDrawing)
{
    std::vector<look::Overlay> overlays;
    addScene(bench, overlays);
    append(bench.drawings.overlaysOn(bench.player.pictured(), hiddenDrawing), overlays);
    addTrajectory(bench, overlays);
    addMarks(bench, hidden, overlays);
    if (bench.player.pictured() == bench.player.frame()) // nothing of one picture is drawn on another
        addReading(bench, overlays);
    return overlays;
}

} // namespace kestrel::app
