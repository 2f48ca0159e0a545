#pragma once

#include <functional>
#include <nlohmann/json.hpp>
#include <string>

namespace kestrel::test {

/// One mistake at one place of a document.
struct JsonFault {
    std::string place; ///< JSON pointer of what was changed or added
    std::string kind;  ///< such as "null in a list"
    nlohmann::json document;
};

/// Every place of the document, each list and each member, with everything that may stand there by mistake: null (in a list, of a
/// list and of a member), a wrong type, a huge number, an empty list, a list and a text longer than anybody writes.
/// \param step  1: all of them; more: every so many of the mistakes that are not null in a list
void eachJsonFault(const nlohmann::json& document, int step, const std::function<void(const JsonFault&)>& seen);

} // namespace kestrel::test
