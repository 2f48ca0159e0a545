#include "core/judge/conditions.h"

#include <map>

namespace kestrel {

bool isBeyond(const Reading& r, Beyond side)
{
    const double d = r.beyondBand();
    return (d > 0 && side != Beyond::Below) || (d < 0 && side != Beyond::Above);
}

const Observation::Choice* answerOf(const Pack& pack, const ReadRepetition& r, const std::string& observation)
{
    const auto given = r.marking.answers.find(observation);
    const Observation* o = given == r.marking.answers.end() ? nullptr : pack.findObservation(observation);
    return o && isForVariant(o->variants, r.marking.variant) ? o->findChoice(given->second) : nullptr;
}

std::vector<Observed> typicalAnswers(const Pack& pack, const std::vector<const ReadRepetition*>& live)
{
    std::vector<Observed> typical;
    for (const auto& o : pack.observations) {
        std::map<std::string, int> count;
        for (const auto* r : live)
            if (const auto* choice = answerOf(pack, *r, o.id))
                ++count[choice->id];
        const Observation::Choice* most = nullptr;
        for (const auto& choice : o.choices)
            if (const int n = count[choice.id];
                n > 0 && (!most || n > count[most->id] || (n == count[most->id] && choice.verdict > most->verdict)))
                most = &choice;
        if (most)
            typical.push_back({o.id, most->id, most->verdict});
    }
    return typical;
}

} // namespace kestrel
