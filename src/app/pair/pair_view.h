#pragma once

#include "app/pair/pair_facts.h"
#include "app/pair/pair_model.h"
#include "app/pair/pair_output.h"
#include "app/shell/commands.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QToolButton>

namespace kestrel::app {

class FilmCanvas;

/// Two films together: beside each other or one over the other, lined up at a key position, with their differences.
class PairView : public QWidget {
    Q_OBJECT
public:
    PairView(Workspace&, Bench&, QWidget* parent = nullptr);

    PairModel& model() { return m_model; }
    const Commands& commands() const { return m_commands; }
    PairLayout layoutNow() const { return static_cast<PairLayout>(m_layout->currentIndex()); }
    void askForOther();                  ///< what the repetition on the Bench is compared with
    void saveStill(const QString& file); ///< .png
    void askForClip();                   ///< or stops the one that is being written
    void saveClip(const QString& file);  ///< .mp4 or .webm; says how far it is

signals:
    void pageWanted(const QImage&, const std::string& words); ///< the picture of both is to go onto the page
    void talkWanted(const QImage&, const std::string& words); ///< and into the walk-through
    void message(const QString& text);

protected:
    void keyPressEvent(QKeyEvent*) override;
    void showEvent(QShowEvent*) override;

private:
    QLayout* makeHeader();
    QWidget* makeFilms();
    QLayout* makeTransport();
    void addCommands();
    void refresh();
    void refreshIcons();
    void refreshWhere();
    void refreshLayout();
    std::vector<look::Overlay> overlaysOf(std::size_t side) const;
    PairLook lookNow() const;
    QString nameOfFile(const QString& ending) const;
    void paintStill(std::function<void(const QImage&)> then);
    void copyStill();
    void askForStill();
    std::string wordsNow() const; ///< what the picture of both shows
    bool isFirstOnBench() const;  ///< the first film is of the day on the bench
    /// The picture of both for the page or the talk of the day on the bench, and of no other day.
    void give(void (PairView::*wanted)(const QImage&, const std::string&));

    Workspace& m_workspace;
    Bench& m_bench;
    PairModel m_model;
    Commands m_commands;
    std::array<FilmCanvas*, 2> m_films{};
    std::array<QLabel*, 2> m_titles{}, m_times{};
    QBoxLayout* m_filmRow = nullptr;
    QWidget* m_secondBox = nullptr;
    QLabel* m_unfair;
    QComboBox *m_layout, *m_at, *m_by, *m_speed, *m_anchor;
    QCheckBox *m_lines, *m_grid, *m_together;
    QSlider *m_place, *m_ghost;
    QToolButton *m_play, *m_out;
    PairFacts* m_facts;
    QTimer m_waiting; // shows how far the model is
    Background m_writing;
    bool m_isWriting = false;
    QImage m_secondPicture;
    bool m_refreshing = false;
};

} // namespace kestrel::app
