#pragma once

#include <optional>
#include <set>
#include <string>
#include <string_view>

namespace kestrel {

/// Where an athlete says that it hurts today.
enum class BodyRegion { Neck, Shoulder, Elbow, Wrist, Back, Hip, Knee, Ankle, Other };
inline constexpr BodyRegion kBodyRegions[] = {BodyRegion::Neck,  BodyRegion::Shoulder, BodyRegion::Elbow,
                                              BodyRegion::Wrist, BodyRegion::Back,     BodyRegion::Hip,
                                              BodyRegion::Knee,  BodyRegion::Ankle,    BodyRegion::Other};

std::string_view wordOf(BodyRegion); ///< "elbow"
std::optional<BodyRegion> findBodyRegion(std::string_view);

/// "elbow, back": for files and fields. Empty: no pain.
std::string wordsOf(const std::set<BodyRegion>&);
/// The regions in a list of words; what is no region counts as Other, so that pain never gets lost.
std::set<BodyRegion> findBodyRegions(std::string_view words);

/// What is said instead of advice: stop, and see a licensed clinician. Never a diagnosis. Empty: no pain.
std::string sentenceAboutPain(const std::set<BodyRegion>&);

} // namespace kestrel
