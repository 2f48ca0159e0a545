#pragma once

#include "core/plan/book.h"

namespace kestrel {

/// How much is thrown and served at most, as a league or a coach has it. Data: data/workload.json, or the coach's own.
struct WorkloadRule {
    struct Limit {
        int from = 0, to = 0; ///< years, inclusive
        int pitches = 0;      ///< a day
        bool operator==(const Limit&) const = default;
    };
    struct RestStep {
        int over = 0; ///< pitches on a day: more than these
        int days = 0; ///< of rest after it
        bool operator==(const RestStep&) const = default;
    };
    struct Rest {
        int to = 0; ///< years, inclusive
        std::vector<RestStep> steps;
        bool operator==(const Rest&) const = default;
    };
    std::string name, source, words;
    std::vector<std::string> pitchKinds; ///< of the book's counts
    std::vector<Limit> limits;           ///< by age, rising
    std::vector<Rest> rests;             ///< likewise
    int daysRunning = 2;                 ///< on which may be pitched at most
    bool mayCatchToo = false;            ///< pitcher and catcher on one day
    int monthsOff = 2;                   ///< a year without pitching, at least
    std::vector<std::string> overheadKinds;
    double ramp = 0.2; ///< a week may have so much more than the mean of the four before, as a share
    std::string rampWords;
    bool operator==(const WorkloadRule&) const = default;

    /// \param age  completed years; empty: the strictest. Empty: nothing is published for that age.
    std::optional<int> limitFor(std::optional<int> age) const;
    int restAfter(int pitches, std::optional<int> age) const; ///< days
};
Expected<WorkloadRule> loadWorkloadRule(const std::string& file);
Expected<WorkloadRule> parseWorkloadRule(const nlohmann::json&, const std::string& file);
nlohmann::json toJson(const WorkloadRule&);
/// The one that comes with the program.
Expected<WorkloadRule> shippedWorkloadRule();

enum class WarningKind { Limit, Rest, ThreeDays, Ramp, Catcher, MonthsOff, Pain };
std::string_view wordOf(WarningKind); ///< "three_days"

struct WorkloadWarning {
    WarningKind kind = WarningKind::Limit;
    std::string text;
    bool operator==(const WorkloadWarning&) const = default;
};

/// What an athlete may still throw. It never says that something is safe.
struct Workload {
    int count = 0;                   ///< pitches on the day
    std::optional<int> limit;        ///< empty: nothing is published for that age
    std::optional<int> left;         ///< on the day; 0 while resting or in pain; empty without a limit
    std::optional<Date> restUntil;   ///< last day of rest, from the day on; empty: none
    std::optional<Date> nextAllowed; ///< the next day on which pitching is allowed, after what was thrown; empty: pain is open
    std::vector<WorkloadWarning> warnings;
    std::string rule; ///< what it goes by, in words
    bool operator==(const Workload&) const = default;

    bool has(WarningKind) const;
};

/// \param age  completed years; empty: by the book's birth date, and without one the strictest table
Workload calcWorkload(const WorkloadRule&, const Book&, Date on, std::optional<int> age = {});

} // namespace kestrel
