#pragma once

#include "app/bench/bench.h"
#include "app/film/thumbnails.h"

#include <QTimer>
#include <QWidget>

namespace kestrel::app {

/// The whole clip as a strip of small pictures. Above them a bracket for each repetition, whose ends can be dragged; a
/// press on a bracket chooses the repetition, a press on the pictures goes there.
class FilmStrip : public QWidget {
    Q_OBJECT
public:
    explicit FilmStrip(Bench&, QWidget* parent = nullptr);

    double xOf(FrameIndex) const; ///< its left edge
    FrameIndex frameAtX(double x) const;
    /// Where a repetition's bracket is taken hold of: at its beginning, or at its end.
    QPointF handleOf(store::RepetitionId, bool atEnd) const;
    int picturesReady() const { return static_cast<int>(m_thumbnails.pictures().size()); }
    QSize sizeHint() const override { return {812, 58}; }
    QSize minimumSizeHint() const override { return {320, 58}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;

private:
    struct Handle {
        store::RepetitionId id;
        bool atEnd = false;
    };
    std::optional<Handle> handleAt(QPointF) const;
    std::optional<store::RepetitionId> bracketAt(QPointF) const;
    QRectF bracketOf(const store::RepetitionRow&) const;
    QRectF pictureArea() const;
    void orderPictures();
    void paintBrackets(QPainter&) const;

    Bench& m_bench;
    Thumbnails m_thumbnails;
    QTimer m_later; // pictures are ordered once the width has settled and the film shows
    std::optional<Handle> m_held;
    FrameIndex m_heldFrame;
    bool m_scrubbing = false;
};

} // namespace kestrel::app
