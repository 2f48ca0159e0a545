#pragma once

#include "core/base/error.h"

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

namespace kestrel::cli {

/// The words after a verb, sorted into plain ones and "--name value" options. Questions about a wrong value remember
/// the first mistake, so that a verb asks for everything it wants and then checks once.
class Arguments {
public:
    /// \param options  names that take a value; those in \p flags take none
    Arguments(const std::vector<std::string>& words, const std::set<std::string>& options,
              const std::set<std::string>& flags = {});

    const std::vector<std::string>& plain() const { return m_plain; }
    bool has(const std::string& flag) const { return m_flags.count(flag) > 0; }
    const std::vector<std::string>& all(const std::string& option) const;

    std::optional<std::string> text(const std::string& option) const;
    /// A missing option is a mistake.
    std::string required(const std::string& option);
    std::optional<double> number(const std::string& option, double low, double high);
    std::optional<long> integer(const std::string& option, long low, long high);
    /// A missing or superfluous plain word is a mistake.
    std::string onlyPlain(const std::string& what);
    void noPlain();

    void complain(std::string message);
    const std::optional<Error>& mistake() const { return m_mistake; }

private:
    std::vector<std::string> m_plain;
    std::map<std::string, std::vector<std::string>> m_options;
    std::set<std::string> m_flags;
    std::optional<Error> m_mistake;
};

} // namespace kestrel::cli
