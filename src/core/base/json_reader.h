#pragma once

#include "core/base/error.h"
#include "core/base/part_file.h"

#include <cstdint>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// Files larger than this are refused before they are read: no marking or pack comes near it.
inline constexpr std::uintmax_t kLargestJsonFile = 256u << 20;
/// Deeper nesting than this is refused before parsing; our own formats need six levels.
inline constexpr int kDeepestJson = 64;
/// No list, text or number of ours comes near these. Whoever reads a longer list says so.
inline constexpr std::size_t kMostItems = 1000;
inline constexpr std::size_t kLongestText = 5000; ///< in bytes
inline constexpr double kLargestNumber = 1e9;
/// Mistakes of one file that are kept; who has mended these looks again.
inline constexpr std::size_t kMostProblems = 100;

/// Parses text that may be hostile. Errors: NotJson with "line L, column C".
Expected<nlohmann::json> parseJson(const std::string& text, const std::string& file);
/// Reads and parses a file. Errors: CannotOpen, NotJson.
Expected<nlohmann::json> loadJson(const std::string& file);

/// Mistakes found while reading one file, in reading order.
class JsonProblems {
public:
    explicit JsonProblems(std::string file) : m_file(std::move(file)) {}
    void add(std::string place, std::string message)
    {
        if (m_list.size() < kMostProblems)
            m_list.push_back({ErrorCode::WrongField, std::move(message), m_file, place.empty() ? "/" : std::move(place)});
    }
    const std::vector<Error>& list() const { return m_list; }
    const std::string& file() const { return m_file; }

private:
    std::string m_file;
    std::vector<Error> m_list;
};

/// A place in a JSON document that reads typed values and reports what it found and what it expected with the JSON
/// pointer. After a mistake it returns a harmless value and reading goes on, so one pass lists every mistake.
class JsonNode {
public:
    JsonNode(const nlohmann::json& value, std::string place, JsonProblems& problems)
        : m_value(&value), m_place(std::move(place)), m_problems(&problems)
    {
    }

    const std::string& place() const { return m_place; }
    const nlohmann::json& raw() const { return *m_value; }

    /// The member, or empty when absent or null.
    std::optional<JsonNode> find(const std::string& key) const;
    /// The member; a missing one is reported and reads as null.
    JsonNode at(const std::string& key) const;
    /// The elements. Anything but an array, and one with more than \p most, is reported and reads as none;
    /// an element that is null is reported and left out.
    std::vector<JsonNode> items(std::size_t most = kMostItems) const;
    /// The elements of a list of numbers in which null is allowed and means none.
    std::vector<std::optional<double>> numbersOrNulls(std::size_t most = kMostItems) const;
    /// Name and value of each member, with the same limits; anything but an object is reported and reads as none.
    std::vector<std::pair<std::string, JsonNode>> members(std::size_t most = kMostItems) const;

    std::string text() const;  ///< of at most kLongestText bytes
    std::string words() const; ///< a text that is not empty
    double number() const;     ///< not farther from zero than kLargestNumber
    double numberIn(double low, double high) const;
    std::int64_t integerIn(std::int64_t low, std::int64_t high) const;
    bool boolean() const;

    /// The member's elements, each a text that is not empty; none when it is absent.
    std::vector<std::string> textsOf(const std::string& key) const;
    std::string textOr(const std::string& key, const std::string& fallback) const;
    double numberOr(const std::string& key, double fallback) const;
    bool booleanOr(const std::string& key, bool fallback) const;

    /// The word looked up in an enumeration; an unknown one is reported with the choices.
    template <class Find> auto choice(Find findWord, const std::string& choices) const
    {
        const std::string word = text();
        const auto value = findWord(word);
        if (!value && m_value->is_string())
            wrong("found \"" + word + "\", expected " + choices);
        return value;
    }

    void wrong(const std::string& message) const { m_problems->add(m_place, message + "."); }
    /// "a number", "text", "an empty array": what stands at this place.
    std::string found() const;

private:
    bool isMissing() const; ///< nothing stands here, which has been said already
    /// The value, or null and a report, when it is a list of that kind and not too long.
    bool isList(nlohmann::json::value_t kind, const std::string& words, std::size_t most) const;
    JsonNode element(std::size_t i) const;
    void expected(const std::string& what) const { wrong("found " + found() + ", expected " + what); }

    const nlohmann::json* m_value;
    std::string m_place;
    JsonProblems* m_problems;
};

/// Checks {"format": name, "version": 1...}. Newer minor versions (1.3) are read, other major ones are not.
std::optional<Error> checkFormat(const nlohmann::json& root, const std::string& format, const std::string& file);

/// The text of it, with a line's end. Names of files may hold any bytes: what is not UTF-8 is written as U+FFFD.
std::string printed(const nlohmann::json& value, int indent);

/// The number if it is finite, otherwise null: infinite and NaN numbers are never written.
nlohmann::json finiteOrNull(double value);
nlohmann::json finiteOrNull(std::optional<double> value);

} // namespace kestrel
