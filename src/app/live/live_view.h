#pragma once

#include "app/live/live_camera.h"
#include "app/live/radar_link.h"
#include "app/workspace/clip_import.h"
#include "app/workspace/workspace.h"

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
    /// Finds or makes the filming day clips are added to and calls the first with it, or the second when there is none.
    using DayAsker = std::function<void(std::function<void(store::DayId)>, std::function<void()>)>;

    LiveView(Workspace&, DayAsker day, QWidget* parent = nullptr);
    /// What is said about the athlete's workload, asked for again and again; empty: nothing.
    void setLoadWords(std::function<QString()> words) { m_loadWords = std::move(words); }

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
    void onClipSaved(store::ClipId);
    void toggleRadar();
    void refresh();

    Workspace& m_workspace;
    DayAsker m_day;
    std::function<QString()> m_loadWords;
    QLabel* m_load;
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
