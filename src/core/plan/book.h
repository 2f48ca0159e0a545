#pragma once

#include "core/base/date.h"
#include "core/base/error.h"
#include "core/judge/pain.h"

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

namespace kestrel {

class JsonNode;

/// Where it hurt on a day, and how much.
struct BookPain {
    BodyRegion where = BodyRegion::Other;
    int level = 0; ///< 0 none to 10
    bool operator==(const BookPain&) const = default;
};

/// A drill that was done.
struct BookDrill {
    std::string id;
    int sets = 0, reps = 0;
    bool operator==(const BookDrill&) const = default;
};

/// What was done on a day.
struct BookDay {
    Date date;
    std::map<std::string, int> counts; ///< by kind: "pitch", "serve", "throw"
    int attempted = 0, made = 0;       ///< shots
    bool isCatcher = false;            ///< caught in a game on that day
    std::vector<BookPain> pain;
    std::vector<BookDrill> drills;
    std::optional<double> minutes;
    std::optional<int> effort; ///< 1 easy to 10 all out
    std::string mood, note;
    bool operator==(const BookDay&) const = default;

    int count(const std::vector<std::string>& kinds) const;
    bool isEmpty() const; ///< nothing but the date
};

/// The coach noted that a licensed clinician let the athlete go on.
struct Cleared {
    Date date;
    BodyRegion where = BodyRegion::Other;
    bool operator==(const Cleared&) const = default;
};

/// What an athlete did, day by day.
struct Book {
    std::optional<Date> birthDate;
    std::vector<BookDay> days; ///< by date, each once
    std::vector<Cleared> cleared;
    bool operator==(const Book&) const = default;

    const BookDay* find(Date) const;
    /// Where it hurt on the last noted day before or on that one and nobody has cleared it since.
    std::set<BodyRegion> openPain(Date on) const;
};

/// Days of one date become one. Errors: those of the JSON, with pointers; a date that does not exist, a negative count.
Expected<Book> parseBook(const nlohmann::json&, const std::string& file);
Expected<Book> loadBook(const std::string& file);
nlohmann::json toJson(const Book&); ///< `format` "jolly-kestrel/book"

nlohmann::json toJson(const BookDay&);
/// A day of another document; mistakes are reported at their place in it.
BookDay readBookDay(const JsonNode&);
Expected<BookDay> parseBookDay(const nlohmann::json&, const std::string& file);

} // namespace kestrel
