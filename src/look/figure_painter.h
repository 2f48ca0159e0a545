#pragma once

#include "core/measure/figure.h"

#include <QColor>
#include <QPainter>
#include <QString>
#include <QTransform>

namespace kestrel::look {

/// Draws the figure of a reading over a film's picture so that it reads on any ground: bright lines with dark casing.
/// \param toTarget  from pixels of the film's upright picture to the painter's coordinates
/// \param unit      thickness of thin lines in the painter's coordinates (1 for a screen at 100 %)
void paintFigure(QPainter&, const Figure&, const QTransform& toTarget, const QString& label, const QColor& colour, double unit);

/// Words on a dark ground, beside something.
void paintLabel(QPainter&, const QString& label, const QRectF& beside, double unit);

/// A line with a dark casing.
void paintCasedLine(QPainter&, QPointF a, QPointF b, const QColor&, double width, Qt::PenStyle = Qt::SolidLine);

} // namespace kestrel::look
