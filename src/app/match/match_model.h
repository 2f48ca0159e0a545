#pragma once

#include "app/film/film_player.h"
#include "app/workspace/background.h"
#include "app/workspace/workspace.h"
#include "core/match/rally_keeper.h"
#include "core/match/tally.h"

#include <QElapsedTimer>
#include <QTimer>

#include <memory>

namespace kestrel::app {

/// A match that is logged: its rallies, everything that follows from them, and the film it was played on, if there is one.
class MatchModel : public QObject {
    Q_OBJECT
public:
    MatchModel(Workspace&, QObject* parent = nullptr);

    bool isOpen() const { return m_id.isValid(); }
    void make(MatchLog); ///< a new one; it is stored and opened
    void open(store::MatchId);
    void close();
    void remove(); ///< can be undone
    store::MatchId id() const { return m_id; }
    const MatchLog& log() const { return m_log; }
    const MatchSport& sport() const { return m_keeper->sport(); }
    const MatchScore& score() const { return m_score; }
    const MatchTallies& tallies(); ///< worked out when asked for
    /// Another match of the same sport in which the first player plays.
    struct Other {
        store::MatchId id;
        PlayerIndex player = 0; ///< the same person there
        MatchTallies tallies;
    };
    const std::optional<Other>& other() const { return m_other; } ///< that this one is compared with; empty: none
    void compareWith(store::MatchId);                             ///< an invalid one: none
    RallyKeeper& keeper() { return *m_keeper; }

    /// The athlete of the library whose name the first player has; empty: none.
    std::optional<store::Athlete> athlete() const;
    void addNextToPlan(); ///< what to train next, as notes of that athlete's plan

    // logging
    bool press(const QString& key);      ///< one of the sport's keys
    void finish(const std::string& won); ///< empty: a let
    void takeBack();                     ///< the last key; without one, the last rally is corrected
    void correct(std::size_t rally);
    void removeRally(std::size_t rally);
    void setRallies(const QString& text, std::vector<Rally>); ///< of a table, or found on the film
    void setFilm(const QString& file);
    void setBestOf(int);
    void setNote(const std::string&); ///< of the rally in hand; of one that is corrected it is stored at once
    void correctServer();             ///< of the rally in hand: the other one serves

    // the film, or the clock
    FilmPlayer& player() { return m_player; }
    bool hasFilm() const { return !m_log.film.empty(); }
    std::string filmPath() const;               ///< where the film should be
    double seconds() const;                     ///< where the film stands, or how long the clock has run
    void playRallies(std::vector<std::size_t>); ///< one after another
    bool isPlayingRallies() const { return !m_queue.empty(); }
    /// Looks for rallies on the film by what moves; proposals are told with found().
    void findRallies();
    bool isFinding() const { return m_isFinding; }
    void stopFinding();

signals:
    void changed(); ///< the log, or another match
    void typed();   ///< the rally in hand
    void rallyPlayed(int rally);
    void findingProgress(int percent);
    void found(const std::vector<kestrel::Rally>& rallies);
    void message(const QString& text);

private:
    void store(const QString& text, MatchLog after);
    void reload();
    void work();
    void openFilm();
    void playNext();

    Workspace& m_workspace;
    FilmPlayer m_player;
    store::MatchId m_id;
    MatchLog m_log;
    std::unique_ptr<RallyKeeper> m_keeper;
    MatchScore m_score;
    std::optional<MatchTallies> m_tallies;
    std::optional<Other> m_other;
    QElapsedTimer m_clock;
    double m_clockStart = 0; // seconds: the log goes on where it ended
    std::vector<std::size_t> m_queue;
    QTimer m_watch; // ends a rally that is played
    Background m_finding;
    bool m_isFinding = false;
};

} // namespace kestrel::app
