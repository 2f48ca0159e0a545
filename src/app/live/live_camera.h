#pragma once

#include "core/base/error.h"
#include "media/ring_recorder.h"
#include "sim/stand_in_camera.h"

#include <QImage>
#include <QObject>

#include <atomic>
#include <memory>

class QCamera;
class QMediaCaptureSession;
class QVideoFrame;
class QVideoSink;

namespace kestrel::app {

/// A camera whose last seconds are kept: a real one, or the stand-in that shows a simulated athlete.
class LiveCamera : public QObject {
    Q_OBJECT
public:
    explicit LiveCamera(QObject* parent = nullptr);
    ~LiveCamera() override;

    /// Names to choose from: the cameras of this machine, then the stand-in, which is always there.
    static QStringList names();
    /// \param name  one of names(). \param folder  for the stand-in's film
    void start(const QString& name, const QString& folder);
    void stop();
    bool isRunning() const { return m_isRunning; }

    const media::RingRecorder& recorder() const { return *m_recorder; }
    std::shared_ptr<const media::RingRecorder> sharedRecorder() const { return m_recorder; }
    double frameRate() const { return m_frameRate; } ///< as the camera says
    std::int64_t pictures() const { return m_pictures; }

signals:
    void preparing(double share); ///< the stand-in paints its film
    void shown(const QImage& picture);
    void failed(const kestrel::Error& error);

private:
    void startStandIn(const QString& folder);
    void startReal(const QString& name);
    void onPicture(const media::Picture&, MediaTime);
    void onFrame(const QVideoFrame&);
    void record(const std::uint8_t* bgra, int stride, media::PixelSize, MediaTime);

    std::shared_ptr<media::RingRecorder> m_recorder;
    sim::StandInCamera m_standIn;
    std::unique_ptr<QCamera> m_camera;
    std::unique_ptr<QMediaCaptureSession> m_session;
    std::unique_ptr<QVideoSink> m_sink;
    double m_frameRate = 30;
    bool m_isRunning = false, m_hasFailed = false;
    std::atomic<bool> m_previewWaits = false; // the window has not shown the last one yet
    std::atomic<std::int64_t> m_pictures = 0;
    std::uint64_t m_number = 0; // of this start; what comes from an earlier one is dropped
};

} // namespace kestrel::app
