#pragma once

#include "app/bench/auto_marker.h"
#include "app/bench/bench.h"
#include "app/bench/bench_tools.h"
#include "app/film/still.h"
#include "app/shell/commands.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFrame>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QWidget>

namespace kestrel::app {

class DrawColumn;
class FilmCanvas;
class FilmCheckCard;
class FilmStrip;
class MarkGuide;
class RepetitionBar;
class RibbonView;

/// The Bench: film, tools, ribbon, read-out and the one-thing card.
class BenchView : public QWidget {
    Q_OBJECT
public:
    BenchView(Workspace&, Bench&, QWidget* parent = nullptr);

    FilmCanvas* film() const { return m_film; }
    FilmStrip* strip() const { return m_strip; }
    AutoMarker& marker() { return m_marker; }
    /// What the film can show, over it; again: away.
    void toggleFilmCheck();
    const Commands& commands() const { return m_commands; }

signals:
    void pageWanted();

protected:
    void keyPressEvent(QKeyEvent*) override;
    void resizeEvent(QResizeEvent*) override;

private:
    QLayout* makeHeader();
    QLayout* makeTools();
    QMenu* makeGroundMenu();
    QLayout* makeTransport();
    QToolButton* makeToolButton(const BenchTools::Button&);
    void refreshClip();
    void fillKnownLengths();
    void refreshWhere();
    void refreshTools();
    void refreshTransport();
    void refreshDropped();
    void refreshMarker();
    void placeGuide();
    void togglePlaying(bool backward);
    void followSelected();
    void addCommands();
    void addDrawingCommands();
    void changeSpeed(int by);
    QWidget* makeOrderNotice(QWidget* parent);
    void refreshOrder();
    void applyRates();
    QToolButton* makeStillButton();
    std::optional<Still> still() const;
    void copyStill();
    void saveStill();

    Bench& m_bench;
    Commands m_commands;
    BenchTools m_tools;
    AutoMarker m_marker;
    DrawColumn* m_drawColumn;
    FilmCanvas* m_film;
    MarkGuide* m_guide;
    FilmCheckCard* m_check;
    RibbonView* m_ribbon;
    FilmStrip* m_strip;
    RepetitionBar* m_repetitions;
    QLabel *m_name, *m_facts, *m_where, *m_time, *m_dropped;
    QComboBox *m_view, *m_variant, *m_known, *m_speed;
    QDoubleSpinBox *m_capture, *m_playback;
    QPushButton *m_page, *m_find;
    QToolButton *m_play, *m_playBack, *m_loop, *m_markForMe;
    QFrame* m_order;
    QLabel* m_orderText;
    QAction* m_split;
    std::vector<std::pair<Tool, QToolButton*>> m_toolButtons;
    bool m_refreshing = false; // widgets are being set from the bench, not by the coach
};

} // namespace kestrel::app
