#pragma once

#include "sim/simulate.h"

#include <QImage>

namespace kestrel::sim {

/// The key positions side by side, in order, each with its name.
/// \param names    by key position; those missing are not written
/// \param columns  pictures in a row, > 0
QImage contactSheet(const Simulated&, const std::map<std::string, std::string>& names, int columns);

} // namespace kestrel::sim
