#include "app/bench/bench_view.h"

#include <QLocale>

#include "app/bench/bench_overlays.h"
#include "app/bench/draw_column.h"
#include "app/bench/drawing_options.h"
#include "app/bench/film_strip.h"
#include "app/bench/ground_form.h"
#include "app/bench/mark_guide.h"
#include "app/bench/one_thing_card.h"
#include "app/bench/readout_view.h"
#include "app/bench/repetition_bar.h"
#include "app/bench/ribbon_view.h"
#include "app/film/film_canvas.h"
#include "app/film/film_check_card.h"
#include "app/shell/theme.h"
#include "app/shell/words.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QScrollArea>
#include <QVBoxLayout>
#include <cmath>

namespace kestrel::app {

BenchView::BenchView(Workspace& workspace, Bench& bench, QWidget* parent)
    : QWidget(parent), m_bench(bench), m_tools(bench), m_marker(workspace, bench)
{
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(16, 10, 16, 12);
    whole->setSpacing(8);
    addCommands();
    whole->addLayout(makeHeader());
    auto* columns = new QHBoxLayout;
    columns->setSpacing(16);
    auto* left = new QVBoxLayout;
    left->setSpacing(6);
    m_film = new FilmCanvas(bench.player, this);
    m_film->setTool([this] { return m_tools.inHand(); });
    m_film->setOverlays([this] { return benchOverlays(m_bench, m_tools.dragged(), m_tools.draggedDrawing()); });
    m_film->setNotice([this]() -> QString {
        return !m_bench.context.isOpen()    ? tr("Choose a clip in the Roster to bring it to the bench.")
               : m_bench.film.isSearching() ? tr("Looking for the film …")
                                            : QString();
    });
    m_guide = new MarkGuide(bench, m_film);
    m_check = new FilmCheckCard(workspace, this); // over the film, and what is below it when it has much to say
    m_check->setFixedWidth(440);
    m_check->hide();
    connect(&bench.context, &ClipContext::clipChanged, m_check, &QWidget::hide);
    left->addLayout(makeTools());
    auto* filmRow = new QHBoxLayout;
    filmRow->setSpacing(6);
    m_drawColumn = new DrawColumn(bench, m_commands, this);
    auto* tools = new QScrollArea(this); // on a low screen it is moved by the wheel
    tools->setWidget(m_drawColumn);
    tools->setWidgetResizable(true);
    tools->setFrameShape(QFrame::NoFrame);
    tools->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    tools->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    tools->setFixedWidth(m_drawColumn->sizeHint().width());
    filmRow->addWidget(tools);
    filmRow->addWidget(m_film, 1);
    left->addLayout(filmRow, 1);
    new DrawingOptions(bench, m_commands, m_film);
    m_strip = new FilmStrip(bench, this);
    left->addWidget(m_strip);
    left->addLayout(makeTransport());
    auto* ribbonCard = new QFrame(this);
    ribbonCard->setProperty("card", true);
    auto* ribbonLayout = new QVBoxLayout(ribbonCard);
    ribbonLayout->setContentsMargins(1, 1, 1, 1);
    ribbonLayout->addWidget(makeOrderNotice(ribbonCard));
    m_ribbon = new RibbonView(bench, ribbonCard);
    ribbonLayout->addWidget(m_ribbon);
    left->addWidget(ribbonCard);
    columns->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(10);
    auto* readout = new ReadoutView(bench, this);
    auto* card = new OneThingCard(bench, this);
    readout->setFixedWidth(352);
    card->setFixedWidth(352);
    right->addWidget(readout, 1);
    right->addWidget(card);
    columns->addLayout(right);
    whole->addLayout(columns, 1);

    setFocusPolicy(Qt::StrongFocus);
    connect(&bench.context, &ClipContext::clipChanged, this, [this] {
        const auto& size = m_bench.context.clip().film;
        m_film->setFilmSize(QSizeF(size.width, size.height));
        m_film->reset();
        refreshClip();
    });
    const auto repaint = qOverload<>(&QWidget::update);
    connect(&bench.context, &ClipContext::markingChanged, m_film, repaint);
    connect(&bench.marks, &MarkingEditor::selectionChanged, m_film, repaint);
    connect(&bench.review, &ReviewModel::selectionChanged, m_film, repaint);
    connect(&bench.scene, &SceneEditor::groundChanged, m_film, repaint);
    connect(&bench.drawings, &DrawingEditor::changed, m_film, repaint);
    connect(&bench.tools, &ToolBox::toolChanged, m_film, &FilmCanvas::letGo);
    connect(&bench.player, &FilmPlayer::filmChanged, this, &BenchView::refreshClip);
    connect(&bench.context, &ClipContext::markingChanged, this, &BenchView::refreshClip);
    connect(&bench.player, &FilmPlayer::frameChanged, this, &BenchView::refreshWhere);
    connect(&bench.context, &ClipContext::markingChanged, this, &BenchView::refreshWhere);
    connect(&bench.film, &ClipFilm::searchingChanged, this, &BenchView::refreshClip);
    connect(&bench.tools, &ToolBox::toolChanged, this, &BenchView::refreshTools);
    connect(&bench.player, &FilmPlayer::playingChanged, this, &BenchView::refreshTransport);
    connect(&bench.player, &FilmPlayer::pictureDropped, this, &BenchView::refreshDropped);
    connect(&m_marker, &AutoMarker::changed, this, &BenchView::refreshMarker);
    connect(&m_marker, &AutoMarker::message, &bench, &Bench::message);
    connect(&bench.player, &FilmPlayer::filmChanged, this, &BenchView::refreshMarker);
    connect(&bench.context, &ClipContext::markingChanged, this, &BenchView::refreshMarker);
    connect(&bench.scene, &SceneEditor::playerDrawn, this, [this](ImagePoint corner, double width, double height) {
        m_marker.start(vision::PlayerBox{m_bench.player.frame(), corner, width, height});
    });
    connect(&bench.scene, &SceneEditor::groundPlaced, this, [this](ImagePoint at) {
        askForGroundPlace(m_bench, at, this, m_film->mapToGlobal(m_film->toWidget().map(QPointF(at.x, at.y))).toPoint());
    });
    connect(&bench.marks, &MarkingEditor::pointCorrected, this, [this](const Landmark& l) { m_marker.follow(l); });
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        refreshTools();
        refreshTransport();
    });
    refreshClip();
    refreshTools();
    refreshTransport();
    refreshMarker();
}

/// What the skill's pack knows, the athlete's height, and what can be laid down.
void BenchView::fillKnownLengths()
{
    std::vector<std::pair<QString, double>> lengths;
    const auto add = [&](const QString& name, double metres) {
        // the number first: it is what has to be seen where the box is narrow
        lengths.emplace_back(QLocale::c().toString(metres, 'g', 4) + tr(" m, ") + name, metres);
    };
    if (m_bench.context.pack())
        for (const auto& k : m_bench.context.pack()->knownLengths)
            add(QString::fromStdString(k.name), k.metres);
    if (const auto height = m_bench.context.heightMetres())
        add(tr("athlete's height"), *height);
    add(tr("stick"), 1);
    add(tr("tape"), 2);
    bool isSame = static_cast<int>(lengths.size()) == m_known->count();
    for (std::size_t i = 0; isSame && i < lengths.size(); ++i)
        isSame = m_known->itemText(static_cast<int>(i)) == lengths[i].first;
    if (isSame)
        return;
    m_known->clear();
    for (const auto& [name, metres] : lengths)
        m_known->addItem(name, metres);
    m_bench.scene.setKnownLength(lengths.front().second);
}

void BenchView::refreshClip()
{
    m_refreshing = true;
    const bool open = m_bench.context.isOpen();
    const auto& athlete = m_bench.context.athlete();
    m_name->setText(open ? QString::fromStdString(athlete.name) : tr("Bench"));
    QStringList facts;
    if (open) {
        if (const auto age = m_bench.context.marking().athlete.age)
            facts << tr("%1 y").arg(static_cast<int>(*age));
        facts << (m_bench.context.marking().athlete.hand == Hand::Right ? tr("right-handed") : tr("left-handed"));
        if (const auto height = m_bench.context.heightMetres())
            facts << tr("%1 m").arg(*height, 0, 'f', 2);
        facts << QString::fromStdString(m_bench.context.day().date);
    }
    m_facts->setText(facts.join(QStringLiteral(" · ")));
    m_facts->setToolTip(m_facts->text());
    fillKnownLengths();
    m_variant->clear();
    if (m_bench.context.pack())
        for (const auto& v : m_bench.context.pack()->variants)
            m_variant->addItem(variantName(v), QString::fromStdString(v));
    m_variant->setCurrentIndex(m_variant->findData(QString::fromStdString(m_bench.context.repetition().variant)));
    m_view->setCurrentIndex(m_view->findData(static_cast<int>(m_bench.context.clip().scene.view)));
    m_capture->setValue(m_bench.context.clip().clock.capture);
    m_playback->setValue(m_bench.context.clip().clock.playback);
    for (QWidget* w : {static_cast<QWidget*>(m_variant), static_cast<QWidget*>(m_view), static_cast<QWidget*>(m_capture),
                       static_cast<QWidget*>(m_playback), static_cast<QWidget*>(m_page), static_cast<QWidget*>(m_known)})
        w->setEnabled(open);
    refreshOrder();
    m_find->setVisible(m_bench.player.error().has_value() && !m_bench.film.isSearching());
    m_refreshing = false;
    refreshWhere();
    refreshTools();
}

/// Says at once when a key position lies where it cannot, with the way back.
QWidget* BenchView::makeOrderNotice(QWidget* parent)
{
    m_order = new QFrame(parent);
    m_order->setObjectName(QStringLiteral("orderNotice"));
    auto* row = new QHBoxLayout(m_order);
    row->setContentsMargins(12, 4, 8, 4);
    m_orderText = new QLabel(m_order);
    m_orderText->setObjectName(QStringLiteral("orderProblem"));
    m_orderText->setTextFormat(Qt::PlainText);
    m_orderText->setWordWrap(true);
    auto* back = new QPushButton(tr("Take it back"), m_order);
    back->setObjectName(QStringLiteral("takeBack"));
    back->setToolTip(m_commands.tip(QStringLiteral("takeBack"), tr("Where it was before, or not placed")));
    back->setFocusPolicy(Qt::NoFocus);
    connect(back, &QPushButton::clicked, &m_bench.positions, &KeyPositions::takeBack);
    row->addWidget(m_orderText, 1);
    row->addWidget(back);
    m_order->hide();
    return m_order;
}

void BenchView::refreshOrder()
{
    const QString problem = m_bench.positions.orderProblem();
    m_orderText->setStyleSheet(QStringLiteral("color:%1; font-weight:600").arg(colours().alert.name()));
    m_orderText->setText(problem.isEmpty() ? QString() : problem + tr(" Nothing that rests on it is judged."));
    m_order->setVisible(!problem.isEmpty());
}

void BenchView::applyRates()
{
    if (!m_refreshing)
        m_bench.scene.setRates({m_capture->value(), m_playback->value()});
}

void BenchView::refreshWhere()
{
    const KeyPosition* here = m_bench.positions.here();
    m_where->setText(here ? QString::fromStdString(here->name) : tr("Film"));
    if (!m_bench.context.isOpen()) {
        m_time->clear();
        return;
    }
    QString text = tr("frame %1 of %2").arg(m_bench.player.frame().value).arg(m_bench.player.frames());
    const Pack* pack = m_bench.context.pack();
    const KeyPosition* zeroPosition = pack ? pack->findKeyPosition(pack->zero) : nullptr;
    const Event* zero = zeroPosition ? findEvent(m_bench.context.marking(), zeroPosition->id) : nullptr;
    const auto& clock = m_bench.player.clock();
    const auto now = clock.timeOf(m_bench.player.frame());
    const auto origin = zero ? clock.timeOf(zero->frame) : clock.timeOf(FrameIndex(0));
    if (now && origin) {
        const QString seconds = QString::number(*now - *origin, 'f', 3);
        text +=
            QStringLiteral("   ") + (zero ? tr("%1 s from %2").arg(seconds, QString::fromStdString(zeroPosition->name).toLower())
                                          : tr("%1 s").arg(seconds));
    }
    m_time->setText(text);
}

void BenchView::refreshTools()
{
    for (const auto& [tool, button] : m_toolButtons) {
        button->setChecked(m_bench.tools.tool() == tool);
        button->setIcon(Theme::icon(button->property("iconName").toString(), colours().ink));
        button->setEnabled(m_bench.context.isOpen());
    }
    placeGuide();
}

void BenchView::refreshTransport()
{
    for (auto* button : findChildren<QToolButton*>())
        if (button->property("flat").toBool() && button->property("iconName").isValid())
            button->setIcon(Theme::icon(button->property("iconName").toString(), colours().ink));
    const auto iconOf = [this](bool backward, const QString& still) {
        return Theme::icon(m_bench.player.isPlaying() && m_bench.player.isBackward() == backward ? QStringLiteral("pause")
                                                                                                 : still,
                           colours().ink);
    };
    m_play->setIcon(iconOf(false, QStringLiteral("play")));
    m_playBack->setIcon(iconOf(true, QStringLiteral("play-back")));
    m_speed->setCurrentIndex(m_speed->findData(m_bench.player.speed()));
    m_loop->setChecked(m_bench.player.loop().has_value());
    refreshDropped();
}

void BenchView::refreshDropped()
{
    m_dropped->setText(m_bench.player.droppedPictures() > 0 ? tr("%1 pictures left out").arg(m_bench.player.droppedPictures())
                                                            : QString());
}

void BenchView::refreshMarker()
{
    m_markForMe->setEnabled(m_marker.isRunning() || m_bench.player.isOpen());
    m_split->setVisible(m_marker.repetitionsSeen() > 1);
    m_split->setText(tr("Split into the %1 repetitions that are seen").arg(m_marker.repetitionsSeen()));
    if (!m_marker.isRunning()) {
        m_markForMe->setText(tr("Mark for me"));
        m_markForMe->setToolTip(tr("Find the body on every picture, and the key positions (G). What you marked yourself stays."));
        return;
    }
    const int percent = static_cast<int>(100 * m_marker.share());
    QString text = tr("Stop · %1 %").arg(percent);
    if (const auto left = m_marker.secondsLeft()) { // no longer than that: a wide button would widen the window
        const int seconds = static_cast<int>(std::ceil(*left));
        text = seconds < 100 ? tr("Stop · %1 s left").arg(seconds) : tr("Stop · %1 min left").arg((seconds + 30) / 60);
    }
    m_markForMe->setText(text);
    m_markForMe->setToolTip(tr("%1 % done. Stop; what is marked by then is kept").arg(percent));
}

void BenchView::followSelected()
{
    if (const auto& selected = m_bench.marks.selectedMark())
        m_marker.follow(*selected);
    else
        emit m_bench.message(tr("Select a point on the film first, then press K to follow it."));
}

void BenchView::togglePlaying(bool backward)
{
    m_bench.player.setPlaying(!(m_bench.player.isPlaying() && m_bench.player.isBackward() == backward), backward);
}

void BenchView::toggleFilmCheck()
{
    if (m_check->isVisible() || !m_bench.context.isOpen())
        return m_check->hide();
    m_check->move(m_film->geometry().topLeft() + QPoint(12, 12));
    m_check->show(m_bench.context.clip().id);
    m_check->raise();
}

void BenchView::placeGuide()
{
    m_guide->move(12, m_film->height() - m_guide->height() - 12);
}

void BenchView::resizeEvent(QResizeEvent*)
{
    QMetaObject::invokeMethod(this, &BenchView::placeGuide, Qt::QueuedConnection); // once the film has its new size
}

void BenchView::keyPressEvent(QKeyEvent* event)
{
    if (!m_commands.run(*event))
        QWidget::keyPressEvent(event);
}

} // namespace kestrel::app
