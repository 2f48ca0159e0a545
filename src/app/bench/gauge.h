#pragma once

#include "core/pack/pack.h"
#include "core/read/reading.h"

#include <QAbstractButton>

namespace kestrel::app {

/// One reading on a line: the target band as a thick stretch, the value as a shape with its whisker, the verdict in
/// words. A click asks for it to be drawn on the film.
class Gauge : public QAbstractButton {
    Q_OBJECT
public:
    explicit Gauge(QWidget* parent = nullptr);

    void setReading(const Measure&, const Reading&);

    QSize sizeHint() const override { return {320, 46}; }
    const Reading& reading() const { return m_reading; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void paintLine(QPainter&, const QRectF&) const;

    Reading m_reading;
    QString m_name;
    double m_margin = 0;
};

} // namespace kestrel::app
