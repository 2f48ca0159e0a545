#pragma once

#include "app/auto_marker.h"
#include "app/bench_session.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QWidget>

namespace kestrel::app {

class FilmView;
class FilmCheckCard;
class FilmStrip;
class MarkGuide;
class RepetitionBar;
class RibbonView;

/// The Bench: film, tools, ribbon, read-out and the one-thing card.
class BenchView : public QWidget {
    Q_OBJECT
public:
    BenchView(Workspace&, BenchSession&, QWidget* parent = nullptr);

    FilmView* film() const { return m_film; }
    FilmStrip* strip() const { return m_strip; }
    AutoMarker& marker() { return m_marker; }
    /// What the film can show, over it; again: away.
    void toggleFilmCheck();

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
    QToolButton* makeToolButton(Tool, const QString& icon, const QString& text, const QString& tip);
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
    void takeRates();

    BenchSession& m_session;
    AutoMarker m_marker;
    FilmView* m_film;
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
    QAction* m_split;
    std::vector<std::pair<Tool, QToolButton*>> m_tools;
    bool m_refreshing = false; // widgets are being set from the session, not by the coach
};

} // namespace kestrel::app
