#pragma once

#include "core/base/unit.h"

#include <optional>
#include <string>

namespace kestrel::bench {

/// "3 .. 15"; an open end is left out.
inline std::string rangeText(const std::optional<double>& low, const std::optional<double>& high)
{
    return (low ? shortNumber(*low) : std::string()) + " .. " + (high ? shortNumber(*high) : std::string());
}

inline bool isOutside(double value, const std::optional<double>& low, const std::optional<double>& high)
{
    return (low && value < *low) || (high && value > *high);
}

} // namespace kestrel::bench
