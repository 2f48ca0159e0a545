#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <map>
#include <string>
#include <vector>

namespace kestrel::store {

/// Repetitions, and what the coach placed and answered on them for the skill of their day.
class Repetitions {
public:
    explicit Repetitions(const Database& database) : m_database(&database) {}

    Expected<std::vector<RepetitionRow>> of(ClipId) const; ///< in the order of the film; at least one
    Expected<RepetitionRow> find(RepetitionId) const;      ///< NotFound
    Expected<RepetitionId> add(const RepetitionRow&);
    Expected<void> save(const RepetitionRow&);

    Expected<std::vector<Event>> events(RepetitionId) const;
    Expected<std::map<std::string, std::string>> answers(RepetitionId) const; ///< observation -> choice
    /// Empty removes it.
    Expected<void> setEvent(RepetitionId, const std::string& keyPosition, const std::optional<Event>&);
    Expected<void> setAnswer(RepetitionId, const std::string& observation, const std::optional<std::string>& choice);

    /// A clip's repetitions with what lies on them, in the order of the film.
    Expected<std::vector<RepetitionRecord>> records(ClipId) const;
    /// Others take their place, all at once; one without an id gets one. Gives their ids. What was kept of other skills stays
    /// with those that stay. BadArgument: none are given.
    Expected<std::vector<RepetitionId>> replace(ClipId, const std::vector<RepetitionRecord>&);

    /// The same repetition on another clip of the day, whichever of the two says so; empty: filmed from one side only.
    Expected<std::optional<RepetitionId>> secondCamera(RepetitionId) const;
    /// Ties the two together and takes the first one's former tie away.
    Expected<void> setSecondCamera(RepetitionId, std::optional<RepetitionId>);

private:
    Expected<void> insertEvent(RepetitionId, const Event&);
    Expected<void> insertAnswer(RepetitionId, const std::string& observation, const std::string& choice);
    Expected<void> insert(const RepetitionRow&, RepetitionId& id);
    Expected<void> put(RepetitionRecord, RepetitionId& id);

    const Database* m_database;
};

} // namespace kestrel::store
