#include "app/bench/drawing_editor.h"

#include "app/bench/marking_editor.h"
#include "app/workspace/row_edits.h"
#include "core/drawing/drawing_value.h"
#include "core/judge/review.h"
#include "media/film.h"

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kRestMs = 40;            // standing as long on a picture, the coach looks at it
constexpr int kStrobePictures = 8;     // in a strobe to begin with
constexpr double kDuplicateShift = 24; // pixels of the film
constexpr double kRejoin = 14;         // pixels of the film; a mark as near is followed again

const Change kDrawings{Change::Subject::Drawings};

} // namespace

QString nameOf(DrawingKind kind)
{
    switch (kind) {
    case DrawingKind::Line:
        return DrawingEditor::tr("line");
    case DrawingKind::Arrow:
        return DrawingEditor::tr("arrow");
    case DrawingKind::Path:
        return DrawingEditor::tr("line through points");
    case DrawingKind::Circle:
        return DrawingEditor::tr("circle");
    case DrawingKind::Box:
        return DrawingEditor::tr("box");
    case DrawingKind::Angle:
        return DrawingEditor::tr("angle");
    case DrawingKind::Wedge:
        return DrawingEditor::tr("wedge between two lines");
    case DrawingKind::Level:
        return DrawingEditor::tr("level line");
    case DrawingKind::Plumb:
        return DrawingEditor::tr("plumb line");
    case DrawingKind::Grid:
        return DrawingEditor::tr("grid");
    case DrawingKind::Clock:
        return DrawingEditor::tr("clock face");
    case DrawingKind::Label:
        return DrawingEditor::tr("words");
    case DrawingKind::Trail:
        return DrawingEditor::tr("trail");
    case DrawingKind::Strobe:
        return DrawingEditor::tr("strobe");
    }
    return {};
}

DrawingEditor::DrawingEditor(Workspace& workspace, ClipContext& context, FilmPlayer& player, KeyPositions& positions,
                             QObject* parent)
    : QObject(parent), m_workspace(workspace), m_context(context), m_player(player), m_positions(positions)
{
    m_rest.setSingleShot(true);
    m_rest.setInterval(kRestMs);
    connect(&m_context, &ClipContext::markingChanged, this, &DrawingEditor::reload);
    connect(&m_workspace, &Workspace::changed, this, [this](const Change& change) {
        if (change.subject == Change::Subject::Drawings)
            reload();
    });
    connect(&m_context, &ClipContext::clipChanged, this, [this] { choose({}); });
    connect(&m_context, &ClipContext::repetitionChosen, this, [this] { choose({}); });
    connect(&m_player, &FilmPlayer::opened, this, &DrawingEditor::forget); // its pictures' times are known now
    connect(&m_player, &FilmPlayer::frameChanged, this, [this] {
        if (!m_rows.empty() && !m_player.isPlaying())
            m_rest.start();
    });
    connect(&m_player, &FilmPlayer::playingChanged, this, [this] { m_rest.start(); });
    connect(&m_rest, &QTimer::timeout, this, [this] {
        if (m_player.isPlaying() || m_areHidden)
            return;
        const FrameIndex frame = m_player.frame();
        for (const auto& row : m_rows)
            if (const auto range = rangeOf(row.drawing); range && range->contains(frame))
                m_words.try_emplace({row.id, frame}, wordsOn(row.drawing, frame));
        emit changed();
    });
}

void DrawingEditor::reload()
{
    m_rows.clear();
    if (m_context.isOpen())
        m_rows = m_workspace.valueOr(m_workspace.library().drawings().seenOn(m_context.repetition().id));
    if (!find(m_chosen))
        m_chosen = {};
    makeStrobes();
    forget();
}

std::vector<Drawing> DrawingEditor::drawings() const
{
    std::vector<Drawing> all;
    for (const auto& row : m_rows)
        all.push_back(row.drawing);
    return all;
}

/// On another thread: pictures are decoded for it.
void DrawingEditor::makeStrobes()
{
    std::vector<Drawing> wanted = drawings();
    std::erase_if(wanted, [](const Drawing& d) { return d.kind != DrawingKind::Strobe; });
    const bool isSame = m_strobesOf == m_context.repetition().id &&
                        std::equal(wanted.begin(), wanted.end(), m_strobes.begin(), m_strobes.end(),
                                   [](const Drawing& d, const auto& made) { return d == made.first; });
    if (isSame)
        return;
    m_strobesOf = m_context.repetition().id;
    m_strobeWork.stop();
    m_strobes.clear();
    if (wanted.empty() || !m_context.isOpen())
        return;
    Marking marking = withoutMarks(m_context.marking());
    m_strobeWork = Background::run(
        this,
        [file = m_context.filmPath(), index = m_player.index(), wanted, marking, range = repetition()](std::stop_token stop) {
            return media::Film::open(file, {.stop = stop, .knownIndex = index}).and_then([&](media::Film film) {
                return look::makeStrobes(film, wanted, marking, range, {}, stop);
            });
        },
        [this](Expected<look::Strobes> made) {
            if (!made)
                return emit message(QString::fromStdString(made.error().text()));
            m_strobes = std::move(*made);
            for (const auto& [drawing, strobe] : m_strobes)
                if (!strobe.isStill)
                    emit message(tr("The camera did not stand still there: nothing can be cut out for the strobe."));
            emit changed();
        });
}

void DrawingEditor::forget()
{
    m_prepared.reset();
    m_words.clear();
    if (!m_rows.empty())
        m_rest.start();
    emit changed();
}

const PreparedRepetition& DrawingEditor::prepared() const
{
    if (!m_prepared)
        m_prepared = std::make_shared<const PreparedRepetition>(m_context.marking(), m_player.clock());
    return *m_prepared;
}

FrameRange DrawingEditor::repetition() const
{
    return {m_context.repetition().first, m_context.repetition().last};
}

const store::DrawingRow* DrawingEditor::find(store::DrawingId id) const
{
    const auto it = std::find_if(m_rows.begin(), m_rows.end(), [id](const store::DrawingRow& r) { return r.id == id; });
    return it == m_rows.end() ? nullptr : &*it;
}

std::optional<FrameRange> DrawingEditor::rangeOf(const Drawing& d) const
{
    return kestrel::rangeOf(d.lives, m_context.marking(), repetition());
}

std::optional<DrawnShape> DrawingEditor::shapeOn(const Drawing& d, FrameIndex frame) const
{
    const auto range = rangeOf(d);
    if (!range || !range->contains(frame))
        return std::nullopt;
    return kestrel::shapeOn(d, prepared(), *range, frame);
}

QString DrawingEditor::whyMissing(const Drawing& d, FrameIndex frame) const
{
    const auto range = rangeOf(d);
    if (!range)
        return tr("its key position is not placed");
    if (!range->contains(frame) || kestrel::shapeOn(d, prepared(), *range, frame))
        return {};
    for (const auto& pin : d.at)
        if (pin.landmark && !findMark(m_context.marking(), frame, *pin.landmark))
            return tr("%1 is not marked on this picture")
                .arg(plainName(*pin.landmark, m_context.marking().athlete.hand, m_context.pack()));
    return {};
}

QString DrawingEditor::wordsOn(const Drawing& d, FrameIndex frame) const
{
    const auto range = rangeOf(d);
    return range ? QString::fromStdString(kestrel::wordsOn(d, prepared(), *range, frame)) : QString();
}

void DrawingEditor::choose(store::DrawingId id)
{
    if (id == m_chosen)
        return;
    m_chosen = find(id) ? id : store::DrawingId();
    emit changed();
}

void DrawingEditor::setHidden(bool hidden)
{
    if (hidden == m_areHidden)
        return;
    m_areHidden = hidden;
    if (hidden)
        m_chosen = {};
    emit changed();
}

bool DrawingEditor::hidesAnything() const
{
    return std::any_of(m_rows.begin(), m_rows.end(), [](const store::DrawingRow& r) { return r.drawing.hides; });
}

Lives DrawingEditor::usualLives(DrawingKind kind) const
{
    switch (kind) {
    case DrawingKind::Circle: // the head leaves it
    case DrawingKind::Box:
    case DrawingKind::Grid:
    case DrawingKind::Clock:
    case DrawingKind::Trail:
    case DrawingKind::Strobe:
        return {Lives::On::Repetition, {}, {}};
    default:
        break;
    }
    if (const KeyPosition* here = m_positions.here())
        return {Lives::On::KeyPosition, {m_player.frame(), m_player.frame()}, here->id};
    return {Lives::On::Stretch, {m_player.frame(), m_player.frame()}, {}};
}

void DrawingEditor::add(const Drawing& drawing)
{
    if (!m_context.isOpen())
        return;
    setHidden(false);
    choose(addRow(m_workspace, {tr("draw %1").arg(nameOf(drawing.kind)), kDrawings},
                  store::DrawingRow{{}, m_context.repetition().id, drawing}));
}

void DrawingEditor::addStrobe()
{
    Drawing d;
    d.kind = DrawingKind::Strobe;
    FrameRange range = repetition();
    const auto& events = m_context.marking().events;
    if (m_player.loop()) {
        range = *m_player.loop();
    } else if (events.size() > 1) {
        const auto byFrame = [](const Event& a, const Event& b) { return a.frame < b.frame; };
        const auto [first, last] = std::minmax_element(events.begin(), events.end(), byFrame);
        range = {first->frame.nearest(), last->frame.nearest()};
    }
    d.lives = {Lives::On::Stretch, range, {}};
    d.every = static_cast<int>(std::clamp<std::int64_t>((range.last.value - range.first.value) / kStrobePictures, 1, kMostEvery));
    add(d);
    if (m_chosen.isValid())
        emit message(tr("A strobe: what moves, every %1 pictures. Step on and it grows.").arg(d.every));
}

void DrawingEditor::change(const QString& text, const store::DrawingRow& after)
{
    const store::DrawingRow* before = find(after.id);
    if (!before || *before == after)
        return;
    changeRow(m_workspace, {text, kDrawings}, store::DrawingRow(*before), after);
}

void DrawingEditor::duplicateChosen()
{
    const store::DrawingRow* row = chosenRow();
    if (!row)
        return;
    Drawing copy = row->drawing;
    for (auto& pin : copy.at) {
        pin.landmark.reset();
        pin.at = pin.at + ImageVector{kDuplicateShift, kDuplicateShift};
    }
    if (const auto shape = shapeOn(row->drawing, m_player.frame())) // from where it lies now
        for (std::size_t i = 0; i < copy.at.size(); ++i)
            copy.at[i].at = shape->ends[i] + ImageVector{kDuplicateShift, kDuplicateShift};
    if (copy.kind == DrawingKind::Trail)
        copy.at = row->drawing.at;
    add(copy);
}

void DrawingEditor::removeChosen()
{
    if (const store::DrawingRow* row = chosenRow())
        removeRow(m_workspace, {tr("remove %1").arg(nameOf(row->drawing.kind)), kDrawings}, row->id);
}

void DrawingEditor::setChosenFollows(bool follows)
{
    const store::DrawingRow* row = chosenRow();
    if (!row)
        return;
    store::DrawingRow after = *row;
    const auto shape = shapeOn(row->drawing, m_player.frame());
    for (std::size_t i = 0; i < after.drawing.at.size(); ++i) {
        Pin& pin = after.drawing.at[i];
        if (shape)
            pin.at = shape->ends[i];
        const Mark* mark = follows ? markNear(pin.at, kRejoin, m_player.frame()) : nullptr;
        pin.landmark = mark ? std::optional(mark->landmark) : std::nullopt;
    }
    if (after == *row)
        return emit message(tr("There is no mark under it to follow. Drag an end onto a marked point."));
    change(follows ? tr("follow the body") : tr("stay where it is"), after);
}

const Mark* DrawingEditor::markNear(ImagePoint p, double reach, FrameIndex frame) const
{
    const Mark* nearest = nullptr;
    for (const auto& m : m_context.marking().marks)
        if (m.frame == frame)
            if (const double distance = (m.at - p).length(); distance < reach) {
                reach = distance;
                nearest = &m;
            }
    return nearest;
}

look::DrawingOverlay DrawingEditor::overlayOf(const store::DrawingRow& row, DrawnShape shape) const
{
    look::DrawingOverlay overlay;
    overlay.shape = std::move(shape);
    overlay.isThick = row.drawing.isThick;
    return overlay;
}

std::vector<look::Overlay> DrawingEditor::overlaysOn(FrameIndex frame, store::DrawingId hidden) const
{
    std::vector<look::Overlay> overlays;
    if (m_areHidden)
        return overlays;
    for (const auto& [drawing, strobe] : m_strobes)
        if (const auto range = rangeOf(drawing); range && range->contains(frame))
            look::addStrobe(strobe, frame, overlays);
    for (const auto& row : m_rows) {
        if (row.id == hidden)
            continue;
        auto shape = shapeOn(row.drawing, frame);
        if (!shape)
            continue;
        auto overlay = overlayOf(row, std::move(*shape));
        overlay.isChosen = row.id == m_chosen;
        if (const auto words = m_words.find({row.id, frame}); words != m_words.end())
            overlay.label = words->second;
        overlays.emplace_back(std::move(overlay));
    }
    return overlays;
}

std::vector<look::Overlay> DrawingEditor::stillOverlaysOn(FrameIndex frame) const
{
    return m_areHidden || m_rows.empty() ? std::vector<look::Overlay>()
                                         : look::drawingOverlays(drawings(), prepared(), repetition(), frame, m_strobes);
}

} // namespace kestrel::app
