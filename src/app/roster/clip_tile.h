#pragma once

#include "store/records.h"

#include <QAbstractButton>
#include <QImage>

namespace kestrel::app {

/// One clip in a filming day's strip: its poster frame, what it is, and how far it is marked. It can be dragged to another day or
/// athlete.
class ClipTile : public QAbstractButton {
    Q_OBJECT
public:
    ClipTile(const QString& title, const QString& state, store::ClipId, const QImage& poster, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {176, 140}; }
    void setPoster(const QImage&);

    /// What a dragged clip is in the drag's data: its row's number as text.
    static QString mimeType() { return QStringLiteral("application/x-jolly-kestrel-clip"); }

signals:
    void removeWanted();
    void menuWanted(const QPoint& at); ///< on the screen

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;

private:
    QString m_state;
    store::ClipId m_clip;
    QImage m_poster;
    QPoint m_pressed;
};

} // namespace kestrel::app
