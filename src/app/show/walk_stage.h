#pragma once

#include "app/film/film_player.h"
#include "app/show/shown_day.h"
#include "app/show/voice_player.h"
#include "app/workspace/background.h"

#include <QElapsedTimer>
#include <QLabel>
#include <QTimer>
#include <QWidget>

#include <memory>

namespace kestrel::app {

class FilmCanvas;
class PictureBox;

/// The film of a walk-through with one stop's drawings and sentence: a small one beside the list, a large one for the player.
class WalkStage : public QWidget {
    Q_OBJECT
public:
    explicit WalkStage(QWidget* parent = nullptr);

    /// \param script  with the voices' whole paths
    void setTalk(std::shared_ptr<const ShownDay>, const report::WalkScript&);
    /// \param plays  its stretch runs and its drawings grow; else its end is there at once
    void goTo(std::size_t stop, bool plays);
    std::size_t stop() const { return m_stop; }
    bool isPlaying() const { return m_tick.isActive(); }
    void setLetters(int pixels); ///< how high the sentence is written
    FilmPlayer& player() { return m_player; }

signals:
    void arrived(); ///< the stop is there with all of its drawings

private:
    void onTick();
    void openFilm(const report::RepetitionFilm&);
    void showFrame();
    std::vector<look::Overlay> overlays() const;
    const report::WalkStop* current() const;

    FilmPlayer m_player;
    VoicePlayer m_voice;
    Background m_voiceWork, m_pictureWork;
    FilmCanvas* m_canvas;
    PictureBox* m_picture; // in its place at a stop that is a picture
    QLabel* m_words;
    std::shared_ptr<const ShownDay> m_day;
    report::WalkScript m_script;
    std::size_t m_stop = 0;
    std::string m_file; // that is open
    mutable std::shared_ptr<const PreparedRepetition> m_prepared;
    mutable std::size_t m_preparedOf = 0;
    QTimer m_tick;
    QElapsedTimer m_since;
    double m_growth = 1;
};

} // namespace kestrel::app
