#pragma once

#include "app/match/match_model.h"
#include "app/shell/commands.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QStackedWidget>
#include <QTableView>
#include <QToolButton>

namespace kestrel::app {

class FilmCanvas;
class RallyList;

/// A match logged by keys while its film plays, or live: score, rallies, tallies, and what to train next.
class MatchView : public QWidget {
    Q_OBJECT
public:
    MatchView(Workspace&, QWidget* parent = nullptr);

    MatchModel& model() { return m_model; }
    const Commands& commands() const { return m_commands; }
    void makeMatch();                                                     ///< of what the form says
    void savePage(const QString& file);                                   ///< .pdf, .png or .html
    void saveTable(const QString& file);                                  ///< .csv, or .json with everything
    void readTable(const QString& file);                                  ///< .csv or .json
    void saveFilm(const QString& file, std::vector<std::size_t> rallies); ///< of rallies, with the score written in

signals:
    void message(const QString& text);

protected:
    void keyPressEvent(QKeyEvent*) override;
    void showEvent(QShowEvent*) override;

private:
    QWidget* makeChoice();
    QWidget* makeLog();
    QWidget* makeKeys();
    QWidget* makeFilm();
    void addCommands();
    void refresh();
    void refreshMatches();
    void refreshKeys();
    void refreshInHand();
    void refreshTallies();
    void refreshOthers();
    QString tallyWords(const Tally&) const;
    void refreshPlace();
    void askAndSave(const QString& what);
    std::vector<std::size_t> chosenRallies() const;

    Workspace& m_workspace;
    MatchModel m_model;
    Commands m_commands;
    QComboBox *m_matches, *m_sport, *m_best, *m_other;
    QLineEdit *m_first, *m_second, *m_note;
    QStringListModel* m_names; ///< of those in the library and in other matches
    QStackedWidget* m_pages;
    FilmCanvas* m_film;
    QWidget* m_filmBox;
    QSlider* m_place;
    QLabel *m_score, *m_points, *m_inHand, *m_next, *m_hint;
    QWidget* m_keys;
    std::vector<std::pair<QString, QLabel*>> m_keyLabels;
    std::vector<store::MatchRow> m_all; // every match, without its rallies
    QTableView* m_table;
    RallyList* m_rallies;
    QListWidget* m_tallies;
    QToolButton* m_out;
    QPushButton *m_find, *m_filmChoice, *m_toPlan;
    Background m_writing;
    bool m_isWriting = false, m_refreshing = false;
};

} // namespace kestrel::app
