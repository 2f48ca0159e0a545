#pragma once

#include "app/bench/bench.h"
#include "app/shell/commands.h"

#include <QComboBox>
#include <QFrame>
#include <QLineEdit>
#include <QSpinBox>
#include <QToolButton>

namespace kestrel::app {

/// The few choices of the chosen drawing, beside it on the film: when it is seen, whether it follows the body, how thick it is.
class DrawingOptions : public QFrame {
    Q_OBJECT
public:
    DrawingOptions(Bench&, const Commands&, QWidget* film);

protected:
    bool eventFilter(QObject*, QEvent*) override;

private:
    QToolButton* makeButton(const QString& name, const QString& words, const QString& tip);
    void refresh();
    void place();
    void setLives(int choice);
    void change(const QString& text, const std::function<void(Drawing&)>&);

    Bench& m_bench;
    QComboBox* m_lives;
    QToolButton *m_follows, *m_thick, *m_hides;
    QLineEdit* m_words;
    QSpinBox* m_every;
    store::DrawingId m_shown;
    bool m_refreshing = false; // set from the drawing, not by the coach
};

} // namespace kestrel::app
