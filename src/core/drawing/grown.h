#pragma once

#include "core/measure/figure.h"

namespace kestrel {

/// A figure that is being drawn: of each line the first part. \param share  0 nothing, 1 all of it
Figure grown(const Figure&, double share);

} // namespace kestrel
