#include "app/live/live_camera.h"

#include "look/film_image.h"

#include <QCamera>
#include <QCameraDevice>
#include <QMediaCaptureSession>
#include <QMediaDevices>
#include <QVideoFrame>
#include <QVideoSink>

namespace kestrel::app {

namespace {

constexpr double kKeptSeconds = 12;

QString standInName()
{
    return LiveCamera::tr("Stand-in: a simulated athlete");
}

} // namespace

LiveCamera::LiveCamera(QObject* parent) : QObject(parent), m_recorder(std::make_shared<media::RingRecorder>()) {}

LiveCamera::~LiveCamera()
{
    stop();
}

QStringList LiveCamera::names()
{
    QStringList list;
    for (const auto& device : QMediaDevices::videoInputs())
        list << device.description();
    return list << standInName();
}

void LiveCamera::start(const QString& name, const QString& folder)
{
    stop();
    m_recorder = std::make_shared<media::RingRecorder>();
    m_pictures = 0;
    m_hasFailed = false;
    m_isRunning = true;
    name == standInName() ? startStandIn(folder) : startReal(name);
}

void LiveCamera::stop()
{
    ++m_number;
    m_isRunning = false;
    m_standIn.stop();
    m_session.reset();
    m_camera.reset();
    m_sink.reset();
    m_previewWaits = false;
}

void LiveCamera::startStandIn(const QString& folder)
{
    const auto options = sim::StandInCamera::usualOptions();
    m_frameRate = options.frameRate;
    const auto later = [this, number = m_number](auto give) {
        QMetaObject::invokeMethod(
            this,
            [this, number, give] {
                if (number == m_number)
                    give();
            },
            Qt::QueuedConnection);
    };
    m_standIn.start(
        options, folder.toStdString(), [this](const media::Picture& p, MediaTime t) { onPicture(p, t); },
        [this, later](const Error& e) { later([this, e] { emit failed(e); }); },
        [this, later](double share) { later([this, share] { emit preparing(share); }); });
}

void LiveCamera::startReal(const QString& name)
{
    for (const auto& device : QMediaDevices::videoInputs())
        if (device.description() == name) {
            m_camera = std::make_unique<QCamera>(device);
            QCameraFormat best; // the fastest of those that are large enough to see a body
            for (const auto& format : device.videoFormats())
                if (format.resolution().height() >= 360 && format.maxFrameRate() > best.maxFrameRate())
                    best = format;
            if (!best.isNull())
                m_camera->setCameraFormat(best);
            m_frameRate = best.isNull() ? 30 : best.maxFrameRate();
            m_session = std::make_unique<QMediaCaptureSession>();
            m_sink = std::make_unique<QVideoSink>();
            m_session->setCamera(m_camera.get());
            m_session->setVideoSink(m_sink.get());
            connect(m_sink.get(), &QVideoSink::videoFrameChanged, this, &LiveCamera::onFrame);
            connect(m_camera.get(), &QCamera::errorOccurred, this, [this](QCamera::Error, const QString& text) {
                emit failed({ErrorCode::CannotOpen, "The camera gave up: " + text.toStdString() + ".", {}, {}});
            });
            m_camera->start();
            return;
        }
    m_isRunning = false;
    emit failed({ErrorCode::NotFound, "This camera is no longer connected.", name.toStdString(), {}});
}

/// On the stand-in's thread.
void LiveCamera::onPicture(const media::Picture& picture, MediaTime shown)
{
    record(picture.row(0), picture.stride, picture.size, shown);
    if (!m_previewWaits.exchange(true)) // the window shows what it can; the recorder gets all
        QMetaObject::invokeMethod(
            this,
            [this, image = look::toImage(picture)] {
                m_previewWaits = false;
                if (m_isRunning)
                    emit this->shown(image);
            },
            Qt::QueuedConnection);
}

void LiveCamera::onFrame(const QVideoFrame& frame)
{
    const QImage image = frame.toImage().convertToFormat(QImage::Format_RGB32);
    if (image.isNull())
        return;
    const QImage even = image.copy(0, 0, image.width() & ~1, image.height() & ~1);
    record(even.constBits(), static_cast<int>(even.bytesPerLine()), {even.width(), even.height()}, {frame.startTime() * 1000});
    emit shown(even);
}

void LiveCamera::record(const std::uint8_t* bgra, int stride, media::PixelSize size, MediaTime shown)
{
    ++m_pictures;
    auto done = m_recorder->isStarted() ? Expected<void>{} : m_recorder->start(size, m_frameRate, kKeptSeconds);
    if (done)
        done = m_recorder->push(bgra, stride, shown);
    if (!done && done.error().code != ErrorCode::BadArgument && !std::exchange(m_hasFailed, true))
        QMetaObject::invokeMethod(
            this, [this, e = done.error()] { emit failed(e); }, Qt::QueuedConnection);
}

} // namespace kestrel::app
