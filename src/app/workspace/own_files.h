#pragma once

#include "store/library.h"

#include <QImage>
#include <QString>

namespace kestrel::app {

// Files that belong to talks and pages and lie in folders of the library.

QString voiceFolder(const store::Library&);   ///< of the coach's words, .wav
QString pictureFolder(const store::Library&); ///< of pictures that were put into a talk or on a page, .png

/// Writes a picture under a new name into the folder. Its name there. Errors: CannotWrite. Slow: not for the interface thread.
Expected<std::string> keepPicture(const QString& folder, const QImage&);

/// Deletes the voices and pictures that no walk-through, no page and nothing that left speaks of any more. Only while nothing can
/// be undone: what was removed is given back with its voice until then.
void removeUnusedFiles(const store::Library&);

} // namespace kestrel::app
