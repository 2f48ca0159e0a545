#include "app/show/walk_editor.h"

#include "app/workspace/own_files.h"
#include "core/drawing/drawn_shape.h"

#include <QDir>
#include <QFileInfo>

#include <algorithm>
#include <utility>

#include <nlohmann/json.hpp>

namespace kestrel::app {

WalkEditor::WalkEditor(Workspace& workspace, Bench& bench, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_bench(bench)
{
    connect(&workspace, &Workspace::changed, this, [this](const Change& change) {
        if (change.subject == Change::Subject::Walk && m_day) {
            readScript();
            emit this->changed();
        }
    });
}

void WalkEditor::refresh()
{
    m_work.stop();
    m_isGathering = false;
    auto request = ShownDayRequest::of(m_workspace, m_bench);
    if (!request) {
        m_day.reset();
        m_script = {};
        return emit changed();
    }
    m_isGathering = true;
    m_dayId = m_bench.context.day().id;
    m_ids.clear();
    for (const auto& one : m_bench.review.together())
        m_ids.push_back(one.id);
    m_work = Background::run(
        this,
        [request = std::move(*request)](std::stop_token) -> Expected<ShownDay> {
            return request.openLibrary().and_then([&](const store::Library& library) { return request.gather(library); });
        },
        [this](Expected<ShownDay> day) {
            m_isGathering = false;
            if (day)
                return apply(std::move(*day));
            emit m_workspace.failed(day.error());
            emit changed();
        });
}

void WalkEditor::apply(ShownDay day)
{
    m_day = std::make_shared<const ShownDay>(std::move(day));
    readScript();
    emit changed();
    for (const auto& waiting : std::exchange(m_waiting, {}))
        if (waiting.day == m_dayId)
            append(waiting.stop);
        else
            emit message(tr("Another day is on the Bench by now: the picture was not added."));
}

/// The coach's own one, or a proposal. Stops of repetitions that are no longer judged are left out.
void WalkEditor::readScript()
{
    m_isOwn = false;
    const auto kept = m_workspace.valueOr(m_workspace.library().walks().of(m_dayId));
    const auto root = kept ? nlohmann::json::parse(*kept, nullptr, false) : nlohmann::json();
    if (root.is_object() && root.contains("script") && root.contains("repetitions")) {
        auto script = report::parseWalk(root["script"], "walk-through");
        if (script) {
            m_isOwn = true;
            m_script = {script->title, {}};
            for (auto& stop : script->stops) {
                if (stop.isPicture()) {
                    m_script.stops.push_back(std::move(stop));
                    continue;
                }
                const auto& ids = root["repetitions"];
                if (!ids.is_array() || stop.repetition >= ids.size() || !ids[stop.repetition].is_number_integer())
                    continue;
                const store::RepetitionId id(ids[stop.repetition].get<std::int64_t>());
                const auto at = std::find(m_ids.begin(), m_ids.end(), id);
                if (at == m_ids.end() || static_cast<std::size_t>(at - m_ids.begin()) >= m_day->films.size())
                    continue;
                stop.repetition = static_cast<std::size_t>(at - m_ids.begin());
                m_script.stops.push_back(std::move(stop));
            }
            return;
        }
    }
    std::vector<Marking> markings;
    std::vector<FrameRange> repetitions;
    for (const auto& film : m_day->films) {
        markings.push_back(withoutMarks(film.marking));
        repetitions.push_back(film.repetition);
    }
    m_script = report::proposeWalk(m_day->pack, m_day->review, m_day->facts, markings, repetitions);
}

std::string WalkEditor::content(const report::WalkScript& script) const
{
    nlohmann::json ids = nlohmann::json::array();
    for (const auto id : m_ids)
        ids.push_back(id.value);
    return nlohmann::json{{"repetitions", std::move(ids)}, {"script", toJson(script)}}.dump();
}

report::WalkScript WalkEditor::scriptToPlay() const
{
    report::WalkScript script = m_script;
    for (auto& stop : script.stops)
        for (auto [file, folder] : {std::pair(&stop.voice, voiceFolder(m_workspace.library())),
                                    std::pair(&stop.picture, pictureFolder(m_workspace.library()))})
            if (!file->empty())
                *file = QDir(folder).filePath(QFileInfo(QString::fromStdString(*file)).fileName()).toStdString();
    return script;
}

void WalkEditor::change(const QString& text, const report::WalkScript& after)
{
    if (!m_day || after == m_script)
        return;
    const auto before = m_workspace.valueOr(m_workspace.library().walks().of(m_dayId));
    m_workspace.edit(
        {text, Change{Change::Subject::Walk}},
        [day = m_dayId, content = content(after)](store::Library& l) { return l.walks().set(day, content); },
        [day = m_dayId, before](store::Library& l) { return l.walks().set(day, before); });
}

void WalkEditor::changeStop(const QString& text, std::size_t n, const report::WalkStop& stop)
{
    auto after = m_script;
    after.stops.at(n) = stop;
    change(text, after);
}

void WalkEditor::move(std::size_t from, std::size_t to)
{
    auto after = m_script;
    const auto stop = after.stops.at(from);
    after.stops.erase(after.stops.begin() + static_cast<std::ptrdiff_t>(from));
    after.stops.insert(after.stops.begin() + static_cast<std::ptrdiff_t>(std::min(to, after.stops.size())), stop);
    change(tr("order of the stops"), after);
}

void WalkEditor::remove(std::size_t n)
{
    auto after = m_script;
    after.stops.erase(after.stops.begin() + static_cast<std::ptrdiff_t>(n));
    change(tr("remove a stop"), after);
}

void WalkEditor::addFromBench(std::size_t after)
{
    const auto id = m_bench.context.repetition().id;
    const auto at = std::find(m_ids.begin(), m_ids.end(), id);
    if (!m_day || at == m_ids.end())
        return emit message(tr("The repetition on the Bench is not among those that are judged."));
    if (m_script.stops.size() >= report::kMostStops)
        return emit message(tr("A walk-through has at most %1 stops.").arg(report::kMostStops));
    report::WalkStop stop;
    stop.repetition = static_cast<std::size_t>(at - m_ids.begin());
    stop.frames = {m_bench.player.frame(), m_bench.player.frame()};
    if (const auto loop = m_bench.player.loop())
        stop.frames = *loop;
    stop.measure = m_bench.review.selectedReading();
    auto script = m_script;
    script.stops.insert(script.stops.begin() + static_cast<std::ptrdiff_t>(std::min(after + 1, script.stops.size())), stop);
    change(tr("add a stop"), script);
}

void WalkEditor::append(const report::WalkStop& stop)
{
    if (m_script.stops.size() >= report::kMostStops)
        return emit message(tr("A walk-through has at most %1 stops.").arg(report::kMostStops));
    auto script = m_script;
    script.stops.push_back(stop);
    change(tr("add a stop"), script);
    emit message(tr("It is stop %1 of the walk-through of %2, under Show.")
                     .arg(m_script.stops.size())
                     .arg(QString::fromStdString(m_bench.context.athlete().name)));
}

void WalkEditor::addPicture(const QImage& image, const std::string& text)
{
    if (!m_bench.context.isOpen())
        return emit message(tr("Bring a clip to the Bench first: the picture goes into its walk-through."));
    Background::run(
        this, [image, folder = pictureFolder(m_workspace.library())](std::stop_token) { return keepPicture(folder, image); },
        [this, text, day = m_bench.context.day().id](const Expected<std::string>& name) {
            if (!name)
                return emit m_workspace.failed(name.error());
            report::WalkStop stop;
            stop.text = text;
            stop.picture = *name;
            m_waiting.push_back({day, stop});
            refresh();
        });
}

store::RepetitionId WalkEditor::repetitionOf(std::size_t n) const
{
    const auto* stop = n < m_script.stops.size() ? &m_script.stops[n] : nullptr;
    return stop && !stop->isPicture() && stop->repetition < m_ids.size() ? m_ids[stop->repetition] : store::RepetitionId();
}

std::vector<store::DrawingRow> WalkEditor::filmDrawingsOn(std::size_t n) const
{
    const auto id = repetitionOf(n);
    if (!m_day || !id.isValid())
        return {};
    auto rows = m_workspace.valueOr(m_workspace.library().drawings().seenOn(id));
    const auto& stop = m_script.stops[n];
    const auto& film = m_day->films[stop.repetition];
    std::erase_if(rows, [&](const store::DrawingRow& r) {
        const auto range = rangeOf(r.drawing.lives, film.marking, film.repetition);
        return !range || !range->contains(stop.frames.last);
    });
    return rows;
}

void WalkEditor::keepOnStopOnly(std::size_t n, const store::DrawingRow& row)
{
    auto after = m_script;
    after.stops.at(n).drawings.push_back(row.drawing);
    auto taken = std::make_shared<store::TakenRows>();
    changeWithFilm(
        tr("draw on this stop only"), after,
        [taken, id = row.id](store::Library& l) {
            return l.take(id).map([&](store::TakenRows rows) { *taken = std::move(rows); });
        },
        [taken](store::Library& l) { return l.restore(*taken); });
}

void WalkEditor::putOnFilm(std::size_t n, std::size_t drawing)
{
    auto after = m_script;
    auto& own = after.stops.at(n).drawings;
    const store::DrawingRow row{{}, repetitionOf(n), own.at(drawing)};
    own.erase(own.begin() + static_cast<std::ptrdiff_t>(drawing));
    auto id = std::make_shared<store::DrawingId>();
    changeWithFilm(
        tr("draw on the film"), after,
        [id, row](store::Library& l) { return l.add(row).map([&](store::DrawingId added) { *id = added; }); },
        [id](store::Library& l) { return l.take(*id).map([](const store::TakenRows&) {}); });
}

void WalkEditor::changeWithFilm(const QString& text, const report::WalkScript& after, Workspace::Work onFilm,
                                Workspace::Work offFilm)
{
    const auto before = m_workspace.valueOr(m_workspace.library().walks().of(m_dayId));
    const auto both = [day = m_dayId](Workspace::Work film, std::optional<std::string> talk) {
        return [day, film = std::move(film), talk = std::move(talk)](store::Library& l) {
            return l.together([&] { return film(l).and_then([&] { return l.walks().set(day, talk); }); });
        };
    };
    (void)m_workspace.edit({text, Change{Change::Subject::Drawings}}, both(std::move(onFilm), content(after)),
                           both(std::move(offFilm), before));
}

void WalkEditor::removeDrawing(std::size_t n, std::size_t drawing)
{
    auto stop = m_script.stops.at(n);
    stop.drawings.erase(stop.drawings.begin() + static_cast<std::ptrdiff_t>(drawing));
    changeStop(tr("remove a drawing of a stop"), n, stop);
}

void WalkEditor::proposeAnew()
{
    const auto before = m_workspace.valueOr(m_workspace.library().walks().of(m_dayId));
    if (!before)
        return emit message(tr("This is the proposal; nothing was changed yet."));
    m_workspace.edit(
        {tr("propose the walk-through anew"), Change{Change::Subject::Walk}},
        [day = m_dayId](store::Library& l) { return l.walks().set(day, std::nullopt); },
        [day = m_dayId, before](store::Library& l) { return l.walks().set(day, before); });
}

} // namespace kestrel::app
