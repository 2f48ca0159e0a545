#pragma once

#include "media/sound.h"
#include "sim/stand_in_microphone.h"

#include <QElapsedTimer>
#include <QObject>
#include <QStringList>
#include <QTimer>

#include <memory>

class QAudioSource;
class QIODevice;

namespace kestrel::app {

/// Records what the coach says to a stop, from a microphone of this machine or the stand-in that hums.
class VoiceRecorder : public QObject {
    Q_OBJECT
public:
    explicit VoiceRecorder(QObject* parent = nullptr);
    ~VoiceRecorder() override;

    /// Names to choose from: this machine's microphones, then the stand-in, which is always there.
    static QStringList names();
    static QString standInName();

    /// \param name  one of names()
    void start(const QString& name);
    /// What was said since.
    media::Sound stop();
    bool isRunning() const { return m_poll.isActive(); }
    double seconds() const { return m_sound.seconds(); }

signals:
    void heard(double loudness); ///< 0 to 1, some times a second
    void failed(const QString& why);

private:
    void onPoll();

    QTimer m_poll;
    QElapsedTimer m_since;
    std::unique_ptr<QAudioSource> m_source; // null: the stand-in
    QIODevice* m_device = nullptr;
    sim::StandInMicrophone m_standIn;
    media::Sound m_sound;
};

} // namespace kestrel::app
