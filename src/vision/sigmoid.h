#pragma once

#include <cmath>

namespace kestrel::vision {

/// What a network's number says as a share, 0 to 1.
inline double sigmoid(double logit)
{
    return 1 / (1 + std::exp(-logit));
}

} // namespace kestrel::vision
