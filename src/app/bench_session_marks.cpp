// What the coach does to the repetition on the bench: key positions, answers, marks and the scene.

#include "app/bench_session.h"
#include "app/row_edits.h"
#include "core/doubt.h"
#include "core/ground_plane.h"

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr double kShortestLine = 8; // pixels; a shorter drag is a slip

} // namespace

// ---- marking

void BenchSession::setTool(Tool tool)
{
    if (tool == m_tool)
        return;
    m_tool = tool;
    m_groundLine.reset();
    emit toolChanged();
}

void BenchSession::editEvent(const QString& text, const std::string& id, const std::optional<Event>& after)
{
    const Event* present = findEvent(m_marking, id);
    const std::optional<Event> before = present ? std::optional(*present) : std::nullopt;
    if (before == after)
        return;
    const auto repetition = m_repetition.id;
    m_workspace.edit(
        text, [=](store::Library& l) { return l.setEvent(repetition, id, after); },
        [=](store::Library& l) { return l.setEvent(repetition, id, before); });
}

void BenchSession::placeKeyPosition(std::size_t ordinal)
{
    if (m_pack && ordinal < m_pack->keyPositions.size())
        moveKeyPosition(m_pack->keyPositions[ordinal].id, m_frame);
}

void BenchSession::moveKeyPosition(const std::string& id, FrameIndex f)
{
    const KeyPosition* k = m_pack ? m_pack->findKeyPosition(id) : nullptr;
    if (!k)
        return;
    f = clamped(f);
    editEvent(tr("place %1").arg(QString::fromStdString(k->name)), id,
              Event{id, FramePosition(static_cast<double>(f.value)), 0.5, Source::Coach});
    emit frameChanged(); // the key position here may have changed
}

void BenchSession::removeKeyPosition(const std::string& id)
{
    const KeyPosition* k = m_pack ? m_pack->findKeyPosition(id) : nullptr;
    editEvent(tr("remove %1").arg(QString::fromStdString(k ? k->name : id)), id, std::nullopt);
    emit frameChanged();
}

bool BenchSession::isTaught(const std::string& fault) const
{
    return m_athlete.notYetTaught.count({m_day.skill, fault}) == 0;
}

void BenchSession::setTaught(const std::string& fault, bool taught)
{
    const store::Athlete before = m_athlete;
    store::Athlete after = before;
    if (taught)
        after.notYetTaught.erase({m_day.skill, fault});
    else
        after.notYetTaught.emplace(m_day.skill, fault);
    if (after == before)
        return;
    m_workspace.edit(
        taught ? tr("taught") : tr("not yet taught"), [after](store::Library& l) { return l.save(after); },
        [before](store::Library& l) { return l.save(before); });
}

void BenchSession::answer(const std::string& observation, const std::optional<std::string>& choice)
{
    const auto given = m_marking.answers.find(observation);
    const std::optional<std::string> before = given == m_marking.answers.end() ? std::nullopt : std::optional(given->second);
    if (before == choice)
        return;
    const auto repetition = m_repetition.id;
    m_workspace.edit(
        tr("answer"), [=](store::Library& l) { return l.setAnswer(repetition, observation, choice); },
        [=](store::Library& l) { return l.setAnswer(repetition, observation, before); });
}

std::vector<Landmark> BenchSession::landmarksAsked(const std::string& keyPosition) const
{
    return m_pack ? landmarksAt(*m_pack, keyPosition, m_marking.scene.view, m_marking.athlete.hand, m_marking.variant, m_extent)
                  : std::vector<Landmark>{};
}

std::optional<Landmark> BenchSession::nextLandmark() const
{
    const KeyPosition* here = keyPositionHere();
    if (!here)
        return std::nullopt;
    for (const auto& l : landmarksAsked(here->id))
        if (!findMark(m_marking, m_frame, l) && !m_skipped.count({m_frame.value, l}))
            return l;
    return std::nullopt;
}

std::pair<int, int> BenchSession::guideCount() const
{
    const KeyPosition* here = keyPositionHere();
    if (!here)
        return {0, 0};
    const auto asked = landmarksAsked(here->id);
    const auto marked = std::count_if(asked.begin(), asked.end(),
                                      [this](const Landmark& l) { return findMark(m_marking, m_frame, l) != nullptr; });
    return {static_cast<int>(marked), static_cast<int>(asked.size())};
}

void BenchSession::setExtent(MarkExtent extent)
{
    if (extent == m_extent)
        return;
    m_extent = extent;
    emit toolChanged();
}

void BenchSession::skipLandmark()
{
    if (const auto l = nextLandmark()) {
        m_skipped.insert({m_frame.value, *l});
        goOn();
        emit markingChanged();
    }
}

void BenchSession::editMark(const QString& text, FrameIndex frame, const Landmark& landmark, const std::optional<Mark>& after)
{
    const Mark* present = findMark(m_marking, frame, landmark);
    const std::optional<Mark> before = present ? std::optional(*present) : std::nullopt;
    if (before == after)
        return;
    const auto clip = m_clip.id;
    m_workspace.edit(
        text, [=](store::Library& l) { return l.setMark(clip, frame, landmark, after); },
        [=](store::Library& l) { return l.setMark(clip, frame, landmark, before); });
}

void BenchSession::placeMark(ImagePoint p)
{
    const auto landmark = nextLandmark();
    if (!landmark) {
        emit message(keyPositionHere() ? tr("Everything asked for here is marked. Drag a point to correct it.")
                                       : tr("Stand at a key position first: press its number, or ↓ for the next one."));
        return;
    }
    moveMark(*landmark, p);
    goOn();
}

/// When nothing is left to mark here, on to the next key position where something is.
void BenchSession::goOn()
{
    if (nextLandmark())
        return;
    const FrameIndex start = m_frame;
    std::vector<std::int64_t> later;
    for (const auto& e : m_marking.events)
        if (std::llround(e.frame.value) > start.value)
            later.push_back(std::llround(e.frame.value));
    std::sort(later.begin(), later.end());
    for (const auto f : later) {
        setFrame(FrameIndex(f));
        if (nextLandmark())
            return;
    }
    setFrame(start);
    emit message(tr("All points are marked."));
}

void BenchSession::moveMark(const Landmark& landmark, ImagePoint p)
{
    const Mark* before = findMark(m_marking, m_frame, landmark);
    const bool wasFollowed = before && before->source == Source::Tracked;
    editMark(tr("mark %1").arg(plainName(landmark, m_marking.athlete.hand, m_pack)), m_frame, landmark,
             Mark{m_frame, landmark, p, kCarefulClick, Source::Coach, true});
    if (wasFollowed)
        emit pointCorrected(landmark);
}

void BenchSession::placePoint(ImagePoint p)
{
    const auto isTaken = [this](const Landmark& l) {
        return std::any_of(m_marking.marks.begin(), m_marking.marks.end(), [&](const Mark& m) { return m.landmark == l; });
    };
    int number = 1;
    const auto landmark = [&] { return Landmark{Part::Reference, BodySide::None, "point" + std::to_string(number)}; };
    while (isTaken(landmark()))
        ++number;
    setTool(Tool::Look);
    moveMark(landmark(), p);
    selectMark(landmark());
    emit pointCorrected(landmark());
}

void BenchSession::goToDoubt()
{
    if (!m_pack)
        return;
    const auto doubts = findDoubts(*m_pack, m_marking);
    const auto next = std::find_if(doubts.begin(), doubts.end(), [this](const Doubt& d) {
        return m_lookedAt.count({d.frame.value, d.landmark}) == 0;
    });
    if (next == doubts.end()) {
        emit message(doubts.empty() ? tr("No reading rests on a mark the program made.")
                                    : tr("You have looked at every mark of the program's that a reading rests on."));
        m_lookedAt.clear(); // once more from the start
        return;
    }
    m_lookedAt.insert({next->frame.value, next->landmark});
    setFrame(next->frame);
    selectMark(next->landmark);
    emit message(tr("%1, give or take %2 pixels: drag it if it is wrong; W for the next one (%3 left).")
                     .arg(plainName(next->landmark, m_marking.athlete.hand, m_pack), QString::number(next->sigma, 'f', 0),
                          QString::number(std::count_if(doubts.begin(), doubts.end(), [this](const Doubt& d) {
                              return m_lookedAt.count({d.frame.value, d.landmark}) == 0;
                          }))));
}

void BenchSession::nudgeSelected(double dx, double dy)
{
    if (!m_selectedMark)
        return;
    if (const Mark* m = findMark(m_marking, m_frame, *m_selectedMark))
        moveMark(*m_selectedMark, {m->at.x + dx, m->at.y + dy});
}

void BenchSession::removeSelected()
{
    if (!m_selectedMark)
        return;
    const Landmark l = *m_selectedMark;
    editMark(tr("remove %1").arg(plainName(l, m_marking.athlete.hand, m_pack)), m_frame, l, std::nullopt);
}

void BenchSession::selectMark(std::optional<Landmark> l)
{
    if (l == m_selectedMark)
        return;
    m_selectedMark = std::move(l);
    emit selectionChanged();
}

std::vector<Mark> BenchSession::marksOn(FrameIndex frame) const
{
    std::vector<Mark> here;
    std::copy_if(m_marking.marks.begin(), m_marking.marks.end(), std::back_inserter(here),
                 [frame](const Mark& m) { return m.frame == frame; });
    return here;
}

// ---- the scene

void BenchSession::editClip(const QString& text, const store::Clip& after)
{
    const store::Clip before = m_clip;
    if (before == after)
        return;
    m_workspace.edit(
        text, [after](store::Library& l) { return l.save(after); }, [before](store::Library& l) { return l.save(before); });
}

void BenchSession::drawLine(ImagePoint from, ImagePoint to)
{
    if (m_tool == Tool::GroundMark) { // the next one may follow
        emit groundPlaced(to);
        return;
    }
    const ImageVector d = to - from;
    if (d.length() < kShortestLine) {
        if (m_tool == Tool::PlayerBox) { // a click is enough to choose the player
            emit playerDrawn(to, 0, 0);
            setTool(Tool::Look);
        }
        return;
    }
    if (m_tool == Tool::GroundLine) {
        measureOnGround(from, to);
        return;
    }
    store::Clip after = m_clip;
    if (m_tool == Tool::ScaleLine) {
        after.scene.scale = Scale{from, to, m_knownLength};
        editClip(tr("set the scale"), after);
    } else if (m_tool == Tool::UpLine) {
        after.scene.up = d * (1 / d.length());
        editClip(tr("set up"), after);
    } else if (m_tool == Tool::TargetLine) {
        const ImageVector right{-after.scene.up.y, after.scene.up.x};
        const double along = dot(d, right), upward = dot(d, after.scene.up);
        after.scene.target = std::abs(along) >= std::abs(upward) ? (along > 0 ? TargetDirection::Right : TargetDirection::Left)
                                                                 : (upward > 0 ? TargetDirection::Away : TargetDirection::Toward);
        editClip(tr("set the target direction"), after);
    } else if (m_tool == Tool::PlayerBox) {
        emit playerDrawn({std::min(from.x, to.x), std::min(from.y, to.y)}, std::abs(d.x), std::abs(d.y));
    }
    setTool(Tool::Look);
}

void BenchSession::measureOnGround(ImagePoint from, ImagePoint to)
{
    const auto plane = GroundPlane::fit(m_clip.scene.ground);
    const auto distance = plane ? plane->distance(from, to, kCarefulClick) : std::nullopt;
    if (!distance) {
        emit message(plane ? tr("A point at or above the horizon does not lie on the ground.")
                           : QString::fromStdString(plane.error().text()));
        return;
    }
    m_groundLine = {from, to, tr("%1 ± %2 m").arg(distance->metres, 0, 'f', 2).arg(kWhisker * distance->sigma, 0, 'f', 2)};
    emit message(m_groundLine->text + tr(" on the ground. ") + tr(kGroundCaution));
    emit frameChanged(); // the picture is painted anew
}

void BenchSession::addGroundMark(const GroundMark& mark)
{
    store::Clip after = m_clip;
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

void BenchSession::forgetGround()
{
    store::Clip after = m_clip;
    after.scene.ground.clear();
    editClip(tr("forget the ground"), after);
}

void BenchSession::setView(View view)
{
    store::Clip after = m_clip;
    after.scene.view = view;
    after.scene.target = usualTargetDirection(view, m_athlete.hand, m_pack && m_pack->leadIsDom());
    editClip(tr("set the view"), after);
}

void BenchSession::setRates(Rates rates)
{
    store::Clip after = m_clip;
    after.clock = rates;
    editClip(tr("set the frame rates"), after);
    emit frameChanged(); // times on screen follow
}

void BenchSession::setVariant(const std::string& variant)
{
    store::Repetition after = m_repetition;
    after.variant = variant;
    changeRepetition(tr("set the kind"), after);
}

} // namespace kestrel::app
