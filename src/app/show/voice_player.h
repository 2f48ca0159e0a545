#pragma once

#include "media/sound.h"

#include <QBuffer>
#include <QObject>

#include <memory>

class QAudioSink;

namespace kestrel::app {

/// Plays what the coach said to a stop. Without a loudspeaker it is silent.
class VoicePlayer : public QObject {
    Q_OBJECT
public:
    explicit VoicePlayer(QObject* parent = nullptr);
    ~VoicePlayer() override;

    void play(const media::Sound&); ///< instead of what is played
    void stop();

private:
    QBuffer m_bytes;
    std::unique_ptr<QAudioSink> m_sink;
};

} // namespace kestrel::app
