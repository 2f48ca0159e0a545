#pragma once

#include "app/bench_session.h"

#include <QImage>
#include <QTransform>
#include <QWidget>

namespace kestrel::app {

/// The film, large, with marks, the drawn reading, zoom, pan and a loupe.
class FilmView : public QWidget {
    Q_OBJECT
public:
    explicit FilmView(BenchSession&, QWidget* parent = nullptr);

    /// From pixels of the film's upright picture to the widget's.
    QTransform toWidget() const;
    void zoomBy(double factor, QPointF about);
    void showWhole();
    QSize sizeHint() const override { return {812, 457}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;

private:
    QSizeF filmSize() const;
    ImagePoint toFilm(QPointF) const;
    std::optional<Landmark> markAt(QPointF) const;
    void askForSize();
    void paintMarks(QPainter&) const;
    void paintWay(QPainter&) const;
    void paintScene(QPainter&) const;
    void paintLoupe(QPainter&) const;
    void paintNotice(QPainter&, const QString&) const;
    void updateCursor();

    enum class Drag { None, Pan, Mark, NewMark, Line };

    BenchSession& m_session;
    QImage m_picture;
    double m_zoom = 1;
    QPointF m_pan; // of the picture's middle from the widget's, in the widget's pixels
    Drag m_drag = Drag::None;
    QPointF m_pressed, m_now;
    std::optional<Landmark> m_dragged;
};

} // namespace kestrel::app
