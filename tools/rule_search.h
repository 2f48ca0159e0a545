#pragma once

#include "training_film.h"

#include <nlohmann/json.hpp>

#include <optional>
#include <string>
#include <vector>

namespace kestrel::tools {

/// A rule with its points' names, as a pack writes it.
struct NamedRule {
    DetectorRule rule;
    std::vector<std::string> points;
    nlohmann::json toJson() const;
};

/// Rules that a coach can say in a sentence about the player's own limbs: what is highest, fastest or still, what passes what.
std::vector<NamedRule> plainRules(const Pack&, Seen, bool withEquipment);

/// How well each key position is told by one of the rules without any delay; the smaller, the better (a loss of 1: a picture
/// off).
std::map<std::string, double> lossWithoutDelay(const Pack&, const std::vector<TrainingFilm>&, const std::vector<NamedRule>&);

/// What tells each key position: "detector" as a pack writes it. The two of the pace first, by rules without delay; then always
/// the one that is told best of those left, looked for between the nearest ones that are known. A second rule is added where the
/// middle of both is clearly better.
std::map<std::string, nlohmann::json> searchRules(const Pack&, const SequenceSpan& pace, const std::vector<TrainingFilm>&,
                                                  const std::vector<NamedRule>&);

} // namespace kestrel::tools
