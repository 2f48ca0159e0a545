#pragma once

#include "core/pack/pack.h"
#include "core/plan/plan.h"

#include <cmath>
#include <string>

/// What stands in plans, said once for paper, web page and calendar.
namespace kestrel::report {

inline std::string minutesWords(double minutes)
{
    return std::to_string(static_cast<int>(std::lround(minutes))) + " minutes";
}

/// "Weight rock, 2 x 10, easier: hold a chair back"
inline std::string itemWords(const PlanItem& item, const Pack& pack)
{
    const Drill* d = pack.findDrill(item.drill);
    std::string words = (d ? d->name : item.drill) + ", " + std::to_string(item.sets) + " x " + std::to_string(item.reps);
    if (d && item.level == DrillLevel::Easier && !d->easier.empty())
        words += ". Easier: " + d->easier;
    if (d && item.level == DrillLevel::Harder && !d->harder.empty())
        words += ". Harder, if it held: " + d->harder;
    return words;
}

} // namespace kestrel::report
