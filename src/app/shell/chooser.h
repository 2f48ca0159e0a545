#pragma once

#include <QFrame>
#include <QLineEdit>
#include <QListWidget>
#include <QVariant>

#include <functional>
#include <vector>

namespace kestrel::app {

/// One question with a list of answers over the window: typing finds, arrows move, Enter chooses, Escape leaves.
class Chooser : public QFrame {
    Q_OBJECT
public:
    struct Item {
        QString text;
        QVariant value;
        QString note{}; ///< in the muted tone behind the text, such as "as last time"
    };
    /// \param over  it lies over the middle of that widget's window   \param chosen  called with the value, once, or never
    static Chooser* ask(QWidget* over, const QString& question, const std::vector<Item>&, std::function<void(QVariant)> chosen);

signals:
    void dismissed(); ///< nothing was chosen

protected:
    void closeEvent(QCloseEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;

private:
    Chooser(QWidget* over, const QString& question, const std::vector<Item>&, std::function<void(QVariant)> chosen);
    void filter(const QString&);
    void choose(QListWidgetItem*);

    QLineEdit* m_filter;
    QListWidget* m_list;
    std::function<void(QVariant)> m_chosen;
};

} // namespace kestrel::app
