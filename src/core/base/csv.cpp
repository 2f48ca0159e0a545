#include "core/base/csv.h"

#include <algorithm>

namespace kestrel {

std::vector<std::vector<std::string>> parseCsv(const std::string& text)
{
    const std::size_t begin = text.rfind("\xEF\xBB\xBF", 0) == 0 ? 3 : 0;
    const std::string first = text.substr(begin, text.find('\n', begin) - begin);
    char separator = ',';
    for (const char c : {';', '\t'})
        if (std::count(first.begin(), first.end(), c) > std::count(first.begin(), first.end(), separator))
            separator = c;
    std::vector<std::vector<std::string>> rows;
    std::vector<std::string> row;
    std::string cell;
    bool isQuoted = false, isEmpty = true;
    const auto endCell = [&] {
        row.push_back(std::move(cell));
        cell.clear();
    };
    const auto endRow = [&] {
        endCell();
        if (!isEmpty)
            rows.push_back(std::move(row));
        row.clear();
        isEmpty = true;
    };
    for (std::size_t i = begin; i < text.size(); ++i) {
        const char c = text[i];
        if (isQuoted) {
            if (c == '"' && i + 1 < text.size() && text[i + 1] == '"')
                cell += text[++i];
            else if (c == '"')
                isQuoted = false;
            else
                cell += c;
        } else if (c == '"' && cell.empty()) {
            isQuoted = true;
            isEmpty = false;
        } else if (c == separator) {
            endCell();
            isEmpty = false;
        } else if (c == '\n') {
            endRow();
        } else if (c != '\r') {
            cell += c;
            isEmpty = false;
        }
    }
    endRow();
    return rows;
}

std::string csvCell(const std::string& text)
{
    if (text.find_first_of(",;\t\"\n\r") == std::string::npos)
        return text;
    std::string quoted = "\"";
    for (const char c : text)
        quoted += c == '"' ? std::string("\"\"") : std::string(1, c);
    return quoted + "\"";
}

std::string csvLine(const std::vector<std::string>& cells)
{
    std::string line;
    for (std::size_t n = 0; n < cells.size(); ++n) {
        if (n > 0)
            line += ',';
        line += csvCell(cells[n]);
    }
    line += '\n';
    return line;
}

} // namespace kestrel
