#include "app/show/voice_player.h"

#include <QAudioFormat>
#include <QAudioSink>
#include <QMediaDevices>

namespace kestrel::app {

VoicePlayer::VoicePlayer(QObject* parent) : QObject(parent) {}
VoicePlayer::~VoicePlayer() = default;

void VoicePlayer::play(const media::Sound& sound)
{
    stop();
    const auto device = QMediaDevices::defaultAudioOutput();
    if (device.isNull() || sound.samples.empty())
        return;
    QAudioFormat format;
    format.setSampleRate(media::kSoundRate);
    format.setChannelCount(1);
    format.setSampleFormat(QAudioFormat::Int16);
    m_bytes.setData(reinterpret_cast<const char*>(sound.samples.data()), static_cast<qsizetype>(2 * sound.samples.size()));
    m_bytes.open(QIODevice::ReadOnly);
    m_sink = std::make_unique<QAudioSink>(device, format);
    m_sink->start(&m_bytes);
}

void VoicePlayer::stop()
{
    if (m_sink)
        m_sink->stop();
    m_sink.reset();
    m_bytes.close();
}

} // namespace kestrel::app
