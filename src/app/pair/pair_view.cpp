#include "app/pair/pair_view.h"

#include "app/film/film_canvas.h"
#include "app/shell/chooser.h"
#include "app/shell/file_dialogs.h"
#include "app/shell/speed_box.h"
#include "app/shell/theme.h"
#include "app/workspace/progress_teller.h"
#include "look/drawing_overlays.h"
#include "look/film_image.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QVBoxLayout>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr qlonglong kModel = 0; // else a repetition's id

/// Every repetition of a day's skill but one: the athlete's last filming day before it, then all: the day's own first, then the
/// athlete's other days, then others'.
Expected<std::vector<Chooser::Item>> otherRepetitions(const store::Library& library, store::AthleteId first,
                                                      const store::FilmingDay& day, store::RepetitionId but)
{
    std::vector<Chooser::Item> items;
    std::optional<Chooser::Item> last;
    auto athletes = library.athletes().all();
    if (!athletes)
        return tl::unexpected(athletes.error());
    std::stable_partition(athletes->begin(), athletes->end(), [&](const store::Athlete& a) { return a.id == first; });
    for (const auto& athlete : *athletes) {
        auto days = library.days().of(athlete.id);
        if (!days)
            return tl::unexpected(days.error());
        std::erase_if(*days, [&](const store::FilmingDay& d) { return d.skill != day.skill; });
        std::stable_sort(days->begin(), days->end(), [&](const auto& a, const auto& b) {
            return (a.id == day.id) != (b.id == day.id) ? a.id == day.id : a.date > b.date;
        });
        for (const auto& d : *days) {
            const auto clips = library.clips().of(d.id);
            if (!clips)
                return tl::unexpected(clips.error());
            for (std::size_t c = 0; c < clips->size(); ++c) {
                const auto repetitions = library.repetitions().of((*clips)[c].id);
                if (!repetitions)
                    return tl::unexpected(repetitions.error());
                if (!last && athlete.id == first && d.date < day.date && !repetitions->empty())
                    last = Chooser::Item{PairView::tr("the last filming day, %1").arg(QString::fromStdString(d.date)),
                                         qlonglong(repetitions->front().id.value),
                                         QString::fromStdString(plainWordsOf((*clips)[c].scene.view))};
                for (std::size_t r = 0; r < repetitions->size(); ++r)
                    if ((*repetitions)[r].id != but)
                        items.push_back({PairView::tr("%1, %2, clip %3, repetition %4")
                                             .arg(QString::fromStdString(athlete.name), QString::fromStdString(d.date))
                                             .arg(c + 1)
                                             .arg(r + 1),
                                         qlonglong((*repetitions)[r].id.value),
                                         QString::fromStdString(plainWordsOf((*clips)[c].scene.view))});
            }
        }
    }
    if (last)
        items.insert(items.begin(), *last);
    return items;
}

/// The day's repetition with the largest share of readings in their bands, of those that were judged; empty: no other was.
std::optional<Chooser::Item> bestOther(const Bench& bench)
{
    std::optional<Chooser::Item> best;
    double most = -1;
    for (const auto& one : bench.review.together()) {
        if (!one.read || one.id == bench.context.repetition().id)
            continue;
        int good = 0, all = 0;
        for (const auto& r : one.read->readings) {
            const bool isGood = r.verdict == Verdict::OnTarget || r.verdict == Verdict::Near;
            good += isGood;
            all += isGood || r.verdict == Verdict::Off;
        }
        if (all == 0 || static_cast<double>(good) / all <= most)
            continue;
        most = static_cast<double>(good) / all;
        best = Chooser::Item{PairView::tr("the day's best other repetition"), qlonglong(one.id.value),
                             PairView::tr("%1 of %2 readings in their bands").arg(good).arg(all)};
    }
    return best;
}

} // namespace

PairView::PairView(Workspace& workspace, Bench& bench, QWidget* parent)
    : QWidget(parent), m_workspace(workspace), m_bench(bench), m_model(workspace)
{
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(16, 12, 16, 12);
    whole->setSpacing(8);
    addCommands();
    whole->addLayout(makeHeader());
    m_unfair = new QLabel(this);
    m_unfair->setObjectName(QStringLiteral("pairUnfair"));
    m_unfair->setTextFormat(Qt::PlainText);
    m_unfair->setWordWrap(true);
    whole->addWidget(m_unfair);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(16);
    auto* left = new QVBoxLayout;
    left->addWidget(makeFilms(), 1);
    left->addLayout(makeTransport());
    columns->addLayout(left, 1);
    m_facts = new PairFacts(m_model, this);
    columns->addWidget(m_facts);
    whole->addLayout(columns, 1);
    setFocusPolicy(Qt::StrongFocus);
    connect(&m_model, &PairModel::changed, this, &PairView::refresh);
    connect(&m_model, &PairModel::frameChanged, this, &PairView::refreshWhere);
    connect(&m_model, &PairModel::playingChanged, this, &PairView::refreshIcons);
    connect(&m_model, &PairModel::message, this, &PairView::message);
    m_waiting.setInterval(200);
    connect(&m_waiting, &QTimer::timeout, this, [this] {
        for (auto* film : m_films)
            film->update();
        if (!m_model.isGathering())
            m_waiting.stop();
    });
    connect(&m_model.player(1), &FilmPlayer::pictureReady, this, [this](const QImage& picture) {
        m_secondPicture = picture;
        if (layoutNow() == PairLayout::Ghost)
            m_films[0]->update();
    });
    connect(&Theme::instance(), &Theme::changed, this, &PairView::refresh);
    refresh();
}

QLayout* PairView::makeHeader()
{
    auto* row = new QHBoxLayout;
    auto* head = new QLabel(tr("Pair"), this);
    head->setProperty("head", true);
    m_layout = new QComboBox(this);
    m_layout->setObjectName(QStringLiteral("pairLayout"));
    m_layout->addItems({tr("beside each other"), tr("one above the other"), tr("one over the other")});
    m_layout->setToolTip(tr("How the two films lie (V)"));
    m_at = new QComboBox(this);
    m_at->setObjectName(QStringLiteral("pairAt"));
    m_at->setToolTip(tr("Where both stand together (1 to 9)"));
    m_at->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    m_by = new QComboBox(this);
    m_by->setObjectName(QStringLiteral("pairBy"));
    m_by->addItems({tr("by real time"), tr("by phase")});
    m_by->setToolTip(tr("By phase both pass every key position together; each film still shows its own time (P)"));
    m_lines = new QCheckBox(tr("body lines"), this);
    m_lines->setObjectName(QStringLiteral("pairLines"));
    m_lines->setToolTip(tr("The second body as lines over the first film (B)"));
    m_grid = new QCheckBox(tr("grid"), this);
    m_grid->setObjectName(QStringLiteral("pairGrid"));
    m_grid->setToolTip(
        tr("A level grid over both, a tenth of standing height from line to line, from the same point of each (G)"));
    m_ghost = new QSlider(Qt::Horizontal, this);
    m_ghost->setObjectName(QStringLiteral("pairGhost"));
    m_ghost->setRange(0, 100);
    m_ghost->setValue(50);
    m_ghost->setFixedWidth(110);
    m_ghost->setToolTip(tr("How much of the second film is seen"));
    m_ghost->setAccessibleName(m_ghost->toolTip());
    m_anchor = new QComboBox(this);
    m_out = new QToolButton(this);
    m_out->setObjectName(QStringLiteral("pairOut"));
    m_out->setText(tr("Take along"));
    m_out->setToolTip(tr("A still or a clip of both, as they lie now"));
    m_out->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(m_out);
    menu->addAction(tr("Copy this picture") + QStringLiteral("\tCtrl+C"), this, &PairView::copyStill);
    menu->addAction(tr("Save this picture…") + QStringLiteral("\tCtrl+S"), this, &PairView::askForStill);
    menu->addAction(tr("Save a clip…") + QStringLiteral("\tCtrl+E"), this, &PairView::askForClip);
    menu->addSeparator();
    menu->addAction(tr("Put it on the page"), this, [this] { give(&PairView::pageWanted); });
    menu->addAction(tr("Put it into the walk-through"), this, [this] { give(&PairView::talkWanted); });
    m_out->setMenu(menu);
    auto* other = new QPushButton(tr("Compare with…"), this);
    other->setObjectName(QStringLiteral("pairOther"));
    other->setProperty("primary", true);
    other->setToolTip(tr("The repetition on the Bench with another one (O)"));
    row->addWidget(head);
    row->addStretch();
    for (QWidget* w : {static_cast<QWidget*>(m_ghost), static_cast<QWidget*>(m_anchor), static_cast<QWidget*>(m_lines),
                       static_cast<QWidget*>(m_grid), static_cast<QWidget*>(m_layout), static_cast<QWidget*>(m_at),
                       static_cast<QWidget*>(m_by), static_cast<QWidget*>(m_out), static_cast<QWidget*>(other)}) {
        w->setFocusPolicy(Qt::TabFocus);
        row->addWidget(w);
    }
    m_anchor->setObjectName(QStringLiteral("pairAnchor"));
    m_anchor->addItem(tr("hips on hips"), QStringLiteral("midHip"));
    m_anchor->addItem(tr("back foot on back foot"), QStringLiteral("ankle.trail"));
    m_anchor->addItem(tr("head on head"), QStringLiteral("head"));
    m_anchor->setToolTip(tr("What of the second body lies on the first"));
    connect(m_anchor, &QComboBox::activated, this,
            [this] { m_model.setAnchor(m_anchor->currentData().toString().toStdString()); });
    connect(m_layout, &QComboBox::currentIndexChanged, this, &PairView::refreshLayout);
    connect(m_at, &QComboBox::activated, this, [this] { m_model.setLinedUpAt(m_at->currentData().toString().toStdString()); });
    connect(m_by, &QComboBox::currentIndexChanged, this,
            [this](int n) { m_model.setBy(n == 0 ? LineUp::By::RealTime : LineUp::By::Phase); });
    for (auto* box : {m_lines, m_grid})
        connect(box, &QCheckBox::toggled, this, &PairView::refreshLayout);
    connect(m_ghost, &QSlider::valueChanged, this, [this] { m_films[0]->update(); });
    connect(other, &QPushButton::clicked, this, &PairView::askForOther);
    return row;
}

QWidget* PairView::makeFilms()
{
    auto* box = new QWidget(this);
    m_filmRow = new QHBoxLayout(box);
    m_filmRow->setContentsMargins(0, 0, 0, 0);
    m_filmRow->setSpacing(8);
    for (std::size_t n = 0; n < 2; ++n) {
        auto* side = new QWidget(box);
        auto* column = new QVBoxLayout(side);
        column->setContentsMargins(0, 0, 0, 0);
        m_titles[n] = new QLabel(side);
        m_titles[n]->setProperty("subhead", true);
        m_titles[n]->setTextFormat(Qt::PlainText);
        m_titles[n]->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
        m_films[n] = new FilmCanvas(m_model.player(n), side);
        m_films[n]->setOverlays([this, n] { return overlaysOf(n); });
        m_films[n]->setNotice([this]() -> QString {
            return m_model.isGathering() && m_model.modelPercent() >= 0
                       ? tr("Painting the model … %1 %").arg(m_model.modelPercent())
                   : m_model.isGathering()    ? tr("Reading both …")
                   : m_model.isOpen()         ? QString()
                   : m_bench.context.isOpen() ? tr("Choose what to compare the clip on the Bench with.")
                                              : tr("Bring a clip to the Bench, then choose here what to compare it with.");
        });
        m_times[n] = new QLabel(side);
        m_times[n]->setProperty("muted", true);
        connect(m_films[n], &FilmCanvas::zoomed, this, [this, n] {
            if (m_together->isChecked() && m_model.isOpen())
                m_films[1 - n]->zoomLike(*m_films[n]);
        });
        column->addWidget(m_titles[n]);
        column->addWidget(m_films[n], 1);
        column->addWidget(m_times[n]);
        m_filmRow->addWidget(side, 1);
        if (n == 1)
            m_secondBox = side;
    }
    return box;
}

QLayout* PairView::makeTransport()
{
    auto* row = new QHBoxLayout;
    const auto button = [this](const QString& icon, const QString& tip, auto act) {
        auto* b = new QToolButton(this);
        b->setProperty("flat", true);
        b->setProperty("iconName", icon);
        b->setToolTip(tip);
        b->setFocusPolicy(Qt::NoFocus);
        connect(b, &QToolButton::clicked, this, act);
        return b;
    };
    m_place = new QSlider(Qt::Horizontal, this);
    m_place->setObjectName(QStringLiteral("pairPlace"));
    m_place->setAccessibleName(tr("Place in the first film"));
    m_place->setFocusPolicy(Qt::NoFocus);
    row->addWidget(button(QStringLiteral("step-back"), tr("One picture back (←)"), [this] { m_model.step(-1); }));
    m_play =
        button(QStringLiteral("play"), tr("Play or pause both (Space)"), [this] { m_model.setPlaying(!m_model.isPlaying()); });
    row->addWidget(m_play);
    row->addWidget(button(QStringLiteral("step-on"), tr("One picture on (→)"), [this] { m_model.step(1); }));
    row->addWidget(m_place, 1);
    m_together = new QCheckBox(tr("zoom together"), this);
    m_together->setObjectName(QStringLiteral("pairZoom"));
    m_together->setToolTip(tr("Turn the wheel over one film: both show the same part (Z)"));
    m_together->setChecked(true);
    m_together->setFocusPolicy(Qt::TabFocus);
    row->addWidget(m_together);
    m_speed = new SpeedBox(this);
    m_speed->setToolTip(tr("Speed against real time ([ and ])"));
    m_speed->setCurrentIndex(m_speed->findData(m_model.speed()));
    row->addWidget(m_speed);
    connect(m_speed, &QComboBox::currentIndexChanged, this, [this] { m_model.setSpeed(m_speed->currentData().toDouble()); });
    connect(m_place, &QSlider::valueChanged, this, [this](int frame) {
        if (!m_refreshing)
            m_model.setFrame(FrameIndex(frame));
    });
    return row;
}

void PairView::addCommands()
{
    const QString pair = tr("Pair");
    const auto add = [&](const char* id, const QString& words, QKeySequence keys, auto act, const QString& shown = {}) {
        m_commands.add({QLatin1String(id), pair, words, {std::move(keys)}, act, shown});
    };
    add("pairOther", tr("compare with another repetition"), QKeySequence(Qt::Key_O), [this] { askForOther(); });
    add(
        "pairBack", tr("both one picture back, on"), QKeySequence(Qt::Key_Left), [this] { m_model.step(-1); },
        QStringLiteral("← →"));
    add(
        "pairOn", tr("both one picture back, on"), QKeySequence(Qt::Key_Right), [this] { m_model.step(1); },
        QStringLiteral("← →"));
    add("pairPlay", tr("play, pause both"), QKeySequence(Qt::Key_Space), [this] { m_model.setPlaying(!m_model.isPlaying()); });
    add("pairPlayBack", tr("play backward"), QKeySequence(Qt::SHIFT | Qt::Key_Space),
        [this] { m_model.setPlaying(!m_model.isPlaying(), true); });
    add("pairFacts", tr("differences, curve, tempo"), QKeySequence(Qt::Key_T), [this] { m_facts->next(); });
    add("pairZoom", tr("zoom together, or each by itself"), QKeySequence(Qt::Key_Z), [this] { m_together->toggle(); });
    add("pairCopy", tr("copy this picture of both"), QKeySequence(QKeySequence::Copy), [this] { copyStill(); });
    add("pairSave", tr("save this picture of both"), QKeySequence(QKeySequence::Save), [this] { askForStill(); });
    add("pairClip", tr("save a clip of both"), QKeySequence(Qt::CTRL | Qt::Key_E), [this] { askForClip(); });
    add(
        "pairNudgeBack", tr("the second one a picture earlier, later"), QKeySequence(Qt::Key_Comma),
        [this] { m_model.nudge(-1); }, QStringLiteral(",  ."));
    add(
        "pairNudgeOn", tr("the second one a picture earlier, later"), QKeySequence(Qt::Key_Period), [this] { m_model.nudge(1); },
        QStringLiteral(",  ."));
    add("pairLayout", tr("beside, above, one over the other"), QKeySequence(Qt::Key_V),
        [this] { m_layout->setCurrentIndex((m_layout->currentIndex() + 1) % m_layout->count()); });
    add("pairBy", tr("by real time, by phase"), QKeySequence(Qt::Key_P),
        [this] { m_by->setCurrentIndex(1 - m_by->currentIndex()); });
    add("pairLines", tr("the second body as lines over the first"), QKeySequence(Qt::Key_B), [this] { m_lines->toggle(); });
    add("pairGrid", tr("a level grid over both"), QKeySequence(Qt::Key_G), [this] { m_grid->toggle(); });
    add(
        "pairSlower", tr("slower, faster"), QKeySequence(Qt::Key_BracketLeft),
        [this] { m_speed->setCurrentIndex(std::min(m_speed->currentIndex() + 1, m_speed->count() - 1)); },
        QStringLiteral("[  ]"));
    add(
        "pairFaster", tr("slower, faster"), QKeySequence(Qt::Key_BracketRight),
        [this] { m_speed->setCurrentIndex(std::max(m_speed->currentIndex() - 1, 0)); }, QStringLiteral("[  ]"));
    for (std::size_t n = 0; n < 9; ++n)
        add(
            "pairStand", tr("both stand at the key position"), QKeySequence(Qt::Key_1 + static_cast<int>(n)),
            [this, n] {
                if (m_model.isOpen() && n < m_model.pack()->keyPositions.size())
                    m_model.goTo(m_model.pack()->keyPositions[n].id);
            },
            QStringLiteral("1 … 9"));
}

void PairView::keyPressEvent(QKeyEvent* event)
{
    if (!m_commands.run(*event))
        QWidget::keyPressEvent(event);
}

void PairView::showEvent(QShowEvent*)
{
    refresh();
}

/// Looked for on another thread: a club has thousands.
void PairView::askForOther()
{
    const auto& context = m_bench.context;
    if (!context.isOpen())
        return emit message(tr("Bring a clip to the Bench first: it is one side, and here you choose the other."));
    Background::run(
        this,
        [openLibrary = m_workspace.library().again(true), athlete = context.athlete().id, day = context.day(),
         repetition = context.repetition().id](std::stop_token) {
            return openLibrary().and_then(
                [&](const store::Library& library) { return otherRepetitions(library, athlete, day, repetition); });
        },
        [this, repetition = context.repetition().id,
         best = bestOther(m_bench)](const Expected<std::vector<Chooser::Item>>& items) {
            if (!items)
                return emit m_workspace.failed(items.error());
            std::vector<Chooser::Item> all{{tr("the model"), kModel, tr("what the pack asks for, at the player's height")}};
            if (best)
                all.push_back(*best);
            all.insert(all.end(), items->begin(), items->end());
            Chooser::ask(this, tr("Compare with"), all, [this, repetition](const QVariant& id) {
                if (id.toLongLong() == kModel)
                    m_model.openModel(repetition);
                else
                    m_model.open(repetition, store::RepetitionId(id.toLongLong()));
                setFocus();
            });
        });
}

void PairView::refresh()
{
    m_refreshing = true;
    const bool open = m_model.isOpen();
    if (m_model.isGathering())
        m_waiting.start();
    m_out->setEnabled(open);
    for (std::size_t n = 0; n < 2; ++n) {
        m_titles[n]->setText(open ? QString::fromStdString(m_model.side(n).title) : QString());
        if (open)
            m_films[n]->setFilmSize(QSizeF(m_model.side(n).film.marking.film.width, m_model.side(n).film.marking.film.height));
        m_films[n]->reset();
    }
    m_at->clear();
    for (const auto* k : m_model.commonPositions())
        m_at->addItem(tr("at %1").arg(QString::fromStdString(k->name)), QString::fromStdString(k->id));
    m_at->setCurrentIndex(m_at->findData(QString::fromStdString(m_model.linedUpAt())));
    m_at->setEnabled(m_at->count() > 0);
    m_by->setEnabled(m_at->count() > 1);
    QStringList unfair;
    if (open) {
        for (const auto& sentence : m_model.unfair())
            unfair << QString::fromStdString(sentence);
        if (m_model.commonPositions().empty())
            unfair << tr("No key position is placed on both: , and . line them up by hand.");
    }
    m_unfair->setStyleSheet(QStringLiteral("color:%1; font-weight:600").arg(colours().alert.name()));
    m_unfair->setText(unfair.join(QLatin1Char(' ')));
    m_unfair->setVisible(!unfair.isEmpty());
    if (open)
        m_place->setRange(static_cast<int>(m_model.side(0).film.repetition.first.value),
                          static_cast<int>(m_model.side(0).film.repetition.last.value));
    m_place->setEnabled(open);
    m_refreshing = false;
    refreshLayout();
    refreshIcons();
    refreshWhere();
}

void PairView::refreshIcons()
{
    m_play->setIcon(Theme::icon(m_model.isPlaying() ? QStringLiteral("pause") : QStringLiteral("play"), colours().ink));
    for (auto* button : findChildren<QToolButton*>())
        if (button != m_play && button->property("iconName").isValid())
            button->setIcon(Theme::icon(button->property("iconName").toString(), colours().ink));
}

void PairView::refreshWhere()
{
    m_refreshing = true;
    for (std::size_t n = 0; n < 2; ++n) {
        if (!m_model.isOpen()) {
            m_times[n]->clear();
            continue;
        }
        const auto& film = m_model.side(n).film;
        const Event* at = findEvent(film.marking, m_model.linedUpAt());
        const auto now = film.clock.timeOf(m_model.player(n).frame());
        const auto origin = at ? film.clock.timeOf(at->frame) : film.clock.timeOf(FrameIndex(0));
        m_times[n]->setText(
            tr("picture %1   %2 s").arg(m_model.player(n).frame().value).arg(now && origin ? *now - *origin : 0.0, 0, 'f', 3) +
            (n == 1 && m_model.offset() != 0 ? tr("   moved by %1").arg(m_model.offset()) : QString()));
        m_films[n]->update();
    }
    if (m_model.isOpen())
        m_place->setValue(static_cast<int>(m_model.player(0).frame().value));
    m_refreshing = false;
}

void PairView::refreshLayout()
{
    const bool isGhost = layoutNow() == PairLayout::Ghost;
    m_filmRow->setDirection(layoutNow() == PairLayout::Above ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    m_secondBox->setVisible(!isGhost);
    m_ghost->setVisible(isGhost);
    m_anchor->setVisible(isGhost || m_lines->isChecked() || m_grid->isChecked());
    for (auto* film : m_films)
        film->update();
}

std::vector<look::Overlay> PairView::overlaysOf(std::size_t n) const
{
    std::vector<look::Overlay> overlays;
    if (!m_model.isOpen())
        return overlays;
    const PairPlace place{m_model.player(0).frame(), m_model.player(1).frame(), m_model.anchor()};
    if (n == 0 && layoutNow() == PairLayout::Ghost)
        addGhost(overlays, m_model.side(0), m_model.side(1), place, m_secondPicture, m_ghost->value() / 100.0);
    const auto& side = m_model.side(n);
    for (auto& drawn :
         look::drawingOverlays(side.film.marking.drawings, *side.prepared, side.film.repetition, m_model.player(n).pictured()))
        overlays.push_back(std::move(drawn));
    if (m_grid->isChecked())
        addGrid(overlays, side, m_model.player(n).frame(), m_model.anchor());
    if (n == 0 && m_lines->isChecked())
        addBodyLines(overlays, m_model.side(0), m_model.side(1), place);
    if (const Reading* r = m_model.chosenReading(n); r && r->figure.frame.nearest() == m_model.player(n).frame())
        overlays.emplace_back(look::readingOverlay(*r));
    return overlays;
}

PairLook PairView::lookNow() const
{
    return {layoutNow(), m_ghost->value() / 100.0, m_lines->isChecked(), m_grid->isChecked(), m_model.anchor()};
}

QString PairView::nameOfFile(const QString& ending) const
{
    return QString::fromStdString(m_model.side(0).title + " with " + m_model.side(1).title).replace(QLatin1Char(','), QString()) +
           ending;
}

/// Both as they lie now, on another thread. \param then  gets the picture
void PairView::paintStill(std::function<void(const QImage&)> then)
{
    if (!m_model.isOpen())
        return emit message(tr("Choose two films first."));
    Background::run(
        this,
        [sides = std::array{m_model.side(0), m_model.side(1)}, look = lookNow(), a = m_model.player(0).frame(),
         b = m_model.player(1).frame()](std::stop_token stop) -> Expected<QImage> {
            PairPictures pictures(sides, look, stop);
            QImage image = pictures.paint(a, b);
            const auto said = pictures.warnings();
            if (image.isNull())
                return fail(ErrorCode::CannotOpen, said.empty() ? "A film cannot be read." : said.front());
            return image;
        },
        [this, then = std::move(then)](const Expected<QImage>& image) {
            if (image)
                then(*image);
            else
                emit m_workspace.failed(image.error());
        });
}

std::string PairView::wordsNow() const
{
    const KeyPosition* at = m_model.pack()->findKeyPosition(m_model.linedUpAt());
    return m_model.side(0).title + " and " + m_model.side(1).title + (at ? ", lined up at " + at->name : std::string()) + ".";
}

bool PairView::isFirstOnBench() const
{
    const auto row = m_workspace.library().repetitions().find(m_model.first());
    const auto& clips = m_bench.context.clipsOfDay();
    return m_bench.context.isOpen() && row &&
           std::any_of(clips.begin(), clips.end(), [&](const store::Clip& c) { return c.id == row->clip; });
}

void PairView::give(void (PairView::*wanted)(const QImage&, const std::string&))
{
    if (!m_model.isOpen())
        return emit message(tr("Choose two films first."));
    paintStill([this, wanted, words = wordsNow()](const QImage& image) {
        if (isFirstOnBench())
            emit(this->*wanted)(image, words);
        else
            emit message(
                tr("Another day is on the Bench: bring the first film there, so that its picture goes to the right player."));
    });
}

void PairView::copyStill()
{
    paintStill([this](const QImage& image) {
        QGuiApplication::clipboard()->setImage(image);
        emit message(tr("Copied: a picture of %1 x %2.").arg(image.width()).arg(image.height()));
    });
}

void PairView::askForStill()
{
    if (!m_model.isOpen())
        return emit message(tr("Choose two films first."));
    const QString file = askWhereToSave(this, FilePurpose::Documents, tr("Save this picture"), nameOfFile(QStringLiteral(".png")),
                                        tr("Pictures (*.png)"));
    if (!file.isEmpty())
        saveStill(file);
}

void PairView::saveStill(const QString& file)
{
    paintStill([this, file](const QImage& image) {
        if (const auto saved = look::saveImage(image, file.toStdString()); !saved)
            return emit m_workspace.failed(saved.error());
        emit message(tr("Saved %1").arg(file));
    });
}

void PairView::askForClip()
{
    if (m_isWriting) {
        m_writing.stop();
        m_isWriting = false;
        return emit message(tr("Stopped; nothing was written."));
    }
    if (!m_model.isOpen())
        return emit message(tr("Choose two films first."));
    const QString file = askWhereToSave(this, FilePurpose::Documents, tr("Save a clip of both"),
                                        nameOfFile(QStringLiteral(".mp4")), tr("Films (*.mp4 *.webm)"));
    if (!file.isEmpty())
        saveClip(file);
}

void PairView::saveClip(const QString& file)
{
    if (m_isWriting || !m_model.isOpen())
        return;
    m_isWriting = true;
    const PairRun run{m_model.linedUpAt(), m_model.by(), m_model.offset(), m_model.speed()};
    const auto progress = tellProgress(this, 5, [this](int percent) {
        if (m_isWriting)
            emit message(tr("Writing the clip: %1 %. Ctrl+E stops it.").arg(percent));
    });
    m_writing = Background::run(
        this,
        [sides = std::array{m_model.side(0), m_model.side(1)}, pack = *m_model.pack(), look = lookNow(), run, file,
         progress](std::stop_token stop) { return savePairClip(sides, pack, look, run, file.toStdString(), progress, stop); },
        [this, file](const Expected<std::vector<std::string>>& done) {
            m_isWriting = false;
            if (!done)
                return emit m_workspace.failed(done.error());
            emit message(done->empty() ? tr("Saved %1").arg(file)
                                       : tr("Saved %1. %2").arg(file, QString::fromStdString(done->front())));
        });
}

} // namespace kestrel::app
