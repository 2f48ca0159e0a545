#pragma once

#include "app/clip_import.h"
#include "app/live_camera.h"
#include "app/radar_link.h"
#include "app/workspace.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTimer>
#include <QWidget>

#include <functional>

namespace kestrel::app {

/// Filming at the court: the camera's picture, a key that saves what has just been seen as a clip, and the radar gun whose
/// reading goes with it.
class LiveView : public QWidget {
    Q_OBJECT
public:
    /// \param day  the filming day clips are added to, made when there is none; invalid when nobody is chosen
    LiveView(Workspace&, std::function<store::DayId()> day, QWidget* parent = nullptr);

    LiveCamera& camera() { return m_camera; }
    void start();
    void stop();
    /// What has just been seen becomes a clip of the day.
    void saveLast();

signals:
    void clipSaved(kestrel::store::ClipId clip); ///< ready to step through
    void message(const QString& text);

protected:
    void keyPressEvent(QKeyEvent*) override;
    void paintEvent(QPaintEvent*) override;

private:
    QLayout* makeControls();
    QRectF pictureArea() const;
    QString newFile() const;
    void takeClip(store::ClipId);
    void toggleRadar();
    void refresh();

    Workspace& m_workspace;
    std::function<store::DayId()> m_day;
    LiveCamera m_camera;
    RadarLink m_radar;
    ClipImport m_import;
    std::optional<double> m_speedOfClip; // read when it was saved
    QImage m_picture;
    QString m_notice;
    QTimer m_tick;
    bool m_isSaving = false;
    QComboBox* m_source;
    QPushButton *m_start, *m_save, *m_listen;
    QDoubleSpinBox* m_seconds;
    QLineEdit* m_gun;
    QLabel *m_state, *m_speed;
};

} // namespace kestrel::app
