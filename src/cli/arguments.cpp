#include "cli/arguments.h"

#include <charconv>
#include <cmath>

namespace kestrel::cli {

namespace {

std::string plainNumber(double v)
{
    return v == std::floor(v) ? std::to_string(static_cast<long>(v)) : std::to_string(v);
}

} // namespace

Arguments::Arguments(const std::vector<std::string>& words, const std::set<std::string>& options,
                     const std::set<std::string>& flags)
{
    for (std::size_t i = 0; i < words.size(); ++i) {
        const std::string& word = words[i];
        if (word.rfind("--", 0) != 0) {
            m_plain.push_back(word);
            continue;
        }
        const std::string name = word.substr(2);
        if (flags.count(name))
            m_flags.insert(name);
        else if (!options.count(name))
            complain("The option " + word + " is not known here; see \"kestrel-cli help\".");
        else if (i + 1 == words.size())
            complain("The option " + word + " needs a value.");
        else
            m_options[name].push_back(words[++i]);
    }
}

const std::vector<std::string>& Arguments::all(const std::string& option) const
{
    static const std::vector<std::string> none;
    const auto it = m_options.find(option);
    return it == m_options.end() ? none : it->second;
}

std::optional<std::string> Arguments::text(const std::string& option) const
{
    const auto& values = all(option);
    return values.empty() ? std::nullopt : std::optional(values.back());
}

std::string Arguments::required(const std::string& option)
{
    const auto value = text(option);
    if (!value)
        complain("The option --" + option + " is needed.");
    return value.value_or("");
}

std::optional<double> Arguments::number(const std::string& option, double low, double high)
{
    const auto value = text(option);
    if (!value)
        return std::nullopt;
    double number = 0;
    const auto [end, error] = std::from_chars(value->data(), value->data() + value->size(), number);
    if (error != std::errc{} || end != value->data() + value->size() || !(number >= low && number <= high)) {
        complain("--" + option + " " + *value + ": expected a number from " + plainNumber(low) + " to " + plainNumber(high) +
                 ".");
        return std::nullopt;
    }
    return number;
}

std::optional<long> Arguments::integer(const std::string& option, long low, long high)
{
    const auto value = number(option, static_cast<double>(low), static_cast<double>(high));
    if (value && *value != std::floor(*value)) {
        complain("--" + option + ": expected a whole number.");
        return std::nullopt;
    }
    return value ? std::optional(static_cast<long>(*value)) : std::nullopt;
}

std::string Arguments::onlyPlain(const std::string& what)
{
    if (m_plain.size() != 1) {
        complain(m_plain.empty() ? "The name of " + what + " is missing." : "\"" + m_plain[1] + "\" is one word too many.");
        return {};
    }
    return m_plain.front();
}

void Arguments::noPlain()
{
    if (!m_plain.empty())
        complain("\"" + m_plain.front() + "\" is not expected here.");
}

void Arguments::complain(std::string message)
{
    if (!m_mistake)
        m_mistake = Error{ErrorCode::BadArgument, std::move(message), {}, {}};
}

} // namespace kestrel::cli
