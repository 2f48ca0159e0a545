#include "app/show/voice_recorder.h"

#include <QAudioSource>
#include <QMediaDevices>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kPollMs = 50;

QAudioFormat format()
{
    QAudioFormat f;
    f.setSampleRate(media::kSoundRate);
    f.setChannelCount(1);
    f.setSampleFormat(QAudioFormat::Int16);
    return f;
}

} // namespace

VoiceRecorder::VoiceRecorder(QObject* parent) : QObject(parent)
{
    m_poll.setInterval(kPollMs);
    connect(&m_poll, &QTimer::timeout, this, &VoiceRecorder::onPoll);
}

VoiceRecorder::~VoiceRecorder() = default;

QString VoiceRecorder::standInName()
{
    return tr("stand-in that hums");
}

QStringList VoiceRecorder::names()
{
    QStringList names;
    for (const auto& device : QMediaDevices::audioInputs())
        names << device.description();
    return names << standInName();
}

void VoiceRecorder::start(const QString& name)
{
    m_sound = {};
    m_standIn = {};
    m_source.reset();
    m_device = nullptr;
    if (name != standInName()) {
        for (const auto& device : QMediaDevices::audioInputs())
            if (device.description() == name) {
                if (!device.isFormatSupported(format()))
                    return emit failed(tr("%1 cannot record one channel at 48 kHz; choose another microphone.").arg(name));
                m_source = std::make_unique<QAudioSource>(device, format());
                m_device = m_source->start();
            }
        if (!m_device)
            return emit failed(
                tr("The microphone %1 cannot be opened. Is it plugged in, and may this program use it?").arg(name));
    }
    m_since.start();
    m_poll.start();
}

void VoiceRecorder::onPoll()
{
    const std::size_t before = m_sound.samples.size();
    if (m_device) {
        const QByteArray bytes = m_device->readAll();
        const auto* samples = reinterpret_cast<const std::int16_t*>(bytes.constData());
        m_sound.samples.insert(m_sound.samples.end(), samples, samples + bytes.size() / 2);
        if (m_source->error() != QAudio::NoError && m_source->error() != QAudio::UnderrunError) {
            m_poll.stop();
            return emit failed(tr("The microphone stopped. What was said until then is kept."));
        }
    } else {
        const double behind = static_cast<double>(m_since.elapsed()) / 1000 - m_sound.seconds();
        const auto samples = m_standIn.hear(std::max(0.0, behind));
        m_sound.samples.insert(m_sound.samples.end(), samples.begin(), samples.end());
    }
    emit heard(media::loudnessOf({m_sound.samples.begin() + static_cast<std::ptrdiff_t>(before), m_sound.samples.end()}));
}

media::Sound VoiceRecorder::stop()
{
    if (m_poll.isActive())
        onPoll();
    m_poll.stop();
    if (m_source)
        m_source->stop();
    m_device = nullptr;
    return std::move(m_sound);
}

} // namespace kestrel::app
