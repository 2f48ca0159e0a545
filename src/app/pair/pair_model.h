#pragma once

#include "app/bench/bench.h"
#include "app/workspace/background.h"
#include "app/workspace/repetition_film.h"
#include "core/compare/change.h"
#include "core/compare/differences.h"

#include <QElapsedTimer>
#include <QTimer>

#include <array>
#include <memory>

namespace kestrel::app {

/// One side of a pair: a repetition with its film.
struct PairSide {
    std::string title; ///< "Ada Moss, 2026-04-11"
    report::WalkFilm film;
    std::shared_ptr<const PreparedRepetition> prepared;
};

/// Two repetitions of one skill, lined up: the first leads, the other follows by real time or by phase.
class PairModel : public QObject {
    Q_OBJECT
public:
    PairModel(Workspace&, QObject* parent = nullptr);

    /// Gathers both and reads them, on another thread; changed() follows. Of different skills: message() says so.
    void open(store::RepetitionId a, store::RepetitionId b);
    void close();
    bool isOpen() const { return m_sides[0] && m_sides[1]; }
    bool isGathering() const { return m_isGathering; }
    const PairSide& side(std::size_t n) const { return *m_sides[n]; }
    FilmPlayer& player(std::size_t n) { return m_players[n]; }
    const FilmPlayer& player(std::size_t n) const { return m_players[n]; }
    const Pack* pack() const { return m_pack; }

    // lined up
    const std::string& linedUpAt() const { return m_at; }
    void setLinedUpAt(const std::string& keyPosition); ///< both stand there
    LineUp::By by() const { return m_by; }
    void setBy(LineUp::By);
    double offset() const { return m_offset; } ///< pictures by which the second is moved besides
    void nudge(double pictures);
    /// Key positions placed on both, in the pack's order.
    std::vector<const KeyPosition*> commonPositions() const;
    void goTo(const std::string& keyPosition);

    // moving
    void setFrame(FrameIndex ofFirst);
    void step(int pictures) { setFrame(FrameIndex(m_players[0].frame().value + pictures)); }
    bool isPlaying() const { return m_tick.isActive(); }
    void setPlaying(bool);
    double speed() const { return m_speed; }
    void setSpeed(double);

    const std::vector<Difference>& differences() const { return m_differences; }
    const std::vector<PhaseTempo>& tempo() const { return m_tempo; }
    const std::vector<std::string>& unfair() const { return m_unfair; }
    bool areMirrored() const; ///< they are of different hands

    /// From the second film's picture to the first's: same standing height, the anchor on the anchor, mirrored where hands
    /// differ. Empty: the bodies are not marked on both pictures.
    std::optional<QTransform> secondToFirst() const;

signals:
    void changed(); ///< other sides
    void frameChanged();
    void playingChanged();
    void message(const QString& text);

private:
    struct Gathered {
        Pack pack;
        std::array<PairSide, 2> sides;
        std::vector<Difference> differences;
        std::vector<PhaseTempo> tempo;
        std::vector<std::string> unfair;
    };
    void apply(Gathered);
    void follow();
    void onTick();

    Workspace& m_workspace;
    Background m_work;
    bool m_isGathering = false;
    std::array<FilmPlayer, 2> m_players;
    std::array<std::optional<PairSide>, 2> m_sides;
    std::optional<Pack> m_ownPack;
    const Pack* m_pack = nullptr;
    std::optional<LineUp> m_lineUp;
    std::string m_at;
    LineUp::By m_by = LineUp::By::RealTime;
    double m_offset = 0, m_speed = 0.25;
    QTimer m_tick;
    QElapsedTimer m_since;
    double m_startSeconds = 0;
    std::vector<Difference> m_differences;
    std::vector<PhaseTempo> m_tempo;
    std::vector<std::string> m_unfair;
};

} // namespace kestrel::app
