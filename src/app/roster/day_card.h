#pragma once

#include "app/roster/clip_grid.h"
#include "app/shell/chooser.h"
#include "app/workspace/workspace.h"

#include <QFrame>
#include <QVBoxLayout>

namespace kestrel::app {

/// One filming day in the Roster: date, skill, school, what is noted, and its clips.
class DayCard : public QFrame {
    Q_OBJECT
public:
    DayCard(Workspace&, const store::FilmingDay&, Posters&, QWidget* parent = nullptr);

    const store::FilmingDay& day() const { return m_day; }
    /// Makes the tiles that lie in that part of this card.
    void showPart(const QRect&);

signals:
    void clipChosen(kestrel::store::ClipId clip);
    void filmsDropped(const QStringList& files);
    void addClipsWanted();
    void clipMenuWanted(kestrel::store::ClipId clip, const QPoint& at);

protected:
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;

private:
    QLayout* makeHead();
    QWidget* makeNotes();
    void askForSkill();

    Workspace& m_workspace;
    store::FilmingDay m_day;
    ClipGrid* m_grid = nullptr; ///< null: no clips
};

/// The skills there are as answers to "Which skill?". \param first  pack id offered before the others; may be empty
std::vector<Chooser::Item> skillChoices(const Workspace&, const std::string& first, const QString& note);

} // namespace kestrel::app
