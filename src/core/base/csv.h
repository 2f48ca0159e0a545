#pragma once

#include <string>
#include <vector>

namespace kestrel {

/// Rows of cells. A byte order mark is dropped, \r\n is one end of a line, cells in double quotes may hold anything. The
/// separator is the one of comma, semicolon and tab that the first line has most of. Empty lines are left out.
std::vector<std::vector<std::string>> parseCsv(const std::string& text);
/// Quoted where it has to be.
std::string csvCell(const std::string&);
std::string csvLine(const std::vector<std::string>& cells);

} // namespace kestrel
