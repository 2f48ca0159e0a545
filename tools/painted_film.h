#pragma once

#include "core/pack/pack.h"
#include "core/scene/marking.h"
#include "sim/simulate.h"

#include <optional>
#include <string>
#include <vector>

namespace kestrel::tools {

/// A film to paint, and the pack that says what is held.
struct FilmToPaint {
    sim::SimulateOptions options;
    const Pack* pack;
};

/// What the usual network marks on painted films, in their order, with their true key positions. Painting one takes many seconds:
/// what is in the folder is not painted again, and two are painted at once. One that cannot be painted is empty, with the reason
/// on standard error.
std::vector<std::optional<Marking>> networkMarkings(const std::vector<FilmToPaint>&, const std::string& folder);

} // namespace kestrel::tools
