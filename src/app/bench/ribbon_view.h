#pragma once

#include "app/bench/bench.h"

#include <QWidget>

#include <vector>

namespace kestrel::app {

/// The whole motion on a real-time axis: a flag per key position, draggable, with the small body figure above it once
/// its points are marked. A press on the axis goes there.
class RibbonView : public QWidget {
    Q_OBJECT
public:
    explicit RibbonView(Bench&, QWidget* parent = nullptr);

    /// Where a key position's flag, or a frame, stands in the widget.
    double xOf(FramePosition) const;
    FrameIndex frameAtX(double x) const;
    QPointF flagOf(const std::string& keyPosition) const;
    QSize sizeHint() const override { return {812, 180}; }
    QSize minimumSizeHint() const override { return {320, 160}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    bool event(QEvent*) override;

private:
    struct Station { ///< one placed key position as it is laid out
        std::string id;
        QString name;
        double flagX = 0, figureX = 0;
        std::int64_t frame = 0;
        bool isProposal = false; ///< placed by a program, not yet by the coach
        bool isOutOfOrder = false;
    };
    FrameRange shownSpan() const;
    std::vector<Station> layOut() const;
    double axisY() const { return height() - 44; }
    double figureHeight() const { return axisY() - 34; }
    const Station* stationAt(const std::vector<Station>&, QPointF, bool flagsOnly) const;
    void paintAxis(QPainter&) const;

    Bench& m_bench;
    std::string m_dragged; // key position whose flag is held
    std::int64_t m_dragFrame = 0;
    bool m_moved = false, m_scrubbing = false;
    QPointF m_pressed;
};

} // namespace kestrel::app
