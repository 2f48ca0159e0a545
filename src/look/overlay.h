#pragma once

#include "core/drawing/drawn_shape.h"
#include "core/measure/figure.h"
#include "look/palette.h"

#include <QImage>
#include <QPainter>
#include <QString>
#include <QTransform>

#include <algorithm>
#include <variant>
#include <vector>

namespace kestrel::look {

/// A marked point of the body or of what is held.
struct MarkOverlay {
    ImagePoint at;
    bool isTrail = false; ///< a ring instead of a disc: left and right read without colour
    bool isChosen = false;
    bool isByProgram = false; ///< drawn smaller, with a circle of its deviation
    bool isVisible = true;    ///< the camera can see the point
    double sigma = 0;         ///< pixels of the film
    QString name{};           ///< beside it; empty: none
};

/// A way through the film: where its points follow each other they are joined.
struct TrajectoryOverlay {
    std::vector<std::vector<ImagePoint>> pieces;
};

/// A line from place to place.
struct LineOverlay {
    enum class Style {
        Drawn, ///< what the coach draws or has measured
        Faint, ///< what lies there already
    };
    ImagePoint from, to;
    Style style = Style::Drawn;
    QString label{}; ///< empty: none
};

/// A box from corner to corner.
struct BoxOverlay {
    ImagePoint from, to;
};

/// A place, crossed.
struct PlaceOverlay {
    ImagePoint at;
    QString label{};
};

/// A reading, as its kind draws it.
struct FigureOverlay {
    Figure figure;
    QString label{};
};

/// What the coach drew, as it lies on this picture.
struct DrawingOverlay {
    DrawnShape shape;
    bool isThick = false;
    bool isChosen = false; ///< with its ends, to take hold of
    QString label{};       ///< what it measures; empty: none
};

/// Part of another picture, laid over this one.
struct CutOutOverlay {
    QImage image;
    ImagePoint at;    ///< of its upper left corner
    double scale = 1; ///< pixels of the film in one of the image
};

using Overlay = std::variant<MarkOverlay, TrajectoryOverlay, LineOverlay, BoxOverlay, PlaceOverlay, FigureOverlay, DrawingOverlay,
                             CutOutOverlay>;

/// How thick lines are on a picture of that width, pixels, so that they look as on the bench.
inline double unitFor(int pictureWidth)
{
    constexpr double kBenchWidth = 812;
    return std::max(1.0, pictureWidth / kBenchWidth);
}

/// Draws overlays over a film's picture, in their order, with a dark casing so that they read on any ground. On the screen, on
/// stills, sheets and clips alike.
/// \param toTarget  from pixels of the film's upright picture to the painter's coordinates
/// \param unit      thickness of thin lines in the painter's coordinates (1 for a screen at 100 %)
void paintOverlays(QPainter&, const std::vector<Overlay>&, const QTransform& toTarget, const Palette&, double unit);

} // namespace kestrel::look
