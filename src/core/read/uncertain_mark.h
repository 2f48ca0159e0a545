#pragma once

#include "core/pack/pack.h"
#include "core/scene/marking.h"

#include <vector>

namespace kestrel {

/// A mark that a program made and a reading rests on.
struct UncertainMark {
    FrameIndex frame;
    Landmark landmark;
    double sigma = 0; ///< of the mark, pixels
    bool operator==(const UncertainMark&) const = default;
};

/// The programs' marks that the pack's measures use at the key positions, least sure first: what is worth a coach's look.
/// Of two that are equally unsure the earlier one comes first.
std::vector<UncertainMark> findUncertainMarks(const Pack&, const Marking&);

} // namespace kestrel
