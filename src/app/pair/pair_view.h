#pragma once

#include "app/pair/pair_model.h"
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
    enum class Layout { Beside, Above, Ghost };
    Layout layoutNow() const { return static_cast<Layout>(m_layout->currentIndex()); }

signals:
    void message(const QString& text);

protected:
    void keyPressEvent(QKeyEvent*) override;
    void showEvent(QShowEvent*) override;

private:
    QLayout* makeHeader();
    QWidget* makeFilms();
    QLayout* makeTransport();
    QWidget* makeDifferences();
    void addCommands();
    void askForOther();
    void refresh();
    void refreshWhere();
    void refreshLayout();
    std::vector<look::Overlay> overlaysOf(std::size_t side) const;
    void addGhost(std::vector<look::Overlay>& into) const;

    Workspace& m_workspace;
    Bench& m_bench;
    PairModel m_model;
    Commands m_commands;
    std::array<FilmCanvas*, 2> m_films{};
    std::array<QLabel*, 2> m_titles{}, m_times{};
    QBoxLayout* m_filmRow = nullptr;
    QWidget* m_secondBox = nullptr;
    QLabel *m_unfair, *m_notice;
    QComboBox *m_layout, *m_at, *m_by, *m_speed;
    QCheckBox* m_lines;
    QSlider *m_place, *m_ghost;
    QToolButton* m_play;
    QListWidget* m_list;
    QImage m_secondPicture;
    bool m_refreshing = false;
};

} // namespace kestrel::app
