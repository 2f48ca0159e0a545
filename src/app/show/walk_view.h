#pragma once

#include "app/show/stop_drawings.h"
#include "app/show/voice_recorder.h"
#include "app/show/walk_editor.h"
#include "app/show/walk_player.h"

#include <QComboBox>
#include <QElapsedTimer>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>

namespace kestrel::app {

/// The talk through the film: its stops in order, the one that is chosen, and the ways out: shown over the whole screen, or
/// written as a film.
class WalkView : public QWidget {
    Q_OBJECT
public:
    WalkView(Workspace&, Bench&, QWidget* parent = nullptr);

    WalkEditor& editor() { return m_editor; }
    WalkStage& stage() { return *m_stage; }
    /// Shown from the chosen stop on.
    WalkPlayer* present();
    /// Writes it with its captions beside it; wrote() follows.
    void write(const QString& file);
    bool isWriting() const { return m_isWriting; }
    void stopWriting();
    void outdate(); ///< what it rests on has changed

signals:
    void benchWanted(); ///< what the coach wants to draw on is there
    void message(const QString& text);
    void wrote(bool done);

protected:
    void showEvent(QShowEvent*) override;
    void hideEvent(QHideEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;

private:
    QWidget* makeList();
    QWidget* makeForm();
    QLayout* makeVoice(QWidget* parent);
    void drawOnBench();
    void toggleRecording();
    void refreshVoice();
    void refresh();
    void refreshForm();
    void refreshIcons();
    void choose(std::size_t);
    void edit(const QString& text, const std::function<void(report::WalkStop&)>&);
    void chooseAndWrite();
    void storeSentence();
    void onWritten(const QString& file, const store::SentRow&, const Expected<report::WrittenWalk>&);
    void onProgress(double share);

    Workspace& m_workspace;
    Bench& m_bench;
    WalkEditor m_editor;
    WalkStage* m_stage;
    QListWidget* m_list;
    QPlainTextEdit* m_text;
    QSpinBox *m_from, *m_to;
    QComboBox *m_speed, *m_captions, *m_size;
    QPushButton *m_show, *m_write, *m_add, *m_remove;
    StopDrawings* m_drawings;
    VoiceRecorder m_recorder;
    std::size_t m_recordedStop = 0;
    QComboBox* m_microphone;
    QPushButton *m_record, *m_forgetVoice;
    QProgressBar *m_progress, *m_level;
    QLabel* m_said;
    QLabel *m_state, *m_note;
    Background m_icons, m_writing;
    bool m_isWriting = false, m_refreshing = false, m_isStale = true;
    QElapsedTimer m_writingSince;
    std::size_t m_chosen = 0;
};

} // namespace kestrel::app
