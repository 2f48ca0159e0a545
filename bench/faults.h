#pragma once

#include "core/judge/review.h"
#include "core/pack/pack.h"
#include "sim/skill.h"

#include <algorithm>
#include <set>
#include <string>

namespace kestrel::bench {

/// The pack's faults that rest on the measure the simulated one disturbs first.
inline std::set<std::string> namesOf(const sim::SimFault& fault, const Pack& pack)
{
    std::set<std::string> names;
    for (const auto& f : pack.faults)
        for (const auto& c : f.conditions)
            if (f.id == fault.id || c.measure == fault.disturbs.front())
                names.insert(f.id);
    return names;
}

/// With those that are declared to lead to them.
inline std::set<std::string> withCauses(std::set<std::string> names, const Pack& pack)
{
    for (bool grew = true; grew;) {
        grew = false;
        for (const auto& f : pack.faults)
            for (const auto& e : f.explains)
                if (names.count(e) > 0)
                    grew = names.insert(f.id).second || grew;
    }
    return names;
}

/// The first measure it disturbs that this variant reads: it says from where it has to be filmed. Null: none.
inline const Measure* mainMeasure(const sim::SimFault& fault, const std::string& variant, const Pack& pack)
{
    for (const auto& id : fault.disturbs) {
        const Measure* m = pack.findMeasure(id);
        if (m && (m->variants.empty() || std::find(m->variants.begin(), m->variants.end(), variant) != m->variants.end()))
            return m;
    }
    return nullptr;
}

inline bool isCalled(const Review& review, const std::set<std::string>& names)
{
    return std::any_of(review.faults.begin(), review.faults.end(),
                       [&](const FaultFinding& f) { return f.verdict == Verdict::Off && names.count(f.fault) > 0; });
}

struct Count {
    int of = 0, yes = 0;
    void add(bool b)
    {
        ++of;
        yes += b;
    }
    void add(const Count& o)
    {
        of += o.of;
        yes += o.yes;
    }
    double percent() const { return of == 0 ? 0 : 100.0 * yes / of; }
};

} // namespace kestrel::bench
