#pragma once

#include "app/bench/clip_context.h"
#include "app/bench/day_reader.h"
#include "app/film/film_player.h"
#include "app/workspace/background.h"

#include <QTimer>

namespace kestrel::app {

/// Readings of the repetition on the bench, and the review of its day: every repetition of every clip, judged as one. The
/// readings of each repetition are kept by the key of everything they depend on; what did not change is not read again.
class ReviewModel : public QObject {
    Q_OBJECT
public:
    ReviewModel(Workspace&, ClipContext&, FilmPlayer&, QObject* parent = nullptr);

    /// Of the day. Judged when first asked for after a change; where there is much to go through, on another thread, and until
    /// reviewChanged() it is the one before the change, or an empty one.
    const Review& review() const { return judged().review; }
    /// Of the repetition on the bench, in the pack's order; with their spread over the day.
    const std::vector<Reading>& readings() const { return judged().readings; }
    const Reading* findReading(const std::string& measure) const;
    const std::optional<Sequence>& sequence() const { return judged().sequence; } ///< of the repetition on the bench
    /// False: nobody has asked since the last change, or reviewChanged() is to come.
    bool isJudged() const { return m_isJudged; }
    int repetitionsOfDay() const { return judged().repetitions; } ///< that count and show something
    int clipsOfDay() const { return judged().clips; }             ///< on which they are
    /// How fast each segment turns, for drawing; empty without a sequence.
    const std::vector<SegmentCurve>& sequenceCurves() const { return judged().curves; }

    /// The repetitions that were judged together, in the order of Review::films.
    struct Together {
        store::RepetitionId id;
        std::shared_ptr<const RepetitionReadings> read;
    };
    const std::vector<Together>& together() const { return judged().together; }

    const std::string& selectedReading() const { return m_selected; }
    void selectReading(const std::string& measure); ///< and goes to its frame; the selected one again: none
    /// To be drawn on the film now; null: nothing.
    const Reading* shownReading() const;

    void applySettings(); ///< they have changed

signals:
    void reviewChanged(); ///< follows a change in a turn of its own: judging and showing it takes longer
    void selectionChanged();

private:
    struct Judged {
        Review review;
        std::vector<Reading> readings;
        std::optional<Sequence> sequence;
        std::vector<SegmentCurve> curves;
        int repetitions = 0, clips = 0;
        std::vector<Together> together;
        ReadingCache cache;
        std::vector<std::pair<store::RepetitionId, store::KeptReadings>> toKeep;
    };
    struct Job {
        store::DayId day;
        store::RepetitionId shown;
        Marking shownMarking;
        FrameClock shownClock;
        std::optional<OpenTimes> open;
        Pack pack;
        JudgeOptions options;
        ReadingCache cache;
    };
    static Expected<GatheredDay> gather(const store::Library&, const Job&, std::size_t mostMarks);
    static Judged judge(GatheredDay, const Job&);
    Job job() const;
    const std::string& lastTask() const;
    void unjudge();
    void onTurn();
    const Judged& judged() const;
    bool judgeHere(const Job&) const; ///< false: there is too much to read for that
    void judgeElsewhere(Job);
    void apply(Judged) const;

    Workspace& m_workspace;
    ClipContext& m_context;
    FilmPlayer& m_player;
    mutable Judged m_judged;
    mutable bool m_isJudged = false;
    bool m_isJudging = false; // on another thread
    Background m_work;
    QTimer m_turn;
    mutable std::optional<store::FilmingDay> m_lastTaskOf; // the day it was looked up for
    mutable std::string m_lastTask;
    store::DayId m_day; // whose review this is
    int m_tasks = 1;    // that go home
    std::string m_selected;
};

} // namespace kestrel::app
