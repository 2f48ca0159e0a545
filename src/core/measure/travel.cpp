#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto length = lengthOfWay(in);
    if (!length)
        return tl::unexpected(in.missing());
    return *length;
}

} // namespace

extern const MeasureKind kTravel;
const MeasureKind kTravel{"travel",         "Length of the point's way through the span; never negative.",
                          Quantity::Length, 1,
                          When::Span,       false,
                          viewsAny(),       value,
                          drawWay};

} // namespace kestrel
