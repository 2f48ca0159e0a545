#pragma once

#include "core/flight/sum.h"
#include "look/palette.h"

#include <QWidget>

namespace kestrel::app {

/// A card's drawing: path over a drawn court, window, time line.
class SumPictureView : public QWidget {
    Q_OBJECT
public:
    explicit SumPictureView(QWidget* parent = nullptr) : QWidget(parent) { setMinimumHeight(220); }
    void setPicture(const SumPicture&, const QString& words);

    /// As it is shown, of that size.
    static void paint(QPainter&, const QRectF&, const SumPicture&, const look::Palette&);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    SumPicture m_picture;
};

} // namespace kestrel::app
