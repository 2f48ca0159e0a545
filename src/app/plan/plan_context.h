#pragma once

#include "app/bench/bench.h"
#include "app/workspace/workspace.h"
#include "core/plan/planner.h"

namespace kestrel::app {

/// Whose plan, book and workload are seen, as the library has them.
class PlanContext : public QObject {
    Q_OBJECT
public:
    PlanContext(Workspace&, Bench&, QObject* parent = nullptr);

    bool isOpen() const { return m_athlete.id.isValid(); }
    void open(store::AthleteId);
    const store::Athlete& athlete() const { return m_athlete; }
    const Book& book() const { return m_book; }
    const std::optional<Plan>& plan() const { return m_plan; }
    std::optional<double> age() const; ///< years, today
    /// Of the plan, else of what was filmed last. Null: nothing was.
    const Pack* pack() const { return m_pack; }
    /// The review on the bench if it is this athlete's, else the one of the last page that was sent. Empty: there is neither.
    std::optional<Review> review() const;
    /// The library's own, else the one that comes with the program.
    const WorkloadRule& rule() const { return m_rule; }
    bool isOwnRule() const { return m_isOwnRule; }
    void setRule(const std::optional<WorkloadRule>&); ///< the library's own; empty: the shipped one again. Can be undone
    Workload workloadOn(Date) const;

    Date today() const { return m_today; }
    void setToday(Date); ///< what the day is

    // edits, each can be undone
    void setPlan(const QString& text, Plan);          ///< a new version
    void setDay(const QString& text, const BookDay&); ///< of the book
    void setDays(const QString& text, std::vector<BookDay>);
    void clear(BodyRegion);    ///< a clinician let the athlete go on, today
    BookDay dayOf(Date) const; ///< an empty one where nothing is noted
    /// Live repetitions that were filmed on a day, of the pack's skill.
    int filmedOn(Date) const;
    /// What the athlete did of the same in matches that were logged on a day under the athlete's name.
    int countedInMatches(Date) const;

    Workspace& workspace() { return m_workspace; }

signals:
    void changed();

private:
    void reload();
    void loadRule();
    std::string ruleFile() const;

    Workspace& m_workspace;
    Bench& m_bench;
    store::Athlete m_athlete;
    Book m_book;
    std::optional<Plan> m_plan;
    const Pack* m_pack = nullptr;
    std::optional<Review> m_sentReview; // of the latest page that has a task
    WorkloadRule m_rule;
    bool m_isOwnRule = false;
    Date m_today;
};

} // namespace kestrel::app
