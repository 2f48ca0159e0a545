#pragma once

#include "core/base/json_reader.h"
#include "core/pack/pack.h"

namespace kestrel {

/// \param kitWords  what a drill may need; empty: any word
Drill readDrill(const JsonNode&, const std::vector<std::string>& kitWords);

} // namespace kestrel
