#pragma once

#include <QFrame>
#include <QLabel>
#include <QPushButton>
#include <QTimer>

#include <functional>

namespace kestrel::app {

/// What the program has to say, over the foot of the window: it moves nothing that the coach looks at. A remark goes by itself;
/// an error stays until it is closed or the next thing works.
class MessageLine : public QFrame {
    Q_OBJECT
public:
    /// \param over  it lies over the foot of that widget and follows its size
    explicit MessageLine(QWidget* over);

    /// One thing that can be done about it, beside the words.
    struct Offer {
        QString text;
        std::function<void()> accept;
    };
    /// With an offer it stays until it is answered, closed or replaced.
    void say(const QString& text, bool isError, Offer offer = {});
    void leave();   ///< what was a remark about what was seen before
    void succeed(); ///< something worked: an error that was said is over
    QString text() const { return m_text->text(); }

protected:
    bool eventFilter(QObject*, QEvent*) override;

private:
    void place();

    QWidget* m_over;
    QLabel* m_text;
    QPushButton* m_offer;
    std::function<void()> m_accept;
    QTimer m_time;
    bool m_isError = false;
};

} // namespace kestrel::app
