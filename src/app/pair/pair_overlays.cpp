#include "app/pair/pair_overlays.h"

#include "look/body_figure.h"
#include "look/drawing_overlays.h"

#include <QPainter>

#include <cmath>

namespace kestrel::app {

namespace {

ImagePoint mapped(const QTransform& t, ImagePoint p)
{
    const QPointF q = t.map(QPointF(p.x, p.y));
    return {q.x(), q.y()};
}

} // namespace

void addBodyLines(std::vector<look::Overlay>& into, const PairSide& first, const PairSide& second, const PairPlace& place)
{
    const auto t = secondToFirst(first, place.a, second, place.b, place.anchor);
    if (!t)
        return;
    look::DrawingOverlay body;
    for (auto line : look::BodyFigure(second.film.marking, place.b).lines()) {
        for (auto& point : line)
            point = mapped(*t, point);
        body.shape.figure.strokes.push_back({Stroke::Kind::Segment, std::move(line)});
    }
    into.emplace_back(std::move(body));
}

void addGhost(std::vector<look::Overlay>& into, const PairSide& first, const PairSide& second, const PairPlace& place,
              const QImage& secondPicture, double share)
{
    const auto t = secondToFirst(first, place.a, second, place.b, place.anchor);
    if (!t || secondPicture.isNull())
        return;
    const bool isMirrored = areMirrored(first, second);
    QImage picture = isMirrored ? secondPicture.mirrored(true, false) : secondPicture;
    picture = picture.convertToFormat(QImage::Format_ARGB32_Premultiplied);
    QPainter painter(&picture);
    painter.setCompositionMode(QPainter::CompositionMode_DestinationIn);
    painter.fillRect(picture.rect(), QColor(0, 0, 0, static_cast<int>(std::lround(255 * share))));
    painter.end();
    const double width = second.film.marking.film.width;
    const ImagePoint corner = mapped(*t, {isMirrored ? width : 0, 0});
    const double scale = std::abs(t->m11()) * width / picture.width();
    into.emplace_back(look::CutOutOverlay{picture, corner, scale});
}

void addGrid(std::vector<look::Overlay>& into, const PairSide& side, FrameIndex frame, const std::string& anchor)
{
    const auto about = placeOf(side, anchor, frame);
    if (!about)
        return;
    Drawing grid;
    grid.kind = DrawingKind::Grid;
    grid.at = {{*about, {}}};
    grid.lives = {Lives::On::Stretch, {frame, frame}, {}};
    for (auto& overlay : look::drawingOverlays({grid}, *side.prepared, side.film.repetition, frame))
        into.push_back(std::move(overlay));
}

} // namespace kestrel::app
