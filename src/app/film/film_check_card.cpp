#include "app/film/film_check_card.h"

#include "app/film/film_guide_window.h"
#include "app/shell/plain_text.h"
#include "app/shell/theme.h"
#include "app/workspace/row_edits.h"
#include "core/pack/film_support.h"

#include <QFileInfo>
#include <QLabel>
#include <QPointer>
#include <QPushButton>
#include <QToolButton>

namespace kestrel::app {

namespace {

constexpr double kUsualRates[] = {60, 120, 240};

struct Looked {
    media::FilmInfo info;
    media::FilmCheck check;
};

} // namespace

FilmCheckCard::FilmCheckCard(Workspace& workspace, QWidget* parent) : QFrame(parent), m_workspace(workspace)
{
    setProperty("card", true);
    setObjectName(QStringLiteral("filmCheck"));
    m_layout = new QVBoxLayout(this);
    m_layout->setContentsMargins(16, 12, 16, 12);
    m_layout->setSpacing(5);
    connect(&workspace, &Workspace::changed, this, [this] {
        if (m_check)
            refresh();
    });
}

void FilmCheckCard::show(store::ClipId id)
{
    m_work.stop();
    m_clip = id;
    m_check.reset();
    m_error.reset();
    m_isAnswered = false;
    const auto clip = m_workspace.library().clips().find(id);
    if (!clip)
        return;
    const auto tell = [alive = QPointer<FilmCheckCard>(this), id](double share) {
        QMetaObject::invokeMethod(
            qApp,
            [alive, id, share] {
                if (alive && alive->m_clip == id && !alive->isReady()) {
                    alive->m_progress = share;
                    alive->refresh();
                }
            },
            Qt::QueuedConnection);
    };
    m_work = Background::run(
        this,
        [file = m_workspace.library().filmPath(*clip), tell](std::stop_token stop) -> Expected<Looked> {
            auto film = media::Film::open(file, {.stop = stop});
            if (!film)
                return tl::unexpected(film.error());
            double told = 0;
            return media::checkFilm(
                       *film,
                       [&](double share) {
                           if (share > told + 0.05)
                               tell(told = share);
                       },
                       stop)
                .map([&](media::FilmCheck check) {
                    return Looked{film->info(), std::move(check)};
                });
        },
        [this](Expected<Looked> looked) {
            if (looked) {
                m_info = std::move(looked->info);
                m_check = std::move(looked->check);
            } else {
                m_error = looked.error();
            }
            refresh();
        });
    m_progress = 0;
    refresh();
    QFrame::show();
}

QLabel* FilmCheckCard::addText(const QString& text, const char* property)
{
    auto* label = new QLabel(text, this);
    label->setWordWrap(true);
    label->setMinimumWidth(1); // a long name without spaces does not widen the card
    if (property)
        label->setProperty(property, true);
    m_layout->addWidget(label);
    return label;
}

/// Where no layout does it, the card makes itself as tall as what it says.
bool FilmCheckCard::event(QEvent* event)
{
    const bool done = QFrame::event(event);
    const QLayout* around = parentWidget()->layout();
    if (event->type() == QEvent::LayoutRequest && (!around || around->indexOf(this) < 0))
        resize(width(), std::max(m_layout->heightForWidth(width()), m_layout->minimumSize().height()));
    return done;
}

void FilmCheckCard::refresh()
{
    while (QLayoutItem* item = m_layout->takeAt(0)) {
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
    const auto clip = m_workspace.library().clips().find(m_clip);
    if (!clip) {
        hide();
        return;
    }
    auto* head = new QWidget(this);
    auto* row = new QHBoxLayout(head);
    row->setContentsMargins(0, 0, 0, 0);
    auto* title = new QLabel(tr("Film check"), head);
    title->setProperty("subhead", true);
    auto* name = new QLabel(QFileInfo(QString::fromStdString(clip->file)).fileName(), head);
    name->setProperty("muted", true);
    auto* close = new QToolButton(head);
    close->setText(tr("Close"));
    close->setProperty("flat", true);
    connect(close, &QToolButton::clicked, this, [this] {
        m_work.stop();
        hide();
    });
    row->addWidget(title);
    row->addWidget(name);
    row->addStretch();
    row->addWidget(close);
    m_layout->addWidget(head);
    if (m_error) {
        addText(QString::fromStdString(m_error->text()));
        return;
    }
    if (!m_check) {
        addText(tr("Looking through the film … %1 %").arg(static_cast<int>(100 * m_progress)), "muted");
        return;
    }
    QStringList facts{tr("%1 × %2 pixels").arg(m_info.size.width).arg(m_info.size.height),
                      tr("plays at %1 pictures a second").arg(m_info.frameRate, 0, 'f', m_info.frameRate < 100 ? 1 : 0)};
    if (clip->clock.capture > clip->clock.playback)
        facts << tr("filmed at %1").arg(clip->clock.capture, 0, 'f', 0);
    if (m_check->athletePixels > 0)
        facts << tr("the athlete is about %1 pixels high").arg(m_check->athletePixels, 0, 'f', 0);
    addText(facts.join(QStringLiteral(" · ")), "muted");
    addRateQuestion(*clip);
    for (const auto& finding : m_check->findings)
        addText(QString::fromStdString(finding));
    for (const auto& warning : m_info.warnings)
        addText(QString::fromStdString(warning));
    const auto day = m_workspace.library().days().find(clip->day);
    const Pack* pack = day ? m_workspace.findPack(day->skill) : nullptr;
    if (!pack)
        return;
    const auto support = calcFilmSupport(*pack, {clip->clock.capture, m_check->athletePixels, clip->scene.view});
    std::vector<std::string> shown, missed;
    for (const auto& k : support.keyPositions)
        (k.isShown ? shown : missed).push_back(k.name);
    addKeyPositions(shown, missed);
    for (const auto& c : support.consequences)
        addText(QString::fromStdString(c));
    if (!pack->filming.empty()) {
        auto* guide = new QPushButton(tr("How to film it next time…"), this);
        guide->setObjectName(QStringLiteral("filmGuide"));
        connect(guide, &QPushButton::clicked, this, &FilmCheckCard::showGuide);
        m_layout->addWidget(guide, 0, Qt::AlignLeft);
    }
}

/// Asked when the film moves like slow motion, or when the camera noted another rate than the file plays at.
void FilmCheckCard::addRateQuestion(const store::Clip& clip)
{
    const bool isNoted = m_info.declaredCaptureRate > 1.05 * m_info.frameRate;
    const bool isSet = clip.clock.capture > 1.05 * clip.clock.playback;
    if (m_isAnswered || isSet || !(isNoted || m_check->looksSlow))
        return;
    auto* question = new QWidget(this);
    question->setObjectName(QStringLiteral("rateQuestion"));
    auto* row = new QHBoxLayout(question);
    row->setContentsMargins(0, 0, 0, 0);
    auto* text = new QLabel(
        isNoted ? tr("The camera notes a higher rate. Filmed at:") : tr("It moves like slow motion. Filmed at:"), question);
    text->setStyleSheet(QStringLiteral("font-weight:600; color:%1").arg(colours().chestnut.name()));
    row->addWidget(text);
    const auto add = [&](const QString& words, double rate) {
        auto* button = new QPushButton(words, question);
        button->setObjectName(QStringLiteral("rate%1").arg(rate, 0, 'f', 0));
        connect(button, &QPushButton::clicked, this, [this, rate] { setCaptureRate(rate); });
        row->addWidget(button);
    };
    if (isNoted)
        add(tr("%1, as noted").arg(m_info.declaredCaptureRate, 0, 'f', 0), m_info.declaredCaptureRate);
    for (const double rate : kUsualRates)
        if (rate > 1.5 * m_info.frameRate && !(isNoted && rate == m_info.declaredCaptureRate))
            add(QString::number(rate), rate);
    add(tr("no, true speed"), 0);
    row->addStretch();
    m_layout->addWidget(question);
}

void FilmCheckCard::addKeyPositions(const std::vector<std::string>& shown, const std::vector<std::string>& missed)
{
    const auto join = [](const std::vector<std::string>& names) {
        QStringList list;
        for (const auto& n : names)
            list << QString::fromStdString(n);
        return list.join(QStringLiteral(", "));
    };
    if (!shown.empty())
        PlainText::setFormatted(addText(tr("<b>Shown:</b> %1").arg(join(shown).toHtmlEscaped())));
    if (!missed.empty())
        PlainText::setFormatted(addText(tr("<b>May be missed:</b> %1").arg(join(missed).toHtmlEscaped())));
}

void FilmCheckCard::setCaptureRate(double rate)
{
    m_isAnswered = true;
    const auto clip = m_workspace.library().clips().find(m_clip);
    if (!clip)
        return;
    store::Clip after = *clip;
    if (rate > 0)
        after.clock.capture = rate;
    if (after == *clip)
        return refresh();
    changeRow(m_workspace, tr("set the frame rates"), *clip, after);
}

void FilmCheckCard::showGuide()
{
    const auto clip = m_workspace.library().clips().find(m_clip);
    const auto day = clip ? m_workspace.library().days().find(clip->day) : tl::unexpected(Error{});
    if (const Pack* pack = day ? m_workspace.findPack(day->skill) : nullptr)
        (new FilmGuideWindow(*pack, clip->scene.view, window()))->show();
}

} // namespace kestrel::app
