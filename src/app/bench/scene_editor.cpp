#include "app/bench/scene_editor.h"

#include "app/workspace/row_edits.h"
#include "core/read/reading.h"
#include "core/scene/ground_plane.h"

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr double kShortestLine = 8; // pixels; a shorter drag is a slip

} // namespace

SceneEditor::SceneEditor(Workspace& workspace, ClipContext& context, ToolBox& tools, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_context(context), m_tools(tools)
{
    connect(&m_tools, &ToolBox::toolChanged, this, [this] {
        m_groundLine.reset();
        emit groundChanged();
    });
}

void SceneEditor::editClip(const QString& text, const store::Clip& after)
{
    const store::Clip before = m_context.clip();
    if (before == after)
        return;
    m_workspace.edit(
        text, [after](store::Library& l) { return l.save(after); }, [before](store::Library& l) { return l.save(before); });
}

void SceneEditor::drawLine(ImagePoint from, ImagePoint to)
{
    if (m_tools.tool() == Tool::GroundMark) { // the next one may follow
        emit groundPlaced(to);
        return;
    }
    const ImageVector d = to - from;
    if (d.length() < kShortestLine) {
        if (m_tools.tool() == Tool::PlayerBox) { // a click is enough to choose the player
            emit playerDrawn(to, 0, 0);
            m_tools.setTool(Tool::Look);
        }
        return;
    }
    if (m_tools.tool() == Tool::GroundLine) {
        measureOnGround(from, to);
        return;
    }
    store::Clip after = m_context.clip();
    if (m_tools.tool() == Tool::ScaleLine) {
        after.scene.scale = Scale{from, to, m_knownLength};
        editClip(tr("set the scale"), after);
    } else if (m_tools.tool() == Tool::UpLine) {
        after.scene.up = d * (1 / d.length());
        editClip(tr("set up"), after);
    } else if (m_tools.tool() == Tool::TargetLine) {
        const ImageVector right{-after.scene.up.y, after.scene.up.x};
        const double along = dot(d, right), upward = dot(d, after.scene.up);
        after.scene.target = std::abs(along) >= std::abs(upward) ? (along > 0 ? TargetDirection::Right : TargetDirection::Left)
                                                                 : (upward > 0 ? TargetDirection::Away : TargetDirection::Toward);
        editClip(tr("set the target direction"), after);
    } else if (m_tools.tool() == Tool::PlayerBox) {
        emit playerDrawn({std::min(from.x, to.x), std::min(from.y, to.y)}, std::abs(d.x), std::abs(d.y));
    }
    m_tools.setTool(Tool::Look);
}

void SceneEditor::measureOnGround(ImagePoint from, ImagePoint to)
{
    const auto plane = GroundPlane::fit(m_context.clip().scene.ground);
    const auto distance = plane ? plane->distance(from, to, kCarefulClick) : std::nullopt;
    if (!distance) {
        emit message(plane ? tr("A point at or above the horizon does not lie on the ground.")
                           : QString::fromStdString(plane.error().text()));
        return;
    }
    m_groundLine = {from, to, tr("%1 ± %2 m").arg(distance->metres, 0, 'f', 2).arg(kWhisker * distance->sigma, 0, 'f', 2)};
    emit message(m_groundLine->text + tr(" on the ground. ") + tr(kGroundCaution));
    emit groundChanged();
}

void SceneEditor::addGroundMark(const GroundMark& mark)
{
    store::Clip after = m_context.clip();
    auto& ground = after.scene.ground;
    std::erase_if(ground, [&](const GroundMark& g) { return (g.at - mark.at).length() < kShortestLine; });
    ground.push_back(mark);
    editClip(tr("mark the ground"), after);
    if (ground.size() < kLeastGroundMarks) {
        emit message(tr("Place %1 of at least %2 is marked.").arg(ground.size()).arg(kLeastGroundMarks));
        return;
    }
    const auto plane = GroundPlane::fit(ground);
    emit message(plane ? tr("The ground is known; its places fit within %1 pixels. Drag a line with Measure on the ground. ")
                                 .arg(*std::max_element(plane->misses().begin(), plane->misses().end()), 0, 'f', 1) +
                             tr(kGroundCaution)
                       : QString::fromStdString(plane.error().text()));
}

void SceneEditor::forgetGround()
{
    store::Clip after = m_context.clip();
    after.scene.ground.clear();
    editClip(tr("forget the ground"), after);
}

void SceneEditor::setView(View view)
{
    store::Clip after = m_context.clip();
    after.scene.view = view;
    after.scene.target =
        usualTargetDirection(view, m_context.marking().athlete.hand, m_context.pack() && m_context.pack()->leadIsDom());
    editClip(tr("set the view"), after);
}

void SceneEditor::setRates(Rates rates)
{
    store::Clip after = m_context.clip();
    after.clock = rates;
    editClip(tr("set the frame rates"), after);
}

void SceneEditor::setVariant(const std::string& variant)
{
    store::RepetitionRow after = m_context.repetition();
    after.variant = variant;
    if (!(after == m_context.repetition()))
        changeRow(m_workspace, tr("set the kind"), m_context.repetition(), after);
}

} // namespace kestrel::app
