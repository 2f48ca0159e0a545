#include "app/bench/marking_editor.h"

#include "core/read/uncertain_mark.h"
#include "core/scene/ground_plane.h"

#include <algorithm>
#include <cmath>

namespace kestrel::app {

MarkingEditor::MarkingEditor(Workspace& workspace, ClipContext& context, FilmPlayer& player, KeyPositions& positions,
                             ToolBox& tools, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_context(context), m_player(player), m_positions(positions), m_tools(tools)
{
    connect(&m_context, &ClipContext::clipChanged, this, &MarkingEditor::forget);
    connect(&m_context, &ClipContext::markingChanged, this, [this] {
        if (m_selectedMark && !findMark(m_context.marking(), m_player.frame(), *m_selectedMark))
            selectMark({});
    });
    connect(&m_player, &FilmPlayer::frameChanged, this, [this] { selectMark({}); });
}

void MarkingEditor::forget()
{
    m_skipped.clear();
    m_lookedAt.clear();
    selectMark({});
}

std::vector<Landmark> MarkingEditor::landmarksAsked(const std::string& keyPosition) const
{
    return m_context.pack() ? landmarksAt(*m_context.pack(), keyPosition, m_context.marking().scene.view,
                                          m_context.marking().athlete.hand, m_context.marking().variant, m_extent)
                            : std::vector<Landmark>{};
}

std::optional<Landmark> MarkingEditor::nextLandmark() const
{
    const KeyPosition* here = m_positions.here();
    if (!here)
        return std::nullopt;
    for (const auto& l : landmarksAsked(here->id))
        if (!findMark(m_context.marking(), m_player.frame(), l) && !m_skipped.count({m_player.frame().value, l}))
            return l;
    return std::nullopt;
}

std::pair<int, int> MarkingEditor::guideCount() const
{
    const KeyPosition* here = m_positions.here();
    if (!here)
        return {0, 0};
    const auto asked = landmarksAsked(here->id);
    const auto marked = std::count_if(asked.begin(), asked.end(), [this](const Landmark& l) {
        return findMark(m_context.marking(), m_player.frame(), l) != nullptr;
    });
    return {static_cast<int>(marked), static_cast<int>(asked.size())};
}

void MarkingEditor::setExtent(MarkExtent extent)
{
    if (extent == m_extent)
        return;
    m_extent = extent;
    emit guideChanged();
}

void MarkingEditor::skipLandmark()
{
    if (const auto l = nextLandmark()) {
        m_skipped.insert({m_player.frame().value, *l});
        goOn();
        emit guideChanged();
    }
}

void MarkingEditor::editMark(const QString& text, FrameIndex frame, const Landmark& landmark, const std::optional<Mark>& after,
                             const QString& mergeKey)
{
    const Mark* present = findMark(m_context.marking(), frame, landmark);
    const std::optional<Mark> before = present ? std::optional(*present) : std::nullopt;
    if (before == after)
        return;
    const auto clip = m_context.clip().id;
    (void)m_workspace.edit(
        {text, {Change::Subject::Marks, clip.value}, mergeKey},
        [=](store::Library& l) { return l.marks().set(clip, frame, landmark, after); },
        [=](store::Library& l) { return l.marks().set(clip, frame, landmark, before); });
}

void MarkingEditor::placeMark(ImagePoint p)
{
    const auto landmark = nextLandmark();
    if (!landmark) {
        emit message(m_positions.here() ? tr("Everything asked for here is marked. Drag a point to correct it.")
                                        : tr("Stand at a key position first: press its number, or ↓ for the next one."));
        return;
    }
    moveMark(*landmark, p);
    goOn();
}

/// When nothing is left to mark here, on to the next key position where something is.
void MarkingEditor::goOn()
{
    if (nextLandmark())
        return;
    const FrameIndex start = m_player.frame();
    std::vector<std::int64_t> later;
    for (const auto& e : m_context.marking().events)
        if (std::llround(e.frame.value) > start.value)
            later.push_back(std::llround(e.frame.value));
    std::sort(later.begin(), later.end());
    for (const auto f : later) {
        m_player.setFrame(FrameIndex(f));
        if (nextLandmark())
            return;
    }
    m_player.setFrame(start);
    emit message(tr("All points are marked."));
}

void MarkingEditor::moveMark(const Landmark& landmark, ImagePoint p)
{
    setMark(landmark, p, {});
}

void MarkingEditor::setMark(const Landmark& landmark, ImagePoint p, const QString& mergeKey)
{
    const Mark* before = findMark(m_context.marking(), m_player.frame(), landmark);
    const bool wasFollowed = before && before->source == Source::Tracked;
    editMark(tr("mark %1").arg(plainName(landmark, m_context.marking().athlete.hand, m_context.pack())), m_player.frame(),
             landmark, Mark{m_player.frame(), landmark, p, kCarefulClick, Source::Coach, true}, mergeKey);
    if (wasFollowed)
        emit pointCorrected(landmark);
}

void MarkingEditor::placePoint(ImagePoint p)
{
    const auto isTaken = [this](const Landmark& l) {
        return std::any_of(m_context.marking().marks.begin(), m_context.marking().marks.end(),
                           [&](const Mark& m) { return m.landmark == l; });
    };
    int number = 1;
    const auto landmark = [&] { return Landmark{Part::Reference, BodySide::None, "point" + std::to_string(number)}; };
    while (isTaken(landmark()))
        ++number;
    m_tools.setTool(Tool::Look);
    moveMark(landmark(), p);
    selectMark(landmark());
    emit pointCorrected(landmark());
}

void MarkingEditor::goToUncertainMark()
{
    if (!m_context.pack())
        return;
    const auto doubts = findUncertainMarks(*m_context.pack(), m_context.marking());
    const auto next = std::find_if(doubts.begin(), doubts.end(), [this](const UncertainMark& d) {
        return m_lookedAt.count({d.frame.value, d.landmark}) == 0;
    });
    if (next == doubts.end()) {
        emit message(doubts.empty() ? tr("No reading rests on a mark the program made.")
                                    : tr("You have looked at every mark of the program's that a reading rests on."));
        m_lookedAt.clear(); // once more from the start
        return;
    }
    m_lookedAt.insert({next->frame.value, next->landmark});
    m_player.setFrame(next->frame);
    selectMark(next->landmark);
    emit message(tr("%1, give or take %2 pixels: drag it if it is wrong; W for the next one (%3 left).")
                     .arg(plainName(next->landmark, m_context.marking().athlete.hand, m_context.pack()),
                          QString::number(next->sigma, 'f', 0),
                          QString::number(std::count_if(doubts.begin(), doubts.end(), [this](const UncertainMark& d) {
                              return m_lookedAt.count({d.frame.value, d.landmark}) == 0;
                          }))));
}

void MarkingEditor::nudgeSelected(double dx, double dy)
{
    if (!m_selectedMark)
        return;
    if (const Mark* m = findMark(m_context.marking(), m_player.frame(), *m_selectedMark))
        setMark(*m_selectedMark, {m->at.x + dx, m->at.y + dy}, // many small steps are one to undo
                QStringLiteral("nudge %1 %2").arg(m_player.frame().value).arg(QString::fromStdString(nameOf(*m_selectedMark))));
}

void MarkingEditor::removeSelected()
{
    if (!m_selectedMark)
        return;
    const Landmark l = *m_selectedMark;
    editMark(tr("remove %1").arg(plainName(l, m_context.marking().athlete.hand, m_context.pack())), m_player.frame(), l,
             std::nullopt);
}

void MarkingEditor::selectMark(std::optional<Landmark> l)
{
    if (l == m_selectedMark)
        return;
    m_selectedMark = std::move(l);
    emit selectionChanged();
}

std::vector<Mark> MarkingEditor::marksOn(FrameIndex frame) const
{
    std::vector<Mark> here;
    std::copy_if(m_context.marking().marks.begin(), m_context.marking().marks.end(), std::back_inserter(here),
                 [frame](const Mark& m) { return m.frame == frame; });
    return here;
}

bool MarkingEditor::isTaught(const std::string& fault) const
{
    return m_context.athlete().notYetTaught.count({m_context.day().skill, fault}) == 0;
}

void MarkingEditor::setTaught(const std::string& fault, bool taught)
{
    const store::Athlete before = m_context.athlete();
    store::Athlete after = before;
    if (taught)
        after.notYetTaught.erase({m_context.day().skill, fault});
    else
        after.notYetTaught.emplace(m_context.day().skill, fault);
    if (after == before)
        return;
    m_workspace.edit(
        taught ? tr("taught") : tr("not yet taught"), [after](store::Library& l) { return l.save(after); },
        [before](store::Library& l) { return l.save(before); });
}

void MarkingEditor::answer(const std::string& observation, const std::optional<std::string>& choice)
{
    const auto given = m_context.marking().answers.find(observation);
    const std::optional<std::string> before =
        given == m_context.marking().answers.end() ? std::nullopt : std::optional(given->second);
    if (before == choice)
        return;
    const auto repetition = m_context.repetition().id;
    m_workspace.edit(
        tr("answer"), [=](store::Library& l) { return l.repetitions().setAnswer(repetition, observation, choice); },
        [=](store::Library& l) { return l.repetitions().setAnswer(repetition, observation, before); });
}

QString plainName(const Landmark& l, Hand hand, const Pack* pack)
{
    switch (l.part) { // of what is held to hit with, whatever it is
    case Part::ImplementGrip:
        return MarkingEditor::tr("butt");
    case Part::ImplementTip:
        return MarkingEditor::tr("tip");
    case Part::ImplementMid:
        return MarkingEditor::tr("middle of the shaft");
    case Part::ImplementFaceA:
        return MarkingEditor::tr("edge of the face");
    case Part::ImplementFaceB:
        return MarkingEditor::tr("other edge of the face");
    default:
        break;
    }
    const std::string_view word = wordOf(l.part);
    QString name = QString::fromUtf8(word.data(), static_cast<qsizetype>(word.size()));
    if (l.side == BodySide::None)
        return l.part == Part::Reference ? QString::fromStdString(l.reference) : name;
    const bool isDominant = (l.side == BodySide::Right) == (hand == Hand::Right);
    const bool isHead = l.part == Part::Eye || l.part == Part::Ear;
    const QString side = l.side == BodySide::Left ? MarkingEditor::tr("left") : MarkingEditor::tr("right");
    if (isHead)
        return side + QLatin1Char(' ') + name;
    const auto toQt = [](const std::string& w) { return QString::fromStdString(w); };
    const bool isLead = isDominant == (pack && pack->leadIsDom());
    const QString role = !isOfArm(l.part) ? (isLead ? MarkingEditor::tr("front") : MarkingEditor::tr("back"))
                         : !pack          ? QString()
                         : isDominant     ? toQt(pack->domWord)
                                          : toQt(pack->offWord);
    return (role + QLatin1Char(' ') + name).trimmed() + QStringLiteral(" (") + side + QLatin1Char(')');
}

} // namespace kestrel::app
