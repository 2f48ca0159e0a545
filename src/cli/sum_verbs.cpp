#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/flight/sum.h"

#include <nlohmann/json.hpp>

namespace kestrel::cli {

namespace {

nlohmann::json variableJson(const SumVariable& v)
{
    return {{"name", v.id}, {"words", v.words}, {"unit", v.unit}, {"from", v.low}, {"to", v.high}, {"usual", v.usual}};
}

void list(std::ostream& out)
{
    nlohmann::json cards = nlohmann::json::array();
    for (const auto& card : sumCards()) {
        nlohmann::json variables = nlohmann::json::array();
        for (const auto& v : card.variables)
            variables.push_back(variableJson(v));
        cards.push_back({{"name", card.id},
                         {"title", card.title},
                         {"question", card.question},
                         {"ball", card.ball.empty() ? nlohmann::json() : nlohmann::json(card.ball)},
                         {"variables", std::move(variables)}});
    }
    out << printed(cards, 2);
}

} // namespace

VerbResult sum(const Words& words, Streams io)
{
    if (words.empty())
        return fail(ErrorCode::BadArgument, "Name the sum; \"sum list\" has them all.");
    if (words.front() == "list") {
        list(io.out);
        return Done;
    }
    const SumCard* card = findSumCard(words.front());
    if (!card) {
        std::string known;
        for (const auto& c : sumCards())
            known += (known.empty() ? "" : ", ") + c.id;
        return fail(ErrorCode::NotFound, "There is no sum \"" + words.front() + "\"; there are " + known + ".");
    }
    std::set<std::string> names{"air", "ball", "temperature", "altitude"};
    for (const auto& v : card->variables)
        names.insert(v.id);
    Arguments args({words.begin() + 1, words.end()}, names);
    args.noPlain();
    SumInput input;
    for (const auto& v : card->variables)
        if (const auto value = args.number(v.id, v.low, v.high))
            input.values[v.id] = *value;
    input.celsius = args.number("temperature", -40, 60).value_or(20);
    input.altitude = args.number("altitude", -500, 6000).value_or(0);
    const std::string air = args.text("air").value_or("usual");
    if (air != "none" && air != "usual")
        args.complain("--air is none or usual.");
    input.hasAir = air == "usual";
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    if (const auto id = args.text("ball")) {
        if (card->ball.empty())
            return fail(ErrorCode::BadArgument, "No ball takes part in \"" + card->id + "\".");
        const auto ball = findBall(*id);
        if (!ball)
            return tl::unexpected(ball.error());
        input.ball = *ball;
    }
    const auto answer = workOut(*card, input);
    if (!answer)
        return tl::unexpected(answer.error());
    nlohmann::json results = nlohmann::json::array();
    for (const auto& r : answer->results)
        results.push_back({{"name", r.name},
                           {"value", finiteOrNull(r.value)},
                           {"low", finiteOrNull(r.low)},
                           {"high", finiteOrNull(r.high)},
                           {"unit", r.unit}});
    const nlohmann::json root{
        {"sum", card->id},
        {"assumes", answer->assumes},
        {"results", std::move(results)},
        {"answer", answer->sentence},
        {"caution", answer->caution.empty() ? nlohmann::json() : nlohmann::json(answer->caution)},
        {"claim", {{"text", answer->claim.text}, {"verdict", wordOf(answer->claim.verdict)}, {"why", answer->claim.why}}}};
    io.out << printed(root, 2);
    return Done;
}

} // namespace kestrel::cli
