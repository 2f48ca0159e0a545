#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <string>
#include <vector>

namespace kestrel::store {

/// Clips: films and what has to be known to read them.
class Clips {
public:
    explicit Clips(const Database& database) : m_database(&database) {}

    Expected<std::vector<Clip>> of(DayId) const; ///< in the order they were added
    Expected<Clip> find(ClipId) const;           ///< NotFound
    /// For a list of films: all of the day, in the order they were added, in a fixed number of queries.
    Expected<std::vector<ClipSummary>> summaries(DayId) const;
    Expected<ClipId> add(const Clip&, const std::string& variant = {}); ///< with one repetition, all of it
    /// Another day in the clip moves it there: what was placed for the old day's skill waits as in Days::save. \param
    /// usualVariant  as Days::save
    Expected<void> save(const Clip&, const std::string& usualVariant = {});

private:
    Expected<void> follow(DayId from, const Clip&, const std::string& usualVariant);

    const Database* m_database;
};

} // namespace kestrel::store
