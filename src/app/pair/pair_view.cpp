#include "app/pair/pair_view.h"

#include "app/film/film_canvas.h"
#include "app/shell/chooser.h"
#include "app/shell/speed_box.h"
#include "app/shell/theme.h"
#include "look/drawing_overlays.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>
#include <QVBoxLayout>

#include <algorithm>

namespace kestrel::app {

namespace {

/// Between these landmarks a body is drawn as lines.
constexpr std::pair<const char*, const char*> kLimbs[] = {
    {"shoulder.left", "shoulder.right"}, {"hip.left", "hip.right"},       {"shoulder.left", "hip.left"},
    {"shoulder.right", "hip.right"},     {"shoulder.left", "elbow.left"}, {"elbow.left", "wrist.left"},
    {"shoulder.right", "elbow.right"},   {"elbow.right", "wrist.right"},  {"hip.left", "knee.left"},
    {"knee.left", "ankle.left"},         {"hip.right", "knee.right"},     {"knee.right", "ankle.right"},
    {"implement.grip", "implement.tip"}};

ImagePoint mapped(const QTransform& t, ImagePoint p)
{
    const QPointF q = t.map(QPointF(p.x, p.y));
    return {q.x(), q.y()};
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
    columns->addWidget(makeDifferences());
    whole->addLayout(columns, 1);
    setFocusPolicy(Qt::StrongFocus);
    connect(&m_model, &PairModel::changed, this, &PairView::refresh);
    connect(&m_model, &PairModel::frameChanged, this, &PairView::refreshWhere);
    connect(&m_model, &PairModel::playingChanged, this, &PairView::refreshWhere);
    connect(&m_model, &PairModel::message, this, &PairView::message);
    connect(&m_model.player(1), &FilmPlayer::pictureReady, this, [this](const QImage& picture) {
        m_secondPicture = picture;
        if (layoutNow() == Layout::Ghost)
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
    m_ghost = new QSlider(Qt::Horizontal, this);
    m_ghost->setObjectName(QStringLiteral("pairGhost"));
    m_ghost->setRange(0, 100);
    m_ghost->setValue(50);
    m_ghost->setFixedWidth(110);
    m_ghost->setToolTip(tr("How much of the second film is seen"));
    m_ghost->setAccessibleName(m_ghost->toolTip());
    auto* other = new QPushButton(tr("Compare with…"), this);
    other->setObjectName(QStringLiteral("pairOther"));
    other->setProperty("primary", true);
    other->setToolTip(tr("The repetition on the Bench with another one (O)"));
    row->addWidget(head);
    row->addStretch();
    for (QWidget* w : {static_cast<QWidget*>(m_ghost), static_cast<QWidget*>(m_lines), static_cast<QWidget*>(m_layout),
                       static_cast<QWidget*>(m_at), static_cast<QWidget*>(m_by), static_cast<QWidget*>(other)}) {
        w->setFocusPolicy(Qt::TabFocus);
        row->addWidget(w);
    }
    connect(m_layout, &QComboBox::currentIndexChanged, this, &PairView::refreshLayout);
    connect(m_at, &QComboBox::activated, this, [this] { m_model.setLinedUpAt(m_at->currentData().toString().toStdString()); });
    connect(m_by, &QComboBox::currentIndexChanged, this,
            [this](int n) { m_model.setBy(n == 0 ? LineUp::By::RealTime : LineUp::By::Phase); });
    connect(m_lines, &QCheckBox::toggled, this, [this] { m_films[0]->update(); });
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
            return m_model.isGathering() ? tr("Reading both …")
                   : m_model.isOpen()    ? QString()
                                         : tr("Bring a clip to the Bench, then choose here what to compare it with.");
        });
        m_times[n] = new QLabel(side);
        m_times[n]->setProperty("muted", true);
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

QWidget* PairView::makeDifferences()
{
    auto* box = new QWidget(this);
    box->setFixedWidth(310);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    auto* head = new QLabel(tr("Differences, surest first"), box);
    head->setProperty("subhead", true);
    m_notice = new QLabel(box);
    m_notice->setProperty("muted", true);
    m_notice->setWordWrap(true);
    m_list = new QListWidget(box);
    m_list->setObjectName(QStringLiteral("pairDifferences"));
    m_list->setWordWrap(true);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_list->setToolTip(tr("Press one: both films go where it is read"));
    m_list->setAccessibleName(tr("Differences"));
    column->addWidget(head);
    column->addWidget(m_notice);
    column->addWidget(m_list, 1);
    connect(m_list, &QListWidget::itemClicked, this,
            [this](QListWidgetItem* item) { m_model.goTo(item->data(Qt::UserRole).toString().toStdString()); });
    return box;
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

/// Every repetition of the same skill there is: the day's own first, then the athlete's other days, then others'.
void PairView::askForOther()
{
    if (!m_bench.context.isOpen())
        return emit message(tr("Bring a clip to the Bench first: it is one side, and here you choose the other."));
    const auto& library = m_workspace.library();
    const auto& context = m_bench.context;
    std::vector<Chooser::Item> items;
    auto athletes = m_workspace.valueOr(library.athletes().all());
    std::stable_partition(athletes.begin(), athletes.end(),
                          [&](const store::Athlete& a) { return a.id == context.athlete().id; });
    for (const auto& athlete : athletes) {
        auto days = m_workspace.valueOr(library.days().of(athlete.id));
        std::stable_sort(days.begin(), days.end(), [&](const auto& a, const auto& b) {
            return (a.id == context.day().id) != (b.id == context.day().id) ? a.id == context.day().id : a.date > b.date;
        });
        for (const auto& day : days) {
            if (day.skill != context.day().skill)
                continue;
            int clipNumber = 0;
            for (const auto& clip : m_workspace.valueOr(library.clips().of(day.id))) {
                ++clipNumber;
                int number = 0;
                for (const auto& r : m_workspace.valueOr(library.repetitions().of(clip.id))) {
                    ++number;
                    if (r.id == context.repetition().id)
                        continue;
                    items.push_back({tr("%1, %2, clip %3, repetition %4")
                                         .arg(QString::fromStdString(athlete.name), QString::fromStdString(day.date))
                                         .arg(clipNumber)
                                         .arg(number),
                                     qlonglong(r.id.value), QString::fromStdString(plainWordsOf(clip.scene.view))});
                }
            }
        }
    }
    if (items.empty())
        return emit message(tr("There is no other repetition of this skill yet."));
    Chooser::ask(this, tr("Compare with"), items, [this](const QVariant& id) {
        m_model.open(m_bench.context.repetition().id, store::RepetitionId(id.toLongLong()));
        setFocus();
    });
}

void PairView::refresh()
{
    m_refreshing = true;
    const bool open = m_model.isOpen();
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
    m_list->clear();
    if (open)
        for (const auto& d : m_model.differences()) {
            const Measure* m = m_model.pack()->findMeasure(d.measure);
            const QString name = QString::fromStdString(m ? m->name : d.measure);
            const QString sign = !d.isReal ? QStringLiteral("?") : *d.isReal ? QStringLiteral("●") : QStringLiteral("○");
            auto* item =
                new QListWidgetItem(QStringLiteral("%1  %2\n%3 → %4\n%5")
                                        .arg(sign, name, QString::fromStdString(withUnit(d.a, d.unit)),
                                             QString::fromStdString(withUnit(d.b, d.unit)), QString::fromStdString(d.why)),
                                    m_list);
            item->setData(Qt::UserRole, QString::fromStdString(d.keyPosition));
        }
    m_notice->setText(!open                           ? tr("What differs, and whether it is more than noise, stands here.")
                      : m_model.differences().empty() ? tr("No measure is read on both: place key positions and mark both films.")
                                                      : tr("● larger than noise explains, ○ may be noise, ? nobody can say"));
    if (open)
        m_place->setRange(static_cast<int>(m_model.side(0).film.repetition.first.value),
                          static_cast<int>(m_model.side(0).film.repetition.last.value));
    m_place->setEnabled(open);
    m_refreshing = false;
    refreshLayout();
    refreshWhere();
}

void PairView::refreshWhere()
{
    m_refreshing = true;
    m_play->setIcon(Theme::icon(m_model.isPlaying() ? QStringLiteral("pause") : QStringLiteral("play"), colours().ink));
    for (auto* button : findChildren<QToolButton*>())
        if (button != m_play && button->property("iconName").isValid())
            button->setIcon(Theme::icon(button->property("iconName").toString(), colours().ink));
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
    const bool isGhost = layoutNow() == Layout::Ghost;
    m_filmRow->setDirection(layoutNow() == Layout::Above ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    m_secondBox->setVisible(!isGhost);
    m_ghost->setVisible(isGhost);
    m_films[0]->update();
}

std::vector<look::Overlay> PairView::overlaysOf(std::size_t n) const
{
    std::vector<look::Overlay> overlays;
    if (!m_model.isOpen())
        return overlays;
    if (n == 0 && layoutNow() == Layout::Ghost)
        addGhost(overlays);
    const auto& side = m_model.side(n);
    for (auto& drawn :
         look::drawingOverlays(side.film.marking.drawings, *side.prepared, side.film.repetition, m_model.player(n).pictured()))
        overlays.push_back(std::move(drawn));
    if (n == 0 && m_lines->isChecked())
        if (const auto t = m_model.secondToFirst()) {
            look::DrawingOverlay body;
            const auto& other = m_model.side(1).film.marking;
            for (const auto& [from, to] : kLimbs) {
                const Mark* a = findMark(other, m_model.player(1).frame(), *findLandmark(from));
                const Mark* b = findMark(other, m_model.player(1).frame(), *findLandmark(to));
                if (a && b)
                    body.shape.figure.strokes.push_back({Stroke::Kind::Segment, {mapped(*t, a->at), mapped(*t, b->at)}});
            }
            overlays.emplace_back(std::move(body));
        }
    return overlays;
}

/// The second film's picture over the first, as tall, at the same hips.
void PairView::addGhost(std::vector<look::Overlay>& into) const
{
    const auto t = m_model.secondToFirst();
    if (!t || m_secondPicture.isNull())
        return;
    const bool isMirrored = m_model.areMirrored();
    QImage picture = isMirrored ? m_secondPicture.mirrored(true, false) : m_secondPicture;
    picture = picture.convertToFormat(QImage::Format_ARGB32_Premultiplied);
    QPainter painter(&picture);
    painter.setCompositionMode(QPainter::CompositionMode_DestinationIn);
    painter.fillRect(picture.rect(), QColor(0, 0, 0, 255 * m_ghost->value() / 100));
    painter.end();
    const double width = m_model.side(1).film.marking.film.width;
    const ImagePoint corner = mapped(*t, {isMirrored ? width : 0, 0});
    const double scale = std::abs(t->m11()) * width / picture.width();
    into.emplace_back(look::CutOutOverlay{picture, corner, scale});
}

} // namespace kestrel::app
