#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    return std::abs(in.duration());
}

void figure(const MeasureInput&, Figure&) {} // a time has no place in the picture

} // namespace

extern const MeasureKind kSync;
const MeasureKind kSync{"sync",         "Real time between two key positions, whichever comes first; never negative, 0 together.",
                        Quantity::Time, 0,
                        When::Span,     false,
                        viewsAny(),     value,
                        figure};

} // namespace kestrel
