#include "app/show/change_view.h"

#include "app/workspace/day_films.h"

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr qlonglong kLastPage = 0; // else the id of a day

/// The day as comparing wants it. \param films  outlive it, as do the pictures
report::ChangeDay changeDay(const std::string& date, const std::vector<report::RepetitionFilm>& films, FilmPictures& pictures)
{
    return {date, readingsOf(films), pictures.drawnFrames(films)};
}

} // namespace

ChangeView::ChangeView(Workspace& workspace, Bench& bench, QWidget* parent)
    : DocumentLeaf(workspace, bench, QStringLiteral("change"), parent)
{
    m_since = new QComboBox(this);
    m_since->setObjectName(QStringLiteral("changeSince"));
    m_since->setToolTip(tr("The day it is compared with"));
    m_voice = new VoiceBox(this);
    choices()->addWidget(m_since);
    choices()->addWidget(m_voice);
    connect(m_since, &QComboBox::activated, this, &ChangeView::outdate);
    connect(m_voice, &QComboBox::activated, this, &ChangeView::outdate);
}

/// Other days of the same skill, latest first.
void ChangeView::fillDays()
{
    const auto& context = bench().context;
    const QVariant chosen = m_since->currentData();
    const bool isSame = context.day().id == m_day;
    m_day = context.day().id;
    m_since->clear();
    m_since->addItem(tr("since the last page"), kLastPage);
    for (const auto& day : workspace().valueOr(workspace().library().days().of(context.athlete().id)))
        if (day.skill == context.day().skill && day.id != context.day().id)
            m_since->addItem(tr("with %1").arg(QString::fromStdString(day.date)), qlonglong(day.id.value));
    m_since->setCurrentIndex(isSame ? std::max(0, m_since->findData(chosen)) : 0);
}

DocumentLeaf::Maker ChangeView::maker()
{
    fillDays();
    return [this, chosen = m_since->currentData().toLongLong(), voice = m_voice->voice()](
               const store::Library& library, const ShownDay& shown, std::stop_token stop) -> Expected<Made> {
        const auto day = library.days().find(shown.day);
        if (!day)
            return tl::unexpected(day.error());
        const auto tasks = sentTasks(library, *day);
        if (!tasks)
            return tl::unexpected(tasks.error());
        // the last page's day; where no page went out, the day before this one
        store::DayId other(chosen);
        if (chosen == kLastPage) {
            if (!tasks->empty()) {
                other = tasks->front().day;
            } else if (const auto days = library.days().of(day->athlete)) {
                const auto earlier = std::find_if(days->begin(), days->end(), [&](const store::FilmingDay& d) {
                    return d.skill == day->skill && d.date < day->date;
                });
                if (earlier != days->end())
                    other = earlier->id;
            }
        }
        if (other.value == kLastPage)
            return fail(ErrorCode::NotFound,
                        "There is no earlier filming day of this skill yet: film again, then it is shown here "
                        "what has changed for real.");
        const auto otherDay = library.days().find(other);
        if (!otherDay)
            return tl::unexpected(otherDay.error());
        const auto otherFilms = filmsOf(library, shown.pack, other);
        if (!otherFilms)
            return tl::unexpected(otherFilms.error());
        if (otherFilms->empty() || shown.films.empty())
            return fail(ErrorCode::NotFound, "On one of the two days no key position is placed yet: bring its clips to the Bench "
                                             "and let the program mark them.");
        FilmPictures pictures(stop, shown.hidesFaces);
        report::ChangeDay before = changeDay(otherDay->date, *otherFilms, pictures),
                          after = changeDay(day->date, shown.films, pictures);
        std::vector<std::string> unfair = unfairness(otherFilms->front().marking, shown.films.front().marking);
        if (otherDay->date > day->date)
            std::swap(before, after);
        std::vector<report::PractisedTask> practised;
        for (const auto& t : *tasks)
            if (t.date <= before.date)
                practised.push_back(t.task);
        report::ChangePage page = report::makeChangePage(shown.pack, shown.facts.player, before, after, practised, unfair,
                                                         voice.value_or(report::voiceFor(shown.review.athlete.age)));
        Made made{report::documentOf(page), page.warnings, [this, page] { m_page = page; }};
        const auto said = pictures.warnings();
        made.warnings.insert(made.warnings.begin(), said.begin(), said.end());
        return made;
    };
}

} // namespace kestrel::app
