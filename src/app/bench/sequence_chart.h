#pragma once

#include "core/read/sequence.h"

#include <QWidget>

namespace kestrel::app {

/// How fast each segment turns over the repetition, as one view shows it, with a mark at each peak.
class SequenceChart : public QWidget {
    Q_OBJECT
public:
    explicit SequenceChart(QWidget* parent = nullptr);
    void setCurves(std::vector<SegmentCurve> curves, const std::optional<Sequence>& sequence);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    std::vector<SegmentCurve> m_curves;
};

} // namespace kestrel::app
