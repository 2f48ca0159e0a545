#include "app/match/match_model.h"

#include "app/workspace/progress_teller.h"
#include "app/workspace/row_edits.h"
#include "vision/movement.h"

#include <algorithm>

namespace kestrel::app {

MatchModel::MatchModel(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace)
{
    m_player.setSpeed(1);
    m_watch.setInterval(50);
    connect(&m_watch, &QTimer::timeout, this, [this] {
        if (m_queue.empty())
            return m_watch.stop();
        const Rally& r = m_log.rallies[m_queue.front()];
        if (!m_player.isPlaying() || seconds() >= r.to.value_or(0)) {
            m_queue.erase(m_queue.begin());
            playNext();
        }
    });
    connect(&m_player, &FilmPlayer::message, this, &MatchModel::message);
    connect(&workspace, &Workspace::changed, this, [this](const Change& change) {
        if (isOpen() && (change.subject == Change::Subject::Match || change.subject == Change::Subject::Anything))
            reload();
    });
}

void MatchModel::make(MatchLog log)
{
    auto kept = std::make_shared<std::optional<store::TakenRows>>();
    auto id = std::make_shared<store::MatchId>();
    (void)m_workspace.edit(
        {tr("a new match"), Change{Change::Subject::Match}},
        [=](store::Library& l) -> Expected<void> {
            if (*kept)
                return l.restore(**kept);
            return l.matches().add(log).map([&](store::MatchId added) { *id = added; });
        },
        [=](store::Library& l) -> Expected<void> { return l.take(*id).map([&](store::TakenRows r) { *kept = std::move(r); }); });
    if (id->isValid())
        open(*id);
}

void MatchModel::open(store::MatchId id)
{
    close();
    m_id = id;
    reload();
    if (!isOpen())
        return;
    m_clock.start();
    m_clockStart = m_log.rallies.empty() ? 0 : m_log.rallies.back().to.value_or(0) + 5;
    openFilm();
}

void MatchModel::close()
{
    stopFinding();
    m_queue.clear();
    m_other.reset();
    m_id = {};
    m_player.close();
    m_log = {};
    m_keeper.reset();
    emit changed();
}

void MatchModel::remove()
{
    const auto id = m_id;
    close();
    removeRow(m_workspace, {tr("remove the match"), Change{Change::Subject::Match}}, id);
}

void MatchModel::reload()
{
    const auto row = m_workspace.library().matches().find(m_id);
    if (!row) { // removed, or its making undone
        close();
        return;
    }
    const bool isOtherFilm = row->log.film != m_log.film;
    m_log = row->log;
    if (!m_keeper || m_keeper->sport().id != m_log.sport) {
        auto sport = findMatchSport(m_log.sport);
        if (!sport) {
            emit message(QString::fromStdString(sport.error().text()));
            return close();
        }
        m_keeper = std::make_unique<RallyKeeper>(std::move(*sport));
    }
    if (m_keeper->corrected() && *m_keeper->corrected() >= m_log.rallies.size())
        m_keeper->letGo();
    work();
    if (isOtherFilm && m_player.isOpen())
        openFilm();
    emit changed();
}

void MatchModel::work()
{
    m_score = scoreOf(m_log, sport());
    m_tallies.reset();
}

const MatchTallies& MatchModel::tallies()
{
    if (!m_tallies)
        m_tallies = talliesOf(m_log, sport(), m_score);
    return *m_tallies;
}

void MatchModel::compareWith(store::MatchId id)
{
    m_other.reset();
    if (id.isValid() && isOpen()) {
        const auto row = m_workspace.library().matches().find(id);
        if (!row) {
            emit m_workspace.failed(row.error());
        } else {
            const auto& players = row->log.players;
            const auto at = std::find(players.begin(), players.end(), m_log.players[0]);
            if (row->log.sport != m_log.sport || at == players.end())
                emit message(tr("%1 does not play in that match.").arg(QString::fromStdString(m_log.players[0])));
            else
                m_other = Other{id, static_cast<PlayerIndex>(at - players.begin()),
                                talliesOf(row->log, sport(), scoreOf(row->log, sport()))};
        }
    }
    emit changed();
}

std::optional<store::Athlete> MatchModel::athlete() const
{
    const auto all = m_workspace.library().athletes().all();
    if (all && isOpen())
        for (const auto& a : *all)
            if (playerNamed(m_log, a.name) == PlayerIndex{0})
                return a;
    return std::nullopt;
}

void MatchModel::addNextToPlan()
{
    const auto who = athlete();
    if (!who)
        return;
    const auto before = m_workspace.valueOr(m_workspace.library().plans().latest(who->id));
    if (!before)
        return emit message(tr("%1 has no plan yet: make one under Plan.").arg(QString::fromStdString(who->name)));
    Plan plan = *before;
    for (const auto& next : tallies().next)
        if (const std::string note = "From the match of " + m_log.date + ": " + next.text + " (" + next.because + ")";
            std::find(plan.coachNotes.begin(), plan.coachNotes.end(), note) == plan.coachNotes.end())
            plan.coachNotes.push_back(note);
    if (plan == *before)
        return emit message(tr("It is on the plan already."));
    ++plan.sequence;
    const auto done = m_workspace.edit(
        {tr("what to train next, onto the plan"), Change{Change::Subject::Plan}},
        [id = who->id, plan](store::Library& l) { return l.plans().add(id, plan); },
        [id = who->id](store::Library& l) { return l.plans().removeLatest(id); });
    if (done)
        emit message(tr("It stands on the plan of %1.").arg(QString::fromStdString(who->name)));
}

void MatchModel::setNote(const std::string& note)
{
    if (!isOpen() || m_keeper->inHand().note == note)
        return;
    Rally r = m_keeper->inHand();
    r.note = note;
    m_keeper->setInHand(r);
    if (const auto corrected = m_keeper->corrected()) {
        MatchLog after = m_log;
        after.rallies[*corrected].note = note;
        store(tr("note of rally %1").arg(*corrected + 1), std::move(after));
    }
    emit typed();
}

void MatchModel::store(const QString& words, MatchLog after)
{
    (void)m_workspace.edit(
        {words, Change{Change::Subject::Match, m_id.value}},
        [id = m_id, after = std::move(after)](store::Library& l) { return l.matches().save(id, after); },
        [id = m_id, before = m_log](store::Library& l) { return l.matches().save(id, before); });
}

bool MatchModel::press(const QString& key)
{
    if (!isOpen() || !m_keeper->press(key.toUpper().toStdString(), seconds()))
        return false;
    emit typed();
    return true;
}

void MatchModel::finish(const std::string& won)
{
    if (!isOpen())
        return;
    MatchLog after = m_log;
    const auto corrected = m_keeper->corrected();
    Rally done = m_keeper->finish(won, seconds());
    if (corrected)
        after.rallies[*corrected] = std::move(done);
    else
        after.rallies.push_back(std::move(done));
    store(corrected ? tr("correct a rally") : tr("a rally"), std::move(after));
    emit typed();
}

void MatchModel::takeBack()
{
    if (!isOpen())
        return;
    if (!m_keeper->takeBack() && !m_keeper->corrected() && !m_log.rallies.empty())
        return correct(m_log.rallies.size() - 1);
    emit typed();
}

void MatchModel::correct(std::size_t rally)
{
    if (rally >= m_log.rallies.size())
        return;
    m_keeper->correct(rally, m_log.rallies[rally]);
    emit typed();
}

void MatchModel::removeRally(std::size_t rally)
{
    if (!isOpen() || rally >= m_log.rallies.size())
        return;
    m_keeper->letGo();
    MatchLog after = m_log;
    after.rallies.erase(after.rallies.begin() + static_cast<std::ptrdiff_t>(rally));
    store(tr("remove a rally"), std::move(after));
    emit typed();
}

void MatchModel::setRallies(const QString& words, std::vector<Rally> rallies)
{
    if (!isOpen())
        return;
    MatchLog after = m_log;
    after.rallies = std::move(rallies);
    m_keeper->letGo();
    store(words, std::move(after));
}

void MatchModel::setFilm(const QString& file)
{
    if (!isOpen())
        return;
    MatchLog after = m_log;
    after.film = m_workspace.library().storedPath(file.toStdString());
    store(tr("the match's film"), std::move(after));
    openFilm();
}

void MatchModel::setBestOf(int n)
{
    if (!isOpen() || n == m_log.bestOf)
        return;
    MatchLog after = m_log;
    after.bestOf = n;
    store(tr("best of %1").arg(n), std::move(after));
}

void MatchModel::correctServer()
{
    if (!isOpen())
        return;
    const PlayerIndex now = m_keeper->corrected() ? m_score.before[*m_keeper->corrected()].server : m_score.now.server;
    Rally r = m_keeper->inHand();
    r.server = r.server.empty() ? m_log.players[1 - now] : std::string();
    const auto corrected = m_keeper->corrected();
    if (corrected) {
        m_keeper->correct(*corrected, r);
    } else { // the rally in hand keeps what was typed
        m_keeper->letGo();
        m_keeper->setInHand(r);
    }
    emit typed();
}

std::string MatchModel::filmPath() const
{
    return m_workspace.library().filmPath(m_log.film);
}

void MatchModel::openFilm()
{
    if (m_log.film.empty())
        return m_player.close();
    m_player.open(QString::fromStdString(filmPath()), {}, 0, {30, 30});
    m_player.setSpeed(1);
}

double MatchModel::seconds() const
{
    if (m_player.isOpen()) {
        const auto t = m_player.clock().timeOf(m_player.frame());
        return t ? t->seconds : 0;
    }
    return m_clock.isValid() ? m_clockStart + static_cast<double>(m_clock.elapsed()) / 1000 : 0;
}

void MatchModel::playRallies(std::vector<std::size_t> rallies)
{
    std::erase_if(rallies,
                  [this](std::size_t n) { return n >= m_log.rallies.size() || !m_log.rallies[n].from || !m_log.rallies[n].to; });
    if (!m_player.isOpen() || rallies.empty())
        return emit message(hasFilm() ? tr("Those rallies have no place on the film.") : tr("There is no film of this match."));
    m_queue = std::move(rallies);
    playNext();
}

void MatchModel::playNext()
{
    if (m_queue.empty()) {
        m_watch.stop();
        m_player.setPlaying(false);
        return;
    }
    const std::size_t n = m_queue.front();
    m_player.setPlaying(false);
    m_player.setFrame(m_player.clock().frameAt(RealTime{*m_log.rallies[n].from}));
    m_player.setPlaying(true);
    m_watch.start();
    emit rallyPlayed(static_cast<int>(n));
}

void MatchModel::findRallies()
{
    if (!hasFilm() || m_isFinding)
        return;
    m_isFinding = true;
    const auto progress = tellProgress(this, 1, [this](int percent) {
        if (m_isFinding)
            emit findingProgress(percent);
    });
    m_finding = Background::run(
        this, [film = filmPath(), progress](std::stop_token stop) { return vision::movementOf(film, progress, stop); },
        [this](const Expected<std::vector<MovementSample>>& samples) {
            m_isFinding = false;
            if (!samples)
                return emit m_workspace.failed(samples.error());
            std::vector<Rally> rallies;
            for (const auto& f : kestrel::findRallies(*samples)) {
                Rally r;
                r.from = f.from;
                r.to = f.to;
                rallies.push_back(std::move(r));
            }
            emit found(rallies);
        });
}

void MatchModel::stopFinding()
{
    m_finding.stop();
    m_isFinding = false;
}

} // namespace kestrel::app
