#include "support/json_faults.h"

#include <utility>
#include <vector>

namespace kestrel::test {

namespace {

using nlohmann::json;

const std::vector<std::pair<std::string, json>>& wrongValues()
{
    static const std::vector<std::pair<std::string, json>> all{
        {"null", json()},
        {"a truth", json(true)},
        {"a text", json("no such thing")},
        {"an empty text", json("")},
        {"a long text", json(std::string(20'000, 'x'))},
        {"a huge number", json(1e300)},
        {"a huge negative number", json(-1e300)},
        {"a whole number beyond 64 bits", json(1.9e19)},
        {"zero", json(0)},
        {"an empty list", json::array()},
        {"a long list", json(std::vector<json>(2000, json::object()))},
        {"an empty object", json::object()},
        {"a list in a list", json::array({json::array({json::array()})})},
    };
    return all;
}

void walk(const json& at, const json::json_pointer& place,
          const std::function<void(const json::json_pointer&, const json&)>& visit)
{
    visit(place, at);
    if (at.is_object())
        for (const auto& [key, value] : at.items())
            walk(value, place / key, visit);
    if (at.is_array())
        for (std::size_t i = 0; i < at.size(); ++i)
            walk(at[i], place / i, visit);
}

} // namespace

void eachJsonFault(const json& document, int step, const std::function<void(const JsonFault&)>& seen)
{
    long count = 0;
    walk(document, json::json_pointer(), [&](const json::json_pointer& place, const json& value) {
        if (value.is_array()) {
            JsonFault fault{(place / value.size()).to_string(), "null in a list", document};
            fault.document[place].push_back(nullptr);
            seen(fault);
        }
        if (value.is_array() && !value.empty() && ++count % step == 0) {
            JsonFault fault{place.to_string(), "entries many times over", document};
            auto& list = fault.document[place];
            while (list.size() < 2000)
                list.push_back(value.front());
            seen(fault);
        }
        for (const auto& [kind, wrong] : wrongValues())
            if (++count % step == 0) {
                JsonFault fault{place.to_string(), kind, document};
                fault.document[place] = wrong;
                seen(fault);
            }
    });
}

} // namespace kestrel::test
