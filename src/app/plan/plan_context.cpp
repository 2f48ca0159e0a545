#include "app/plan/plan_context.h"

#include "app/shell/dates.h"
#include "app/workspace/due_list.h"
#include "core/base/part_file.h"
#include "core/match/tally.h"

#include <QFile>

#include <algorithm>

namespace kestrel::app {

PlanContext::PlanContext(Workspace& workspace, Bench& bench, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_bench(bench), m_today(dateOfToday())
{
    loadRule();
    connect(&workspace, &Workspace::changed, this, [this](const Change& change) {
        using Subject = Change::Subject;
        if (change.subject != Subject::Marks && change.subject != Subject::Drawings && change.subject != Subject::Walk &&
            change.subject != Subject::Match)
            reload();
    });
    connect(&bench.review, &ReviewModel::reviewChanged, this, &PlanContext::changed);
}

void PlanContext::setToday(Date today)
{
    m_today = today;
    emit changed();
}

void PlanContext::open(store::AthleteId id)
{
    m_athlete = {};
    m_athlete.id = id;
    reload();
}

void PlanContext::reload()
{
    loadRule();
    const auto found = isOpen() ? m_workspace.library().athletes().find(m_athlete.id) : fail(ErrorCode::NotFound, "none");
    m_athlete = found.value_or(store::Athlete());
    m_book = {};
    m_plan.reset();
    m_pack = nullptr;
    m_sentReview.reset();
    if (isOpen()) {
        const auto& library = m_workspace.library();
        m_book = m_workspace.valueOr(library.books().of(m_athlete.id));
        m_plan = m_workspace.valueOr(library.plans().latest(m_athlete.id));
        std::string skill = m_plan ? m_plan->pack : std::string();
        if (m_bench.context.isOpen() && m_bench.context.athlete().id == m_athlete.id)
            skill = m_bench.context.day().skill;
        else if (const auto day = library.days().latest(m_athlete.id); skill.empty() && day && *day)
            skill = (*day)->skill;
        m_pack = m_workspace.findPack(skill);
        if (const auto sent = library.sent().of(m_athlete.id))
            for (const auto& row : *sent) { // latest first
                if (m_sentReview || row.kind != "page")
                    continue;
                auto review = parseReview(nlohmann::json::parse(row.review, nullptr, false), row.name);
                if (review && review->oneThing)
                    m_sentReview = std::move(*review);
            }
    }
    emit changed();
}

std::optional<double> PlanContext::age() const
{
    if (!m_book.birthDate)
        return std::nullopt;
    return daysBetween(*m_book.birthDate, m_today) / 365.25;
}

std::optional<Review> PlanContext::review() const
{
    if (!isOpen())
        return std::nullopt;
    if (m_bench.context.isOpen() && m_bench.context.athlete().id == m_athlete.id && m_bench.context.pack()) {
        const Review& review = m_bench.review.review();
        if (review.oneThing || !review.stop.empty())
            return review;
    }
    return m_sentReview;
}

Workload PlanContext::workloadOn(Date date) const
{
    return calcWorkload(m_rule, m_book, date);
}

std::string PlanContext::ruleFile() const
{
    return m_workspace.library().folder() + "/workload.json";
}

void PlanContext::loadRule()
{
    m_isOwnRule = QFile::exists(QString::fromStdString(ruleFile()));
    m_rule = workloadRuleOf(m_workspace.library());
}

void PlanContext::setRule(const std::optional<WorkloadRule>& rule)
{
    const std::string file = ruleFile();
    const auto store = [file](const std::optional<WorkloadRule>& kept) -> Expected<void> {
        if (kept)
            return saveText(file, toJson(*kept).dump(1) + "\n");
        if (QFile::exists(QString::fromStdString(file)) && !QFile::remove(QString::fromStdString(file)))
            return fail(ErrorCode::CannotWrite, "The rule could not be removed.", file);
        return {};
    };
    const std::optional<WorkloadRule> before = m_isOwnRule ? std::optional(m_rule) : std::nullopt;
    (void)m_workspace.edit(
        {tr("the workload rule"), Change{Change::Subject::Book}}, [=](store::Library&) { return store(rule); },
        [=](store::Library&) { return store(before); });
}

void PlanContext::setPlan(const QString& text, Plan plan)
{
    (void)m_workspace.edit(
        {text, Change{Change::Subject::Plan}},
        [id = m_athlete.id, plan = std::move(plan)](store::Library& l) { return l.plans().add(id, plan); },
        [id = m_athlete.id](store::Library& l) { return l.plans().removeLatest(id); });
}

void PlanContext::setDay(const QString& text, const BookDay& day)
{
    const BookDay before = dayOf(day.date);
    if (before == day || !isOpen())
        return;
    (void)m_workspace.edit(
        {text, Change{Change::Subject::Book},
         QStringLiteral("book %1 %2").arg(m_athlete.id.value).arg(QString::fromStdString(textOf(day.date)))},
        [id = m_athlete.id, day](store::Library& l) { return l.books().set(id, day); },
        [id = m_athlete.id, before](store::Library& l) { return l.books().set(id, before); });
}

void PlanContext::setDays(const QString& text, std::vector<BookDay> days)
{
    std::vector<BookDay> before;
    for (const auto& day : days)
        before.push_back(dayOf(day.date));
    const auto store = [id = m_athlete.id](std::vector<BookDay> all) {
        return [id, all = std::move(all)](store::Library& l) {
            return l.together([&]() -> Expected<void> {
                for (const auto& day : all)
                    if (auto done = l.books().set(id, day); !done)
                        return done;
                return {};
            });
        };
    };
    (void)m_workspace.edit({text, Change{Change::Subject::Book}}, store(std::move(days)), store(std::move(before)));
}

void PlanContext::clear(BodyRegion where)
{
    const Cleared cleared{m_today, where};
    (void)m_workspace.edit(
        {tr("cleared by a clinician"), Change{Change::Subject::Book}},
        [id = m_athlete.id, cleared](store::Library& l) { return l.books().addCleared(id, cleared); },
        [id = m_athlete.id, cleared](store::Library& l) { return l.books().removeCleared(id, cleared); });
}

BookDay PlanContext::dayOf(Date date) const
{
    if (const BookDay* day = m_book.find(date))
        return *day;
    BookDay empty;
    empty.date = date;
    return empty;
}

int PlanContext::filmedOn(Date date) const
{
    int count = 0;
    const auto& library = m_workspace.library();
    if (!isOpen() || !m_pack)
        return 0;
    const auto days = library.days().of(m_athlete.id);
    if (!days)
        return 0;
    for (const auto& day : *days) {
        if (day.date != textOf(date) || day.skill != m_pack->id)
            continue;
        const auto clips = library.clips().of(day.id);
        if (!clips)
            continue;
        for (const auto& clip : *clips)
            if (const auto repetitions = library.repetitions().of(clip.id))
                count +=
                    static_cast<int>(std::count_if(repetitions->begin(), repetitions->end(), [](const store::RepetitionRow& r) {
                        return r.isLive && !r.secondCamera.isValid();
                    }));
    }
    return count;
}

int PlanContext::countedInMatches(Date date) const
{
    if (!isOpen() || !m_pack)
        return 0;
    int count = 0;
    for (const auto& row : m_workspace.valueOr(m_workspace.library().matches().on(textOf(date)))) {
        const auto player = playerNamed(row.log, m_athlete.name);
        const auto sport = findMatchSport(row.log.sport);
        if (player && sport)
            count += countIn(row.log, *sport, scoreOf(row.log, *sport), *player, m_pack->counts);
    }
    return count;
}

} // namespace kestrel::app
