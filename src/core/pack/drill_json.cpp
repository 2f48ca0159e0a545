#include "core/pack/drill_json.h"

#include <algorithm>
#include <cctype>

namespace kestrel {

namespace {

constexpr int kMostMinutes = 60;

/// Whether something is swung, thrown or jumped in a drill.
bool canHurt(const std::vector<std::string>& steps)
{
    for (std::string step : steps) {
        std::transform(step.begin(), step.end(), step.begin(), [](unsigned char c) { return std::tolower(c); });
        for (const char* word : {"swing", "throw", "jump", "hop", "leap"})
            for (auto at = step.find(word); at != std::string::npos; at = step.find(word, at + 1))
                if (at == 0 || !std::isalpha(static_cast<unsigned char>(step[at - 1])))
                    return true;
    }
    return false;
}

std::string listed(const std::vector<std::string>& words)
{
    std::string all;
    for (const auto& word : words)
        all += (all.empty() ? "" : ", ") + word;
    return all;
}

/// Words of the list; packs of before have one text of their own.
std::vector<std::string> readKit(const JsonNode& n, const std::vector<std::string>& kitWords)
{
    const auto node = n.at("kit");
    if (node.raw().is_string()) {
        const std::string text = node.words();
        return text == "none" ? std::vector<std::string>{} : std::vector<std::string>{text};
    }
    const auto kit = n.textsOf("kit");
    for (std::size_t i = 0; i < kit.size(); ++i)
        if (!kitWords.empty() && std::find(kitWords.begin(), kitWords.end(), kit[i]) == kitWords.end())
            node.items()[i].wrong("found \"" + kit[i] + "\", expected one of " + listed(kitWords));
    return kit;
}

} // namespace

Drill readDrill(const JsonNode& n, const std::vector<std::string>& kitWords)
{
    Drill d;
    d.id = n.at("id").words();
    d.name = n.at("name").words();
    d.purpose = n.at("purpose").words();
    d.space = n.at("space").words();
    d.kit = readKit(n, kitWords);
    d.setup = n.at("setup").words();
    d.steps = n.textsOf("steps");
    if (d.steps.empty())
        n.at("steps").wrong("expected at least one step");
    d.dose = n.at("dose").words();
    if (const auto days = n.find("daysAWeek"))
        d.daysAWeek = static_cast<int>(days->integerIn(1, 7));
    if (const auto minutes = n.find("minutes"))
        d.minutes = static_cast<int>(minutes->integerIn(1, kMostMinutes));
    if (const auto ages = n.find("ages")) {
        const auto both = ages->items();
        if (both.size() == 2) {
            d.minAge = both[0].numberIn(3, 120);
            d.maxAge = both[1].numberIn(3, 120);
        }
        if (both.size() != 2 || d.minAge > d.maxAge)
            ages->wrong("expected the youngest and the oldest age");
    }
    d.feel = n.at("feel").words();
    d.mistakes = n.at("mistakes").words();
    d.easier = n.at("easier").words();
    d.harder = n.at("harder").words();
    d.caution = n.textOr("caution", "");
    if (d.caution.empty() && canHurt(d.steps))
        n.wrong("the drill swings, throws or jumps and has no caution");
    return d;
}

nlohmann::json toJson(const Drill& d)
{
    nlohmann::json j{{"id", d.id},
                     {"name", d.name},
                     {"purpose", d.purpose},
                     {"space", d.space},
                     {"kit", d.kit},
                     {"setup", d.setup},
                     {"steps", d.steps},
                     {"dose", d.dose},
                     {"daysAWeek", d.daysAWeek},
                     {"minutes", d.minutes},
                     {"ages", {d.minAge, d.maxAge}},
                     {"feel", d.feel},
                     {"mistakes", d.mistakes},
                     {"easier", d.easier},
                     {"harder", d.harder}};
    if (!d.caution.empty())
        j["caution"] = d.caution;
    return j;
}

} // namespace kestrel
