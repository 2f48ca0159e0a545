#pragma once

#include "core/plan/book.h"

#include <string>
#include <vector>

namespace kestrel {

/// A table of days read into a book: what each column was taken for, the days, and the lines that could not be read.
struct BookTable {
    std::vector<std::pair<std::string, std::string>> columns; ///< head and what it is taken for; "" where nothing
    std::vector<BookDay> days;                                ///< by date, each once
    std::vector<std::string> problems;                        ///< "line 7: ..."
};
/// Columns are found by their names: date; pitch, serve, throw, swing, stroke (also in the plural); attempted, made; minutes,
/// effort, catcher, pain (region), pain level, mood, note. Dates as 2026-04-11, 11.04.2026 or 04/11/2026 (month first).
BookTable bookFromCsv(const std::string& text);
std::string toCsv(const Book&);

} // namespace kestrel
