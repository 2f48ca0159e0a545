#pragma once

#include "look/palette.h"

#include <QFont>
#include <QImage>
#include <QPainter>
#include <QString>

namespace kestrel::report {

/// A sheet that is written and drawn on in millimetres, whatever it is painted to. It starts white and leaves the painter as it
/// found it.
class Paper {
public:
    /// \param target  in the painter's coordinates, of the sheet's proportions
    Paper(QPainter&, const QRectF& target, QSizeF millimetres);
    ~Paper();
    Paper(const Paper&) = delete;
    Paper& operator=(const Paper&) = delete;

    /// Words into the upper left of the box, wrapped at its width. How high they are, millimetres.
    /// \param size  of the letters, millimetres   \param dry  only measured
    double write(const QString&, const QRectF& box, double size, const QColor&, QFont::Weight = QFont::Normal, bool dry = false);
    /// All of the picture, with round corners; nothing for a null one.
    void picture(const QImage&, const QRectF& box);
    void fill(const QRectF& box, const QColor& colour) { m_painter.fillRect(box, colour); }

    QPainter& painter() { return m_painter; } ///< in millimetres
    const look::Palette& colours() const { return m_palette; }

private:
    QPainter& m_painter;
    const look::Palette m_palette = look::lightPalette();
};

} // namespace kestrel::report
