#pragma once

#include "core/plan/plan.h"
#include "core/plan/workload.h"

namespace kestrel {

/// What somebody has to be done for, the most pressing first.
enum class DueKind { Pain, RestEnds, FilmAgain, NotSent, Consent, AgeBand };
std::string_view wordOf(DueKind); ///< "film_again"

struct DueItem {
    DueKind kind = DueKind::FilmAgain;
    std::string text;
    bool operator==(const DueItem&) const = default;
};

/// What is known of an athlete, for the list of what is due.
struct DueFacts {
    const Book* book = nullptr;               ///< with the birth date; null: none
    const Plan* plan = nullptr;               ///< null: none
    std::optional<Date> lastFilmed, lastSent; ///< the latest day, and the filming day of the latest page that left
    bool isConsentMissing = false;
};
std::vector<DueItem> dueOf(const DueFacts&, const WorkloadRule&, Date today);

} // namespace kestrel
