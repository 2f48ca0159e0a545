#pragma once

#include "core/plan/book.h"
#include "store/db/database.h"
#include "store/records.h"

#include <map>

namespace kestrel::store {

/// What athletes did, day by day, and what clinicians cleared. Pain that was noted with a filming day is in it.
class Books {
public:
    explicit Books(const Database& database) : m_database(&database) {}

    /// With the athlete's birth date.
    Expected<Book> of(AthleteId) const;
    Expected<std::map<AthleteId, Book>> all() const; ///< of everybody who has one
    /// The same, of the days from one on and those on which something hurt.
    Expected<std::map<AthleteId, Book>> since(Date) const;
    /// Takes the place of what stood for that day; an empty one leaves nothing.
    Expected<void> set(AthleteId, const BookDay&);
    Expected<void> addCleared(AthleteId, const Cleared&);
    Expected<void> removeCleared(AthleteId, const Cleared&);

private:
    Expected<std::map<AthleteId, Book>> read(AthleteId only, std::optional<Date> since) const;

    const Database* m_database;
};

} // namespace kestrel::store
