#pragma once

#include "app/film/film_player.h"
#include "app/tools/canvas_tool.h"

#include <QImage>
#include <QTransform>
#include <QWidget>

#include <functional>
#include <vector>

namespace kestrel::app {

/// The film, large, with zoom, pan and a loupe. It shows a player's picture and a list of overlays, and hands presses to the tool
/// in hand; of marks and of the library it knows nothing.
class FilmCanvas : public QWidget {
    Q_OBJECT
public:
    explicit FilmCanvas(FilmPlayer&, QWidget* parent = nullptr);

    /// What is drawn over the picture, asked for at each painting.
    void setOverlays(std::function<std::vector<look::Overlay>()> overlays) { m_overlays = std::move(overlays); }
    /// The tool in hand, asked for at each press. Null: none.
    void setTool(std::function<CanvasTool*()> tool) { m_tool = std::move(tool); }
    /// What is said in place of a picture that is not there yet; empty: the player's own words.
    void setNotice(std::function<QString()> notice) { m_notice = std::move(notice); }
    /// Pixels of the upright picture, until the film itself says it.
    void setFilmSize(QSizeF size);
    /// Another film comes: the picture goes, and all of the next one is shown.
    void reset();
    void letGo(); ///< of what is being dragged

    /// From pixels of the film's upright picture to the widget's.
    QTransform toWidget() const;
    void zoomBy(double factor, QPointF about);
    void showWhole();
    /// Shows the same part of its film as another canvas does.
    void zoomLike(const FilmCanvas&);
    QSize sizeHint() const override { return {812, 457}; }
    void updateCursor();

signals:
    void zoomed(); ///< by the coach: another part of the film is shown

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;

private:
    CanvasPoint at(const QMouseEvent&) const;
    void askForSize();
    QString notice() const;
    void paintPicture(QPainter&) const;
    void paintLoupe(QPainter&) const;

    FilmPlayer& m_player;
    std::function<std::vector<look::Overlay>()> m_overlays;
    std::function<CanvasTool*()> m_tool;
    std::function<QString()> m_notice;
    QSizeF m_filmSize{1280, 720};
    QImage m_picture;
    double m_zoom = 1;
    QPointF m_pan;                    // of the picture's middle from the widget's, in the widget's pixels
    CanvasTool* m_dragging = nullptr; // the tool that has the drag
    bool m_isPanning = false;
    QPointF m_now;
};

} // namespace kestrel::app
