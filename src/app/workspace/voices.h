#pragma once

#include "store/library.h"

#include <QString>

namespace kestrel::app {

/// Where the voices of walk-throughs lie: in a folder of the library.
QString voiceFolder(const store::Library&);

/// Deletes the voices that no walk-through and nothing that left speaks of any more. Only while nothing can be undone: what was
/// removed is given back with its voice until then.
void removeUnusedVoices(const store::Library&);

} // namespace kestrel::app
