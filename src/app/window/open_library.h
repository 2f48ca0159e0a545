#pragma once

#include "app/window/main_window.h"

#include <memory>

namespace kestrel::app {

/// Opens the library of a folder in a window of its own, which looks after it: the first window writes, another one looks until
/// the first is closed. A broken library offers its newest copy; nothing is touched before the coach has chosen.
/// Errors: those of Library::open.
Expected<std::unique_ptr<MainWindow>> openLibrary(const std::string& folder, const std::string& shippedPacks);

} // namespace kestrel::app
