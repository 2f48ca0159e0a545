#include "app/show/walk_stage.h"

#include "app/film/film_canvas.h"
#include "app/shell/picture_box.h"
#include "app/shell/theme.h"

#include <QVBoxLayout>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kTickMs = 33;

} // namespace

WalkStage::WalkStage(QWidget* parent) : QWidget(parent)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    m_canvas = new FilmCanvas(m_player, this);
    m_canvas->setOverlays([this] { return overlays(); });
    m_canvas->setNotice(
        [this]() -> QString { return !m_day || m_script.stops.empty() ? tr("The walk-through has no stops yet.") : QString(); });
    m_words = new QLabel(this);
    m_words->setObjectName(QStringLiteral("walkWords"));
    m_words->setTextFormat(Qt::PlainText);
    m_words->setWordWrap(true);
    m_words->setAlignment(Qt::AlignHCenter | Qt::AlignTop);
    m_picture = new PictureBox(this);
    m_picture->hide();
    layout->addWidget(m_canvas, 1);
    layout->addWidget(m_picture, 1);
    layout->addWidget(m_words);
    m_tick.setInterval(kTickMs);
    connect(&m_tick, &QTimer::timeout, this, &WalkStage::onTick);
    connect(&m_player, &FilmPlayer::opened, this, [this] { showFrame(); });
    setLetters(16);
}

void WalkStage::setLetters(int pixels)
{
    m_words->setStyleSheet(QStringLiteral("font-size:%1px; font-weight:600").arg(pixels));
    m_words->setMinimumHeight(pixels * 4); // three lines: the film keeps its place
}

void WalkStage::setTalk(std::shared_ptr<const ShownDay> day, const report::WalkScript& script)
{
    if (day != m_day) {
        m_prepared.reset();
        m_file.clear();
    }
    m_day = std::move(day);
    m_script = script;
    m_stop = m_script.stops.empty() ? 0 : std::min(m_stop, m_script.stops.size() - 1);
    goTo(m_stop, false);
}

const report::WalkStop* WalkStage::current() const
{
    const auto* stop = m_day && m_stop < m_script.stops.size() ? &m_script.stops[m_stop] : nullptr;
    return stop && (stop->isPicture() || stop->repetition < m_day->films.size()) ? stop : nullptr;
}

void WalkStage::goTo(std::size_t n, bool plays)
{
    m_stop = n;
    m_tick.stop();
    const auto* stop = current();
    m_words->setText(stop ? QString::fromStdString(stop->text) : QString());
    m_picture->setVisible(stop && stop->isPicture());
    m_canvas->setVisible(!m_picture->isVisibleTo(this));
    if (!stop)
        return m_canvas->update();
    m_pictureWork.stop();
    if (stop->isPicture())
        m_pictureWork = Background::run(
            this, [file = QString::fromStdString(stop->picture)](std::stop_token) { return QImage(file); },
            [this](const QImage& picture) { m_picture->setPicture(picture); });
    else
        openFilm(m_day->films[stop->repetition]);
    m_voice.stop();
    m_voiceWork.stop();
    if (plays && !stop->voice.empty())
        m_voiceWork = Background::run(
            this, [file = stop->voice](std::stop_token) { return media::loadSound(file); },
            [this](const Expected<media::Sound>& said) {
                if (said)
                    m_voice.play(*said);
            });
    m_growth = plays ? 0 : 1;
    m_since.start();
    if (plays)
        m_tick.start();
    showFrame();
    if (!plays)
        emit arrived();
}

void WalkStage::openFilm(const report::RepetitionFilm& film)
{
    if (m_file == film.file)
        return;
    m_file = film.file;
    m_canvas->setFilmSize(QSizeF(film.marking.film.width, film.marking.film.height));
    m_canvas->reset();
    m_player.open(QString::fromStdString(film.file), film.knownIndex, film.marking.film.frames, film.marking.clock);
}

void WalkStage::showFrame()
{
    const auto* stop = current();
    if (!stop || stop->isPicture())
        return;
    const double now = m_tick.isActive() ? static_cast<double>(m_since.elapsed()) / 1000 : 1e9;
    m_player.setFrame(report::frameAt(*stop, m_day->films[stop->repetition].clock, now));
    m_canvas->update();
}

void WalkStage::onTick()
{
    const auto* stop = current();
    if (!stop)
        return m_tick.stop();
    const double now = static_cast<double>(m_since.elapsed()) / 1000;
    const auto times = report::timesOf(*stop, stop->isPicture() ? FrameClock() : m_day->films[stop->repetition].clock, 0);
    m_growth = times.growthAt(now);
    showFrame();
    if (now > times.plays + report::kGrowSeconds) {
        m_tick.stop();
        emit arrived();
    }
}

std::vector<look::Overlay> WalkStage::overlays() const
{
    const auto* stop = current();
    if (!stop || stop->isPicture())
        return {};
    const auto& film = m_day->films[stop->repetition];
    if (!m_prepared || m_preparedOf != stop->repetition) {
        m_prepared = std::make_shared<const PreparedRepetition>(film.marking, film.clock);
        m_preparedOf = stop->repetition;
    }
    const bool isChild = m_day->facts.voice.value_or(report::voiceFor(m_day->review.athlete.age)) == report::Voice::Child;
    return report::overlaysOf(*stop, film, *m_prepared, m_player.pictured(), m_growth, !isChild);
}

} // namespace kestrel::app
