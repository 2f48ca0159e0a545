#include "app/bench/review_model.h"

#include "app/shell/settings.h"
#include "app/workspace/day_films.h"
#include "core/read/sequence.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace kestrel::app {

namespace {

/// A body marked on every picture rather than at key positions alone: more marks than that are judged on another thread.
constexpr std::size_t kManyMarks = 2000;

} // namespace

ReviewModel::ReviewModel(Workspace& workspace, ClipContext& context, FilmPlayer& player, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_context(context), m_player(player), m_tasks(Settings::tasks())
{
    m_turn.setSingleShot(true);
    connect(&m_turn, &QTimer::timeout, this, &ReviewModel::onTurn);
    connect(&m_context, &ClipContext::markingChanged, this, &ReviewModel::unjudge);
    connect(&m_player, &FilmPlayer::opened, this, &ReviewModel::unjudge); // the times of its pictures are known now
    const auto deselect = [this] { m_selected.clear(); };
    connect(&m_context, &ClipContext::clipChanged, this, deselect);
    connect(&m_context, &ClipContext::repetitionChosen, this, deselect);
}

void ReviewModel::applySettings()
{
    if (m_tasks == Settings::tasks())
        return;
    m_tasks = Settings::tasks();
    unjudge();
}

void ReviewModel::unjudge()
{
    m_work.stop();
    m_isJudging = m_isJudged = false;
    if (m_day != m_context.day().id || !m_context.isOpen())
        m_judged = {};
    m_day = m_context.day().id;
    m_turn.start();
}

/// What the last page of this skill was about.
const std::string& ReviewModel::lastTask() const
{
    const auto& day = m_context.day();
    if (m_lastTaskOf != day) {
        m_lastTaskOf = day;
        const auto tasks = sentTasks(m_workspace.library(), day);
        m_lastTask = tasks && !tasks->empty() ? tasks->front().task.fault : std::string();
    }
    return m_lastTask;
}

ReviewModel::Job ReviewModel::job() const
{
    Job job{m_context.day().id, m_context.repetition().id, m_context.marking(), m_player.clock(), {}, *m_context.pack(), {},
            m_judged.cache};
    if (m_player.isOpen())
        job.open = OpenTimes{m_context.clip().id, m_player.clock()};
    job.options.school = m_context.day().school;
    job.options.tasks = m_tasks;
    job.options.pain = m_context.day().pain;
    job.options.lastTask = lastTask();
    if (const auto date = parseDate(m_context.day().date)) // until a clinician has cleared it
        if (const auto book = m_workspace.library().books().of(m_context.athlete().id))
            for (const auto region : book->openPain(*date))
                job.options.pain.insert(region);
    for (const auto& [skill, fault] : m_context.athlete().notYetTaught)
        if (skill == m_context.day().skill)
            job.options.notYetTaught.push_back(fault);
    return job;
}

Expected<GatheredDay> ReviewModel::gather(const store::Library& library, const Job& job, std::size_t mostMarks)
{
    return gatherDay(library, job.day, job.pack, job.cache, mostMarks, job.open);
}

ReviewModel::Judged ReviewModel::judge(GatheredDay day, const Job& job)
{
    Judged done;
    std::set<store::ClipId> clips;
    for (std::size_t n = 0; n < day.ids.size(); ++n)
        if (!day.repetitions[n].read)
            done.toKeep.push_back({day.ids[n], {day.keys[n], {}}});
    readDay(job.pack, day.repetitions, job.options);
    done.review = reviewDay(job.pack, day.repetitions, job.options);
    for (std::size_t n = 0; n < day.ids.size(); ++n) {
        const auto& r = day.repetitions[n];
        done.cache[day.ids[n]] = {day.keys[n], r.read};
        if (r.counts && showsAnything(*r.read)) {
            ++done.repetitions;
            clips.insert(day.clips[n]);
        }
        if (day.ids[n] == job.shown) {
            done.readings = r.read->readings;
            done.sequence = r.read->sequence;
        }
    }
    done.clips = static_cast<int>(clips.size());
    for (std::size_t n : judgedTogether(day.repetitions))
        done.together.push_back({day.ids[n], day.repetitions[n].read});
    for (auto& [id, kept] : done.toKeep)
        kept.readings = toJson(*done.cache[id].readings).dump();
    for (auto& r : done.readings)
        if (const Reading* ofDay = done.review.findReading(r.measure))
            r.spread = ofDay->spread;
    done.curves = segmentCurves(job.pack, PreparedRepetition(job.shownMarking, job.shownClock));
    return done;
}

void ReviewModel::apply(Judged judged) const
{
    m_judged = std::move(judged);
    m_isJudged = true;
    if (!m_judged.toKeep.empty())
        m_workspace.saveSilently([this](store::Library& l) -> Expected<void> {
            return l.together([&]() -> Expected<void> {
                for (const auto& [id, kept] : m_judged.toKeep)
                    if (auto done = l.readings().keep(id, kept); !done)
                        return done;
                return {};
            });
        });
    m_judged.toKeep.clear();
}

bool ReviewModel::judgeHere(const Job& job) const
{
    if (m_context.marking().marks.size() > kManyMarks)
        return false;
    auto day = m_workspace.valueOr(gather(m_workspace.library(), job, kManyMarks));
    if (day.marksToRead > kManyMarks)
        return false;
    apply(judge(std::move(day), job));
    return true;
}

void ReviewModel::judgeElsewhere(Job job)
{
    m_isJudging = true;
    m_work = Background::run(
        this,
        [job = std::move(job), openLibrary = m_workspace.library().again(true)](std::stop_token) -> Expected<Judged> {
            // one look at the library, so that marks and the keys they are kept by belong together
            auto library = openLibrary();
            if (!library)
                return tl::unexpected(library.error());
            Expected<Judged> done = tl::unexpected(Error{});
            const auto looked = library->atOneTime([&] {
                done = gather(*library, job, std::numeric_limits<std::size_t>::max()).map([&](GatheredDay day) {
                    return judge(std::move(day), job);
                });
            });
            return looked ? std::move(done) : tl::unexpected(looked.error());
        },
        [this](Expected<Judged> done) {
            m_isJudging = false;
            apply(m_workspace.valueOr(std::move(done)));
            emit reviewChanged();
        });
}

/// The turn of its own after a change: what takes long is judged elsewhere, and only then announced.
void ReviewModel::onTurn()
{
    if (m_context.pack() && !m_isJudged && !m_isJudging) {
        Job now = job();
        if (!judgeHere(now))
            return judgeElsewhere(std::move(now));
    }
    emit reviewChanged();
}

const ReviewModel::Judged& ReviewModel::judged() const
{
    if (m_isJudged || m_isJudging)
        return m_judged; // where there is much, onTurn() sees to it
    if (!m_context.pack())
        apply({});
    else
        judgeHere(job());
    return m_judged;
}

const Reading* ReviewModel::findReading(const std::string& measure) const
{
    const auto& all = readings();
    const auto it = std::find_if(all.begin(), all.end(), [&](const Reading& r) { return r.measure == measure; });
    return it == all.end() ? nullptr : &*it;
}

void ReviewModel::selectReading(const std::string& measure)
{
    m_selected = measure == m_selected ? std::string() : measure;
    if (const Reading* r = m_selected.empty() ? nullptr : findReading(m_selected); r && !r->figure.isEmpty())
        m_player.setFrame(FrameIndex(std::llround(r->figure.frame.value)));
    emit selectionChanged();
}

const Reading* ReviewModel::shownReading() const
{
    const Reading* r = m_selected.empty() ? nullptr : findReading(m_selected);
    return r && !r->figure.isEmpty() && std::llround(r->figure.frame.value) == m_player.frame().value ? r : nullptr;
}

} // namespace kestrel::app
