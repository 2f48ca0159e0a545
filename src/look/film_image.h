#pragma once

#include "media/picture.h"

#include <QImage>

namespace kestrel::look {

/// The film's picture as Qt's, sharing the pixels. Null for an empty picture.
QImage toImage(const media::Picture&);

} // namespace kestrel::look
