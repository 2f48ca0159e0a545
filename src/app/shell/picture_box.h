#pragma once

#include <QImage>
#include <QPainter>
#include <QWidget>

namespace kestrel::app {

/// A picture in the middle, as large as there is room.
class PictureBox : public QWidget {
    Q_OBJECT
public:
    explicit PictureBox(QWidget* parent = nullptr) : QWidget(parent) {}
    void setPicture(const QImage& picture)
    {
        m_picture = picture;
        update();
    }
    const QImage& picture() const { return m_picture; }

protected:
    void paintEvent(QPaintEvent*) override
    {
        if (m_picture.isNull())
            return;
        QRect box({}, m_picture.size().scaled(size(), Qt::KeepAspectRatio));
        box.moveCenter(rect().center());
        QPainter painter(this);
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.drawImage(box, m_picture);
    }

private:
    QImage m_picture;
};

} // namespace kestrel::app
