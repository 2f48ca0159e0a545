#pragma once

#include "core/base/json_reader.h"
#include "core/scene/drawing.h"

namespace kestrel {

/// {"kind": "circle", "at": [{"x": 412, "y": 180}], "radius": 41, "lives": {"from": 120, "to": 260}, "weight": "thick"}, with
/// {"landmark": "ankle.left"} for a point that follows the body, and {"keyPosition": "contact"} or {"repetition": true} for when
/// it is seen. Empty, with nothing said: a kind that this version does not know.
std::optional<Drawing> readDrawing(const JsonNode&, std::int64_t lastFrame);
nlohmann::json toJson(const Drawing&);

} // namespace kestrel
