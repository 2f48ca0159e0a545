#include "core/base/json_reader.h"

#include <cmath>
#include <filesystem>
#include <fstream>
#include <sstream>

namespace kestrel {

namespace {

std::string lineAndColumn(const std::string& text, std::size_t byte)
{
    std::size_t line = 1, column = 1;
    for (std::size_t i = 0; i + 1 < byte && i < text.size(); ++i) {
        if (text[i] == '\n') {
            ++line;
            column = 1;
        } else {
            ++column;
        }
    }
    return "line " + std::to_string(line) + ", column " + std::to_string(column);
}

/// Byte (1-based) at which nesting first gets too deep, 0 when it never does.
std::size_t findTooDeep(const std::string& text)
{
    int depth = 0;
    bool inText = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (inText) {
            if (c == '\\')
                ++i;
            else if (c == '"')
                inText = false;
        } else if (c == '"') {
            inText = true;
        } else if (c == '[' || c == '{') {
            if (++depth > kDeepestJson)
                return i + 1;
        } else if (c == ']' || c == '}') {
            --depth;
        }
    }
    return 0;
}

std::string shortText(const std::string& s)
{
    return s.size() > 40 ? s.substr(0, 37) + "..." : s;
}

/// JSON pointer escaping, RFC 6901.
std::string escaped(const std::string& key)
{
    std::string out;
    for (const char c : key)
        out += c == '~' ? std::string("~0") : c == '/' ? std::string("~1") : std::string(1, c);
    return out;
}

const nlohmann::json kNull;

} // namespace

Expected<nlohmann::json> parseJson(const std::string& text, const std::string& file)
{
    if (text.find_first_not_of(" \t\r\n") == std::string::npos)
        return fail(ErrorCode::NotJson, "The file is empty.", file);
    if (const auto byte = findTooDeep(text))
        return fail(ErrorCode::NotJson, "Nested deeper than " + std::to_string(kDeepestJson) + " levels.", file,
                    lineAndColumn(text, byte));
    try {
        return nlohmann::json::parse(text);
    } catch (const nlohmann::json::parse_error& e) {
        return fail(ErrorCode::NotJson, "This is not JSON from here on.", file, lineAndColumn(text, e.byte));
    } catch (const nlohmann::json::exception&) {
        return fail(ErrorCode::NotJson, "A number in it is too large to be read.", file);
    }
}

Expected<nlohmann::json> loadJson(const std::string& file)
{
    namespace fs = std::filesystem;
    std::error_code ec;
    const auto status = fs::status(file, ec);
    if (ec || !fs::exists(status))
        return fail(ErrorCode::CannotOpen, "There is no such file.", file);
    if (!fs::is_regular_file(status))
        return fail(ErrorCode::CannotOpen, "This is not a file.", file);
    if (fs::file_size(file, ec) > kLargestJsonFile)
        return fail(ErrorCode::CannotOpen, "The file is larger than 256 MB, too large for this format.", file);
    std::ifstream in(file, std::ios::binary);
    std::ostringstream text;
    if (!in || !(text << in.rdbuf() || in.peek() == std::ifstream::traits_type::eof()))
        return fail(ErrorCode::CannotOpen, "The file cannot be read. Check its permissions.", file);
    return parseJson(text.str(), file);
}

std::optional<JsonNode> JsonNode::find(const std::string& key) const
{
    if (!m_value->is_object())
        return std::nullopt;
    const auto it = m_value->find(key);
    if (it == m_value->end() || it->is_null())
        return std::nullopt;
    return JsonNode(*it, m_place + "/" + escaped(key), *m_problems);
}

JsonNode JsonNode::at(const std::string& key) const
{
    if (m_value->is_object()) {
        if (auto node = find(key))
            return *node;
        m_problems->add(m_place + "/" + escaped(key), "This field is missing.");
    } else if (!isMissing()) {
        expected("an object");
    }
    return JsonNode(kNull, m_place + "/" + escaped(key), *m_problems);
}

bool JsonNode::isMissing() const
{
    return m_value == &kNull;
}

bool JsonNode::isList(nlohmann::json::value_t kind, const std::string& words, std::size_t most) const
{
    if (m_value->type() != kind) {
        if (!isMissing())
            expected(words);
        return false;
    }
    if (m_value->size() <= most)
        return true;
    wrong("found " + std::to_string(m_value->size()) + " entries, expected at most " + std::to_string(most));
    return false;
}

JsonNode JsonNode::element(std::size_t i) const
{
    return JsonNode((*m_value)[i], m_place + "/" + std::to_string(i), *m_problems);
}

std::vector<JsonNode> JsonNode::items(std::size_t most) const
{
    std::vector<JsonNode> nodes;
    if (!isList(nlohmann::json::value_t::array, "an array", most))
        return nodes;
    nodes.reserve(m_value->size());
    for (std::size_t i = 0; i < m_value->size(); ++i) {
        nodes.push_back(element(i));
        if (nodes.back().m_value->is_null()) {
            nodes.back().wrong("found null, expected an entry of the list");
            nodes.pop_back();
        }
    }
    return nodes;
}

std::vector<std::optional<double>> JsonNode::numbersOrNulls(std::size_t most) const
{
    std::vector<std::optional<double>> numbers;
    if (isList(nlohmann::json::value_t::array, "an array", most))
        for (std::size_t i = 0; i < m_value->size(); ++i)
            numbers.push_back((*m_value)[i].is_null() ? std::nullopt : std::optional(element(i).number()));
    return numbers;
}

std::vector<std::pair<std::string, JsonNode>> JsonNode::members(std::size_t most) const
{
    std::vector<std::pair<std::string, JsonNode>> list;
    if (!isList(nlohmann::json::value_t::object, "an object", most))
        return list;
    for (const auto& [key, value] : m_value->items()) {
        list.emplace_back(key, JsonNode(value, m_place + "/" + escaped(key), *m_problems));
        if (value.is_null()) {
            list.back().second.wrong("found null, expected something under this name");
            list.pop_back();
        }
    }
    return list;
}

std::string JsonNode::text() const
{
    if (!m_value->is_string()) {
        if (!isMissing())
            expected("text");
        return {};
    }
    const auto& words = m_value->get_ref<const std::string&>();
    if (words.size() <= kLongestText)
        return words;
    wrong("found a text of " + std::to_string(words.size()) + " bytes, expected at most " + std::to_string(kLongestText));
    return {};
}

double JsonNode::number() const
{
    const double v = m_value->is_number() ? m_value->get<double>() : NAN;
    if (std::isfinite(v) && std::abs(v) <= kLargestNumber)
        return v;
    if (m_value->is_number())
        expected("a number of at most a thousand million");
    else if (!isMissing())
        expected("a number");
    return 0;
}

double JsonNode::numberIn(double low, double high) const
{
    const double v = number();
    if (m_value->is_number() && (v < low || v > high)) {
        std::ostringstream range;
        range << "found " << v << ", expected a number from " << low << " to " << high;
        wrong(range.str());
    }
    return v;
}

std::int64_t JsonNode::integerIn(std::int64_t low, std::int64_t high) const
{
    const double v = numberIn(static_cast<double>(low), static_cast<double>(high));
    if (v != std::floor(v)) {
        expected("a whole number");
        return low;
    }
    return v >= static_cast<double>(low) && v <= static_cast<double>(high) ? static_cast<std::int64_t>(v) : low;
}

bool JsonNode::boolean() const
{
    if (m_value->is_boolean())
        return m_value->get<bool>();
    if (!isMissing())
        expected("true or false");
    return false;
}

std::string JsonNode::words() const
{
    const std::string t = text();
    if (m_value->is_string() && t.empty())
        wrong("found an empty text, expected words");
    return t;
}

std::vector<std::string> JsonNode::textsOf(const std::string& key) const
{
    std::vector<std::string> list;
    if (const auto node = find(key))
        for (const auto& item : node->items())
            list.push_back(item.words());
    return list;
}

std::string JsonNode::textOr(const std::string& key, const std::string& fallback) const
{
    const auto node = find(key);
    return node ? node->text() : fallback;
}

double JsonNode::numberOr(const std::string& key, double fallback) const
{
    const auto node = find(key);
    return node ? node->number() : fallback;
}

bool JsonNode::booleanOr(const std::string& key, bool fallback) const
{
    const auto node = find(key);
    return node ? node->boolean() : fallback;
}

std::string JsonNode::found() const
{
    if (m_value->is_string())
        return "the text \"" + shortText(m_value->get<std::string>()) + "\"";
    if (m_value->is_number() || m_value->is_boolean())
        return m_value->dump();
    if (m_value->is_null())
        return "null";
    if (m_value->is_array())
        return m_value->empty() ? "an empty array" : "an array";
    return "an object";
}

std::optional<Error> checkFormat(const nlohmann::json& root, const std::string& format, const std::string& file)
{
    if (!root.is_object())
        return Error{ErrorCode::WrongField, "found something else than an object at the top.", file, "/"};
    const auto name = root.find("format");
    if (name == root.end() || !name->is_string() || name->get<std::string>() != format)
        return Error{ErrorCode::WrongVersion, "expected \"" + format + "\": this is another kind of file.", file, "/format"};
    const auto version = root.find("version");
    if (version == root.end() || !version->is_number())
        return Error{ErrorCode::WrongVersion, "expected a version number.", file, "/version"};
    if (std::floor(version->get<double>()) != 1.0)
        return Error{ErrorCode::WrongVersion,
                     "found version " + version->dump() + ", this program reads version 1. Use a newer program.", file,
                     "/version"};
    return std::nullopt;
}

std::string printed(const nlohmann::json& value, int indent)
{
    return value.dump(indent, ' ', false, nlohmann::json::error_handler_t::replace) + "\n";
}

nlohmann::json finiteOrNull(double value)
{
    return std::isfinite(value) ? nlohmann::json(value) : nlohmann::json();
}
nlohmann::json finiteOrNull(std::optional<double> value)
{
    return value ? finiteOrNull(*value) : nlohmann::json();
}

} // namespace kestrel
