#pragma once

#include "app/film/decode_service.h"
#include "core/base/play_run.h"
#include "core/scene/marking.h"

#include <QElapsedTimer>
#include <QImage>
#include <QTimer>

#include <optional>
#include <string>
#include <vector>

namespace kestrel::app {

/// One film: which picture is wanted and shown, and playing. It knows no library and no marks, and several may be open at once;
/// they share one budget of memory for pictures.
class FilmPlayer : public QObject {
    Q_OBJECT
public:
    explicit FilmPlayer(QObject* parent = nullptr);
    ~FilmPlayer() override;

    /// Opens at the first picture; filmChanged() says when it is open, or what went wrong.
    /// \param knownIndex  as media::OpenOptions   \param frames, rates  what is known until the film is open
    void open(const QString& file, const std::string& knownIndex, std::int64_t frames, Rates rates);
    /// Another file of the same film: it was moved. Place and loop stay.
    void openAgain(const QString& file, const std::string& knownIndex);
    void close();
    bool isOpen() const { return m_isOpen; }
    /// How much of the film is indexed, 0 to 1; empty: it is open, or was known.
    std::optional<double> indexing() const { return m_indexing; }
    /// Empty until it is open; then what went wrong, if something did.
    const std::optional<Error>& error() const { return m_error; }
    const std::vector<std::string>& warnings() const { return m_warnings; }
    const std::string& index() const { return m_index; } ///< as media::Film::indexBytes(); empty until it is open
    const FrameClock& clock() const { return m_clock; }
    void setRates(Rates);

    // where it stands
    FrameIndex frame() const { return m_frame; }
    std::int64_t frames() const { return m_clock.frames(); }
    void setFrame(FrameIndex);
    void step(int frames) { setFrame(FrameIndex(m_frame.value + frames)); }
    /// The picture that came last: while a far one is decoded it is another than frame(), and what is drawn belongs to it.
    FrameIndex pictured() const { return m_pictured.value_or(m_frame); }
    /// The picture stood at has not come yet.
    bool isWaiting() const { return m_decoder.isBusy(); }
    /// The film is open, but the picture stood at cannot be decoded.
    bool isPictureDamaged() const { return m_damaged == m_frame; }
    void setPictureSize(media::PixelSize largest); ///< how large pictures are wanted
    FrameIndex clamped(FrameIndex) const;

    // playing
    bool isPlaying() const { return m_tick.isActive(); }
    bool isBackward() const { return m_isBackward; }
    /// \param backward  the motion runs in reverse
    void setPlaying(bool, bool backward = false);
    double speed() const { return m_speed; }
    void setSpeed(double); ///< 1 is true speed
    /// Pictures whose time went by unseen since playing began.
    std::int64_t droppedPictures() const { return m_dropped; }
    std::optional<FrameRange> loop() const { return m_loop; }
    void setLoop(std::optional<FrameRange>);
    void setLoopFirst(); ///< the loop begins where the coach stands
    void setLoopLast();  ///< the loop ends where the coach stands

    std::size_t cachedBytes() const { return m_decoder.cachedBytes(); }
    /// For the pictures of all players together. \param bytes  empty: as much as the machine allows
    static void setMemory(std::optional<std::size_t> bytes);

signals:
    void filmChanged(); ///< opened, failed, or indexed a little further
    void opened(const std::string& indexBytes);
    void frameChanged();
    void pictureReady(const QImage& picture);
    void playingChanged();
    void pictureDropped(); ///< droppedPictures() has grown
    void message(const QString& text);

private:
    void onOpened(const media::FilmInfo&, const std::string& indexBytes);
    void setClock();
    void wantPicture();
    void playOn();
    void startRun();
    FrameRange wholeOrLoop() const;
    static void shareMemory();

    DecodeService m_decoder;
    bool m_isInUse = false; // a film is open or being opened
    std::int64_t m_expectedFrames = 0;
    Rates m_rates;
    FrameClock m_clock;
    std::vector<MediaTime> m_shown;
    std::optional<Error> m_error;
    std::vector<std::string> m_warnings;
    std::optional<double> m_indexing;
    std::string m_index;
    bool m_isOpen = false;
    std::optional<FrameIndex> m_damaged, m_pictured;
    FrameIndex m_frame{0};
    media::PixelSize m_largest;
    media::Travel m_travel = media::Travel::Forward;

    QTimer m_tick;
    QElapsedTimer m_playClock;
    std::optional<PlayRun> m_run;
    double m_speed = 0.125;
    bool m_isBackward = false;
    std::int64_t m_shownPictures = 0, m_dropped = 0; // of this run
    std::optional<FrameRange> m_loop;
};

} // namespace kestrel::app
