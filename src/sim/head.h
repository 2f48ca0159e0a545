#pragma once

#include "sim/camera.h"
#include "sim/skeleton.h"

#include <QColor>

class QPainter;

namespace kestrel::sim {

struct HeadColours {
    QColor skin, hair, cap;
};

/// Head with jaw, face, ears, hair and a cap with a peak, as the camera sees it. The painter's pen is left off.
void paintHead(QPainter&, const Camera&, const Skeleton&, double heightMetres, const HeadColours&);

} // namespace kestrel::sim
