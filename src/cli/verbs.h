#pragma once

#include "cli/run.h"
#include "core/base/error.h"

#include <functional>
#include <string>
#include <vector>

namespace kestrel::cli {

/// Where a verb writes.
struct Streams {
    std::ostream& out;
    std::ostream& err;
};

/// A verb gives the exit code, or the error that is printed before leaving with BadInput.
using VerbResult = Expected<int>;
using Words = std::vector<std::string>;

/// A verb and the words that call it ("film info").
struct Verb {
    std::string words, usage, meaning;
    VerbResult (*run)(const Words&, Streams);
};

VerbResult filmInfo(const Words&, Streams);
VerbResult filmFrame(const Words&, Streams);
VerbResult filmTimes(const Words&, Streams);
VerbResult filmCheck(const Words&, Streams);
VerbResult filmGuide(const Words&, Streams);
VerbResult radarGun(const Words&, Streams);
VerbResult simulate(const Words&, Streams);
VerbResult read(const Words&, Streams);
VerbResult review(const Words&, Streams);
VerbResult mark(const Words&, Streams);
VerbResult follow(const Words&, Streams);
VerbResult ground(const Words&, Streams);
VerbResult positions(const Words&, Streams);
VerbResult packsList(const Words&, Streams);
VerbResult packsDescribe(const Words&, Streams);
VerbResult packsCheck(const Words&, Streams);
VerbResult report(const Words&, Streams);
VerbResult sheet(const Words&, Streams);
VerbResult checklist(const Words&, Streams);
VerbResult walk(const Words&, Streams);
VerbResult compare(const Words&, Streams);
VerbResult change(const Words&, Streams);
VerbResult plan(const Words&, Streams);
VerbResult workload(const Words&, Streams);
VerbResult matchScore(const Words&, Streams);
VerbResult matchTally(const Words&, Streams);
VerbResult matchPage(const Words&, Streams);
VerbResult matchFind(const Words&, Streams);
VerbResult matchSimulate(const Words&, Streams);
VerbResult sum(const Words&, Streams);
VerbResult demoLibrary(const Words&, Streams);

} // namespace kestrel::cli
