#pragma once

#include "core/base/error.h"
#include "media/picture.h"

#include <QImage>

namespace kestrel::look {

/// The film's picture as Qt's, sharing the pixels. Null for an empty picture.
QImage toImage(const media::Picture&);

/// Writes it in the format of the file's ending, whole or not at all. Errors: BadArgument, CannotWrite.
Expected<void> saveImage(const QImage&, const std::string& file);

} // namespace kestrel::look
