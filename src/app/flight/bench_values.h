#pragma once

#include "app/bench/bench.h"
#include "core/flight/sum.h"

#include <map>
#include <string>

namespace kestrel::app {

/// A number that the clip on the bench has for a variable of a card.
struct BenchValue {
    double value = 0;
    double sigma = 0; ///< one standard deviation; 0: exact
    QString from;     ///< where it comes from, in words
};

/// What the bench has for a card, by variable.
std::map<std::string, BenchValue> benchValues(const SumCard&, const Bench&);
/// What it would have, and what is missing for it, a sentence; empty: nothing of this card comes from a film, or all is there.
QString missingValues(const SumCard&, const Bench&);

/// The card that a measure belongs to, such as the serve window for the contact height. Empty: none.
std::string cardOf(const std::string& pack, const std::string& measure);

} // namespace kestrel::app
