#pragma once

#include <QAbstractButton>
#include <QImage>

namespace kestrel::app {

/// One clip in a filming day's strip: its poster frame, what it is, and how far it is marked.
class ClipTile : public QAbstractButton {
    Q_OBJECT
public:
    ClipTile(const QString& title, const QString& state, const QImage& poster, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {176, 140}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    QString m_state;
    QImage m_poster;
};

} // namespace kestrel::app
