#pragma once

#include "core/base/error.h"

#include <QString>

namespace kestrel::app {

class MainWindow;

/// Takes one picture of each main view, from the demo library, into a folder. Errors: CannotWrite; NotFound when the
/// library has no marked clip.
Expected<void> takeShots(MainWindow&, const QString& folder);

} // namespace kestrel::app
