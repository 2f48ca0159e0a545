#pragma once

#include "app/bench/bench.h"
#include "app/pair/pair_side.h"
#include "app/workspace/background.h"
#include "app/workspace/repetition_film.h"
#include "core/compare/change.h"
#include "core/compare/differences.h"
#include "core/read/sequence.h"

#include <QElapsedTimer>
#include <QTimer>

#include <array>
#include <atomic>
#include <functional>
#include <memory>

namespace kestrel::app {

/// Two repetitions of one skill, lined up: the first leads, the other follows by real time or by phase.
class PairModel : public QObject {
    Q_OBJECT
public:
    PairModel(Workspace&, QObject* parent = nullptr);

    /// Gathers both and reads them, on another thread; changed() follows. Of different skills: message() says so.
    void open(store::RepetitionId a, store::RepetitionId b);
    /// The same with the model of what the pack asks for, at the athlete's height.
    void openModel(store::RepetitionId a);
    void close();
    bool isOpen() const { return m_sides[0] && m_sides[1]; }
    bool isGathering() const { return m_isGathering; }
    int modelPercent() const { return *m_modelPercent; }  ///< how much of the model is painted; -1: none is being
    store::RepetitionId first() const { return m_first; } ///< whose film the first one is
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
    void setPlaying(bool, bool isBackward = false);
    double speed() const { return m_speed; }
    void setSpeed(double);

    const std::vector<Difference>& differences() const { return m_differences; }
    const std::vector<PhaseTempo>& tempo() const { return m_tempo; }
    /// The order of the segments; empty: not marked on every picture.
    const std::optional<Sequence>& sequence(std::size_t n) const { return m_sequences[n]; }
    const std::vector<std::string>& unfair() const { return m_unfair; }
    bool areMirrored() const; ///< they are of different hands

    /// As the free function, at the pictures stood at.
    std::optional<QTransform> secondToFirst() const;
    const std::string& anchor() const { return m_anchor; }
    void setAnchor(const std::string& pointRole); ///< what lies on what in a ghost

    /// The measure that is drawn on both films; empty: none.
    const std::string& chosen() const { return m_chosen; }
    void choose(const std::string& measure); ///< and goes where it is read; the chosen one again: none
    /// On that side; null: not read there, or none is chosen.
    const Reading* chosenReading(std::size_t n) const;

signals:
    void changed(); ///< other sides
    void frameChanged();
    void playingChanged();
    void chosenChanged();
    void message(const QString& text);

private:
    struct Gathered {
        Pack pack;
        std::array<PairSide, 2> sides;
        std::vector<Difference> differences;
        std::vector<PhaseTempo> tempo;
        std::vector<std::string> unfair;
        std::array<std::optional<Sequence>, 2> sequences;
        std::array<std::vector<Reading>, 2> readings;
    };
    /// A side, and of which skill and school its day is.
    struct Of {
        PairSide side;
        std::string skill, school;
    };
    static Expected<Of> sideOf(const store::Library&, store::RepetitionId);
    static Expected<Pack> packOf(const std::vector<Pack>&, const std::string& skill);
    static Gathered compared(Pack, PairSide, PairSide);
    using Gatherer = std::function<Expected<Gathered>(const store::Library&, const std::vector<Pack>&, std::stop_token)>;
    void gather(Gatherer);
    void apply(Gathered);
    void follow();
    void onTick();

    Workspace& m_workspace;
    Background m_work;
    bool m_isGathering = false;
    store::RepetitionId m_first;
    std::shared_ptr<std::atomic<int>> m_modelPercent = std::make_shared<std::atomic<int>>(-1);
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
    bool m_isBackward = false;
    std::vector<Difference> m_differences;
    std::vector<PhaseTempo> m_tempo;
    std::vector<std::string> m_unfair;
    std::array<std::optional<Sequence>, 2> m_sequences;
    std::array<std::vector<Reading>, 2> m_readings;
    std::string m_chosen, m_anchor = "midHip";
};

} // namespace kestrel::app
