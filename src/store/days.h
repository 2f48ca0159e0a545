#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <map>
#include <set>

#include <vector>

namespace kestrel::store {

/// Filming days.
class Days {
public:
    explicit Days(const Database& database) : m_database(&database) {}

    Expected<std::vector<FilmingDay>> of(AthleteId) const; ///< newest first
    Expected<FilmingDay> find(DayId) const;                ///< NotFound
    /// The athlete's newest day. Empty: none yet.
    Expected<std::optional<FilmingDay>> latest(AthleteId) const;
    /// The date of everybody's newest day.
    Expected<std::map<AthleteId, std::string>> lastDates() const;
    /// The date of everybody's newest day that has a film.
    Expected<std::map<AthleteId, std::string>> lastFilmed() const;
    /// Who has a day of that skill.
    Expected<std::set<AthleteId>> withSkill(const std::string& skill) const;
    Expected<DayId> add(const FilmingDay&);
    /// With another skill, the key positions, answers and variants of the old one are kept aside, and those that were kept of
    /// the new one come back. \param usualVariant  for repetitions that had none of the new skill
    Expected<void> save(const FilmingDay&, const std::string& usualVariant = {});

private:
    Expected<std::map<AthleteId, std::string>> datesBy(const QString& query) const;
    Expected<void> keepVariants(const FilmingDay& before, const FilmingDay& after, const std::string& usualVariant);

    const Database* m_database;
};

} // namespace kestrel::store
