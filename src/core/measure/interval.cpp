#include "core/measure/kind.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    return in.duration();
}

void figure(const MeasureInput&, Figure&) {} // a time has no place in the picture

} // namespace

extern const MeasureKind kInterval;
const MeasureKind kInterval{
    "interval",     "Real time from the first to the second key position; negative when the second comes first.",
    Quantity::Time, 0,
    When::Span,     false,
    viewsAny(),     value,
    figure};

} // namespace kestrel
