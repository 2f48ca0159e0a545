#pragma once

#include "app/flight/bench_values.h"
#include "app/flight/sum_picture_view.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QSlider>

namespace kestrel::app {

class NumberField;

/// A slider that shows where the film's own value lies.
class MarkedSlider : public QSlider {
    Q_OBJECT
public:
    explicit MarkedSlider(QWidget* parent) : QSlider(Qt::Horizontal, parent) { setRange(0, kSteps); }
    static constexpr int kSteps = 1000;
    /// \param share  of the way from low to high; empty: the film has none
    void setMark(std::optional<double> share);

protected:
    void paintEvent(QPaintEvent*) override;
    void wheelEvent(QWheelEvent* event) override { event->ignore(); }

private:
    std::optional<double> m_mark;
};

/// Sums about flight, time, film and growth, moved by sliders.
class SumsView : public QWidget {
    Q_OBJECT
public:
    SumsView(Workspace&, Bench&, QWidget* parent = nullptr);

    void open(const std::string& card);
    const SumCard& card() const { return *m_card; }
    void set(const std::string& variable, double value); ///< as its slider does
    const Expected<SumAnswer>& answer() const { return m_answer; }
    void takeFromBench();
    void savePicture(const QString& file); ///< .png: the drawing with its answer
    QImage picture() const;                ///< the same; null: there is no answer

signals:
    void pageWanted(const QImage&, const std::string& words); ///< the picture is to go onto the page
    void talkWanted(const QImage&, const std::string& words); ///< and into the walk-through
    void message(const QString& text);

protected:
    void showEvent(QShowEvent*) override;

private:
    struct Row {
        std::string variable;
        MarkedSlider* slider;
        NumberField* number;
        QLabel* from;
    };
    void makeRows();
    QMenu* makeWaysOut(QWidget* parent);
    void refreshBench();
    void work();

    Workspace& m_workspace;
    Bench& m_bench;
    const SumCard* m_card = nullptr;
    std::map<std::string, double> m_values, m_sigmas;
    std::map<std::string, BenchValue> m_fromBench;
    Expected<SumAnswer> m_answer;
    QListWidget* m_cards;
    QLabel *m_question, *m_sentence, *m_results, *m_claim, *m_assumes, *m_missing, *m_caution;
    SumPictureView* m_picture;
    QWidget* m_form;
    std::vector<Row> m_rows;
    QComboBox *m_ball, *m_place;
    QCheckBox* m_air;
    QPushButton* m_take;
    std::vector<PlayPlace> m_places;
    bool m_refreshing = false;
};

} // namespace kestrel::app
