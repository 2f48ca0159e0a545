#pragma once

#include "app/workspace/background.h"
#include "app/workspace/workspace.h"
#include "media/film_check.h"

#include <QFrame>
#include <QVBoxLayout>

#include <optional>

namespace kestrel::app {

/// What a clip can show, in words: looked at in the background, with what follows for the key positions and readings, the
/// question at which rate it was filmed when it looks like slow motion, and how to film it next time.
class FilmCheckCard : public QFrame {
    Q_OBJECT
public:
    explicit FilmCheckCard(Workspace&, QWidget* parent = nullptr);
    ~FilmCheckCard() override { m_work.stop(); }

    /// Looks through the clip's film and shows what was found.
    void show(store::ClipId);
    bool isReady() const { return m_check.has_value() || m_error.has_value(); }

protected:
    bool event(QEvent*) override;

private:
    void refresh();
    QLabel* addText(const QString&, const char* property = nullptr);
    void addRateQuestion(const store::Clip&);
    void addKeyPositions(const std::vector<std::string>& shown, const std::vector<std::string>& missed);
    void setCaptureRate(double);
    void showGuide();

    Workspace& m_workspace;
    Background m_work;
    store::ClipId m_clip;
    std::optional<media::FilmCheck> m_check;
    media::FilmInfo m_info;
    std::optional<Error> m_error;
    double m_progress = 0;
    bool m_isAnswered = false; // the question about the rate
    QVBoxLayout* m_layout;
};

} // namespace kestrel::app
