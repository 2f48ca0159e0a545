// The rows of controls above and below the film.

#include "app/bench/bench_view.h"
#include "app/shell/number_field.h"
#include "app/shell/speed_box.h"

#include "app/bench/repetition_bar.h"
#include "app/shell/file_dialogs.h"
#include "app/shell/settings.h"
#include "core/scene/ground_plane.h"
#include "report/film_guide.h"

#include <QActionGroup>
#include <QHBoxLayout>
#include <QMenu>

namespace kestrel::app {

namespace {

QLabel* muted(const QString& text, QWidget* parent)
{
    auto* label = new QLabel(text, parent);
    label->setProperty("muted", true);
    return label;
}

} // namespace

QLayout* BenchView::makeHeader()
{
    auto* row = new QHBoxLayout;
    m_name = new QLabel(this);
    m_name->setProperty("head", true);
    m_facts = muted({}, this);
    m_facts->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // long words must not widen the window
    m_view = new QComboBox(this);
    m_view->setToolTip(tr("Where the camera stood"));
    for (const View view : {View::Side, View::SideBack, View::Front, View::Rear, View::Overhead, View::Diagonal})
        m_view->addItem(QString::fromStdString(report::viewWords(view)), static_cast<int>(view));
    m_variant = new QComboBox(this);
    m_variant->setObjectName(QStringLiteral("variant"));
    m_variant->setToolTip(tr("Variant of the skill"));
    m_variant->setSizeAdjustPolicy(QComboBox::AdjustToContents); // each skill has others
    const auto makeRate = [this](const QString& tip) {
        auto* box = new NumberField(this);
        box->setRange(1, 10000);
        box->setDecimals(0);
        box->setFixedWidth(74);
        box->setToolTip(tip);
        box->setKeyboardTracking(false);
        connect(box, &QDoubleSpinBox::valueChanged, this, &BenchView::applyRates);
        return box;
    };
    m_capture = makeRate(tr("Frames per second when it was filmed"));
    m_playback = makeRate(tr("Frames per second as the file plays: lower than filmed for slow motion"));
    m_page = new QPushButton(tr("Page"), this);
    m_page->setProperty("primary", true);
    m_page->setToolTip(tr("The page for the player (Ctrl+P)"));
    auto* check = new QToolButton(this);
    check->setText(tr("Film check"));
    check->setObjectName(QStringLiteral("showFilmCheck"));
    check->setToolTip(tr("What this film can show, and how to film it next time (F)"));
    check->setFocusPolicy(Qt::NoFocus);
    connect(check, &QToolButton::clicked, this, &BenchView::toggleFilmCheck);
    row->addWidget(m_name);
    row->addWidget(m_facts, 1);
    row->addWidget(m_variant);
    row->addWidget(m_view);
    row->addWidget(muted(tr("filmed at"), this));
    row->addWidget(m_capture);
    row->addWidget(muted(tr("shown at"), this));
    row->addWidget(m_playback);
    row->addSpacing(8);
    row->addWidget(check);
    row->addWidget(m_page);
    connect(m_view, &QComboBox::activated, this,
            [this] { m_bench.scene.setView(static_cast<View>(m_view->currentData().toInt())); });
    connect(m_variant, &QComboBox::activated, this,
            [this] { m_bench.scene.setVariant(m_variant->currentData().toString().toStdString()); });
    connect(m_page, &QPushButton::clicked, this, &BenchView::pageWanted);
    for (QWidget* w : {static_cast<QWidget*>(m_view), static_cast<QWidget*>(m_variant), static_cast<QWidget*>(m_page)})
        w->setFocusPolicy(Qt::TabFocus);
    return row;
}

QToolButton* BenchView::makeToolButton(const BenchTools::Button& tool)
{
    auto* button = new QToolButton(this);
    button->setText(tool.name);
    button->setToolTip(m_commands.tip(tool.command, tool.words));
    button->setCheckable(true);
    button->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    button->setProperty("iconName", tool.icon);
    button->setFocusPolicy(Qt::NoFocus);
    button->setObjectName(QStringLiteral("tool-") + tool.icon);
    connect(button, &QToolButton::clicked, this,
            [this, which = tool.tool](bool on) { m_bench.tools.setTool(on ? which : Tool::Look); });
    m_toolButtons.emplace_back(tool.tool, button);
    return button;
}

QLayout* BenchView::makeTools()
{
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    m_markForMe = new QToolButton(this);
    m_markForMe->setObjectName(QStringLiteral("markForMe"));
    m_markForMe->setFocusPolicy(Qt::NoFocus);
    m_markForMe->setPopupMode(QToolButton::MenuButtonPopup);
    auto* menu = new QMenu(m_markForMe);
    menu->addAction(tr("Choose the player…"), this, [this] {
        m_bench.tools.setTool(Tool::PlayerBox);
        emit m_bench.message(tr("Click the player, or draw a box round somebody who is small in the picture."));
    });
    menu->addSeparator();
    menu->addAction(tr("Follow the selected point") + QStringLiteral("\tK"), this, &BenchView::followSelected);
    menu->addAction(tr("Follow any point…"), this, [this] {
        m_bench.tools.setTool(Tool::Point);
        emit m_bench.message(tr("Click the point to follow."));
    });
    m_split = menu->addAction({}, this, [this] { m_marker.split(); });
    menu->addSeparator();
    menu->addAction(tr("Least sure mark next") + QStringLiteral("\tW"), this, [this] { m_bench.marks.goToUncertainMark(); });
    menu->addSeparator();
    auto* networks = new QActionGroup(menu);
    const std::pair<vision::BodyNetwork, QString> choices[]{
        {vision::BodyNetwork::Quick, tr("Look quickly, less exact")},
        {vision::BodyNetwork::Usual, tr("Look as usual")},
        {vision::BodyNetwork::Thorough, tr("Look thoroughly, slower")},
    };
    for (const auto& [network, name] : choices) {
        QAction* const action = networks->addAction(menu->addAction(name, this, [n = network] { Settings::setBodyNetwork(n); }));
        action->setCheckable(true);
        action->setChecked(network == Settings::bodyNetwork());
    }
    m_markForMe->setMenu(menu);
    connect(m_markForMe, &QToolButton::clicked, this, [this] { m_marker.isRunning() ? m_marker.stop() : m_marker.start(); });
    row->addWidget(m_markForMe);
    for (const auto& tool : BenchTools::buttons()) {
        auto* button = makeToolButton(tool);
        row->addWidget(button);
        if (tool.tool != Tool::ScaleLine)
            continue;
        button->setPopupMode(QToolButton::MenuButtonPopup);
        button->setMenu(makeGroundMenu());
        m_known = new QComboBox(this);
        m_known->setToolTip(tr("The known length that is drawn"));
        m_known->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon); // a long name must not widen the window
        m_known->setMinimumContentsLength(7);
        m_known->setFocusPolicy(Qt::TabFocus);
        connect(m_known, &QComboBox::activated, this, [this] {
            m_bench.scene.setKnownLength(m_known->currentData().toDouble());
            m_bench.tools.setTool(Tool::ScaleLine);
        });
        row->addWidget(m_known);
    }
    row->addStretch();
    m_repetitions = new RepetitionBar(m_bench, this);
    row->addWidget(m_repetitions);
    m_find = new QPushButton(tr("Find the film…"), this);
    m_find->setToolTip(tr("Look in a folder for a film with the same content"));
    connect(m_find, &QPushButton::clicked, this, [this] {
        const QString folder = askForFolder(this, FilePurpose::FindFilm, tr("Where might the film be?"));
        if (!folder.isEmpty())
            m_bench.film.relocate(folder);
    });
    row->addWidget(m_find);
    return row;
}

/// The court's ground, of which the scale's line knows nothing.
QMenu* BenchView::makeGroundMenu()
{
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("groundMenu"));
    menu->addAction(tr("Mark places of the court…"), this, [this] {
        m_bench.tools.setTool(Tool::GroundMark);
        emit m_bench.message(
            tr("Click where lines of the court cross, %1 places or more whose measures you know. The camera has to "
               "stand still.")
                .arg(kLeastGroundMarks));
    });
    auto* measure = menu->addAction(tr("Measure on the ground"), this, [this] {
        m_bench.tools.setTool(Tool::GroundLine);
        emit m_bench.message(tr("Drag from one place on the ground to another."));
    });
    auto* forget = menu->addAction(tr("Forget the court"), this, [this] { m_bench.scene.forgetGround(); });
    connect(menu, &QMenu::aboutToShow, this, [this, measure, forget] {
        const auto& ground = m_bench.context.clip().scene.ground;
        measure->setEnabled(ground.size() >= kLeastGroundMarks);
        forget->setEnabled(!ground.empty());
    });
    return menu;
}

QLayout* BenchView::makeTransport()
{
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    const auto makeButton = [this](const QString& icon, const QString& tip, auto action) {
        auto* button = new QToolButton(this);
        button->setProperty("flat", true);
        button->setProperty("iconName", icon);
        button->setToolTip(tip);
        button->setFocusPolicy(Qt::NoFocus);
        connect(button, &QToolButton::clicked, this, action);
        return button;
    };
    m_where = new QLabel(this);
    m_where->setProperty("subhead", true);
    m_where->setObjectName(QStringLiteral("where"));
    m_time = muted({}, this);
    m_time->setObjectName(QStringLiteral("time"));
    m_dropped = muted({}, this);
    row->addWidget(m_where);
    row->addWidget(m_time);
    row->addWidget(makeStillButton());
    row->addStretch();
    row->addWidget(m_dropped);
    row->addWidget(makeButton(QStringLiteral("step-back"), tr("One frame back (←)"), [this] { m_bench.player.step(-1); }));
    m_playBack =
        makeButton(QStringLiteral("play-back"), tr("Play backward or pause (Shift+Space)"), [this] { togglePlaying(true); });
    m_play = makeButton(QStringLiteral("play"), tr("Play or pause (Space)"), [this] { togglePlaying(false); });
    row->addWidget(m_playBack);
    row->addWidget(m_play);
    row->addWidget(makeButton(QStringLiteral("step-on"), tr("One frame on (→)"), [this] { m_bench.player.step(1); }));
    m_speed = new SpeedBox(this);
    m_speed->setToolTip(tr("Speed against real time ([ and ])"));
    connect(m_speed, &QComboBox::activated, this, [this] { m_bench.player.setSpeed(m_speed->currentData().toDouble()); });
    row->addWidget(m_speed);
    m_loop = makeButton(QStringLiteral("loop"), tr("Loop between the key positions around here (L)"),
                        [this] { m_bench.positions.toggleLoop(); });
    m_loop->setCheckable(true);
    row->addWidget(m_loop);
    return row;
}

} // namespace kestrel::app
