#pragma once

#include "sim/camera.h"

#include <QImage>

namespace kestrel::sim {

/// A made-up ball field seen by that camera: sky, trees, fence, grass, mound and pitcher's plate.
QImage paintBackdrop(const Camera&);

} // namespace kestrel::sim
