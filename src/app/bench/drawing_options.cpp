#include "app/bench/drawing_options.h"

#include "app/film/film_canvas.h"

#include <QEvent>
#include <QHBoxLayout>

#include <algorithm>

namespace kestrel::app {

namespace {

enum Choice { ThisPicture, TheLoop, AtKeyPosition, WholeRepetition };
constexpr int kGap = 10; // pixels between the drawing and its choices

bool hasPins(const Drawing& d)
{
    return !d.at.empty() && d.kind != DrawingKind::Trail;
}

} // namespace

DrawingOptions::DrawingOptions(Bench& bench, const Commands& commands, QWidget* film) : QFrame(film), m_bench(bench)
{
    setObjectName(QStringLiteral("drawingOptions"));
    setProperty("card", true);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(6, 4, 6, 4);
    row->setSpacing(4);
    m_lives = new QComboBox(this);
    m_lives->setObjectName(QStringLiteral("drawingLives"));
    m_lives->setToolTip(tr("On which pictures it is seen"));
    m_lives->setFocusPolicy(Qt::NoFocus);
    m_words = new QLineEdit(this);
    m_words->setObjectName(QStringLiteral("drawingWords"));
    m_words->setFixedWidth(150);
    m_words->setMaxLength(200);
    m_words->setPlaceholderText(tr("words"));
    m_every = new QSpinBox(this);
    m_every->setObjectName(QStringLiteral("drawingEvery"));
    m_every->setRange(1, kMostEvery);
    m_every->setPrefix(tr("every "));
    m_every->setToolTip(tr("Pictures from one to the next"));
    m_every->setKeyboardTracking(false);
    m_follows = makeButton(QStringLiteral("drawingFollows"), tr("Follows"), tr("It follows the marks it lies on; off: it stays"));
    m_follows->setCheckable(true);
    m_thick = makeButton(QStringLiteral("drawingThick"), tr("Thick"), tr("A thicker line, to be seen from farther away"));
    m_thick->setCheckable(true);
    m_hides = makeButton(QStringLiteral("drawingHides"), tr("Hide"),
                         tr("What is inside is made unrecognisable on stills, sheets, pages and films"));
    m_hides->setCheckable(true);
    connect(m_hides, &QToolButton::clicked, this, [this](bool on) {
        change(on ? tr("hide what is inside") : tr("show what is inside"), [on](Drawing& d) { d.hides = on; });
    });
    auto* twice = makeButton(QStringLiteral("drawingTwice"), tr("Copy"),
                             commands.tip(QStringLiteral("duplicateDrawing"), tr("The same once more")));
    auto* remove = makeButton(QStringLiteral("drawingRemove"), tr("Remove"),
                              commands.tip(QStringLiteral("removePoint"), tr("Remove this drawing")));
    for (QWidget* w : {static_cast<QWidget*>(m_lives), static_cast<QWidget*>(m_words), static_cast<QWidget*>(m_every),
                       static_cast<QWidget*>(m_follows), static_cast<QWidget*>(m_thick), static_cast<QWidget*>(m_hides),
                       static_cast<QWidget*>(twice), static_cast<QWidget*>(remove)})
        row->addWidget(w);
    connect(m_lives, &QComboBox::activated, this, [this] { setLives(m_lives->currentData().toInt()); });
    connect(m_words, &QLineEdit::editingFinished, this, [this] {
        change(tr("words of a drawing"), [this](Drawing& d) { d.text = m_words->text().trimmed().toStdString(); });
    });
    connect(m_words, &QLineEdit::returnPressed, this, [this] { parentWidget()->parentWidget()->setFocus(); });
    connect(m_every, &QSpinBox::valueChanged, this,
            [this](int every) { change(tr("pictures of the strobe"), [every](Drawing& d) { d.every = every; }); });
    connect(m_follows, &QToolButton::clicked, this, [this](bool on) {
        m_bench.drawings.setChosenFollows(on);
        refresh();
    });
    connect(m_thick, &QToolButton::clicked, this,
            [this](bool on) { change(on ? tr("thicker line") : tr("thinner line"), [on](Drawing& d) { d.isThick = on; }); });
    connect(twice, &QToolButton::clicked, &bench.drawings, &DrawingEditor::duplicateChosen);
    connect(remove, &QToolButton::clicked, &bench.drawings, &DrawingEditor::removeChosen);
    connect(&bench.drawings, &DrawingEditor::changed, this, &DrawingOptions::refresh);
    connect(&bench.player, &FilmPlayer::frameChanged, this, &DrawingOptions::refresh);
    connect(&bench.tools, &ToolBox::toolChanged, this, &DrawingOptions::refresh);
    film->installEventFilter(this);
    refresh();
}

QToolButton* DrawingOptions::makeButton(const QString& name, const QString& words, const QString& tip)
{
    auto* button = new QToolButton(this);
    button->setObjectName(name);
    button->setText(words);
    button->setToolTip(tip);
    button->setFocusPolicy(Qt::NoFocus);
    return button;
}

void DrawingOptions::refresh()
{
    const auto* row = m_bench.drawings.chosenRow();
    const auto range = row ? m_bench.drawings.rangeOf(row->drawing) : std::nullopt;
    // away on pictures on which it is not seen: nothing lingers
    if (!row || !range || !range->contains(m_bench.player.frame()) || m_bench.tools.tool() != Tool::Look) {
        m_shown = {};
        return hide();
    }
    const Drawing& d = row->drawing;
    m_refreshing = true;
    m_lives->clear();
    m_lives->addItem(tr("this picture"), ThisPicture);
    if (m_bench.player.loop())
        m_lives->addItem(tr("the loop"), TheLoop);
    const KeyPosition* here = m_bench.positions.here();
    const Pack* pack = m_bench.context.pack();
    const KeyPosition* own = pack ? pack->findKeyPosition(d.lives.keyPosition) : nullptr;
    if (const KeyPosition* k = d.lives.on == Lives::On::KeyPosition && own ? own : here)
        m_lives->addItem(tr("%1, each time").arg(QString::fromStdString(k->name)), AtKeyPosition);
    m_lives->addItem(tr("whole repetition"), WholeRepetition);
    const auto [first, last] = d.lives.stretch;
    if (d.lives.on == Lives::On::Stretch && first != last)
        m_lives->setItemText(0, tr("pictures %1 to %2").arg(first.value).arg(last.value));
    m_lives->setCurrentIndex(m_lives->findData(d.lives.on == Lives::On::Repetition    ? WholeRepetition
                                               : d.lives.on == Lives::On::KeyPosition ? AtKeyPosition
                                                                                      : ThisPicture));
    m_follows->setVisible(hasPins(d));
    m_follows->setChecked(std::any_of(d.at.begin(), d.at.end(), [](const Pin& pin) { return pin.landmark.has_value(); }));
    m_thick->setVisible(d.kind != DrawingKind::Strobe);
    m_thick->setChecked(d.isThick);
    m_hides->setVisible(d.kind == DrawingKind::Circle || d.kind == DrawingKind::Box);
    m_hides->setChecked(d.hides);
    m_every->setVisible(d.kind == DrawingKind::Strobe);
    m_every->setValue(d.every);
    m_words->setVisible(d.kind == DrawingKind::Label || !d.text.empty());
    if (!m_words->hasFocus() || row->id != m_shown)
        m_words->setText(QString::fromStdString(d.text));
    const bool isNew = row->id != m_shown;
    m_shown = row->id;
    m_refreshing = false;
    adjustSize();
    place();
    show();
    raise();
    if (isNew && d.kind == DrawingKind::Label && d.text == DrawingEditor::tr("words").toStdString()) { // to be typed over
        m_words->setFocus();
        m_words->selectAll();
    }
}

/// At the film's foot, or at its top where the drawing is down there: never on the drawing itself.
void DrawingOptions::place()
{
    auto* film = qobject_cast<FilmCanvas*>(parentWidget());
    const auto* row = m_bench.drawings.chosenRow();
    if (!film || !row)
        return;
    QRectF box;
    if (const auto shape = m_bench.drawings.shapeOn(row->drawing, m_bench.player.frame()))
        for (const auto& end : shape->ends)
            box |= QRectF(film->toWidget().map(QPointF(end.x, end.y)), QSizeF(0.1, 0.1));
    const int foot = film->height() - height() - kGap;
    const bool isAtFoot = box.isNull() || box.bottom() + kGap < foot || box.top() < kGap + height();
    const int x = box.isNull() ? (film->width() - width()) / 2 : static_cast<int>(box.center().x()) - width() / 2;
    move(std::clamp(x, kGap, std::max(kGap, film->width() - width() - kGap)), isAtFoot ? foot : kGap);
}

bool DrawingOptions::eventFilter(QObject* film, QEvent* event)
{
    if (event->type() == QEvent::Resize && isVisible())
        place();
    return QFrame::eventFilter(film, event);
}

void DrawingOptions::setLives(int choice)
{
    const FrameIndex now = m_bench.player.frame();
    const KeyPosition* here = m_bench.positions.here();
    const auto loop = m_bench.player.loop();
    change(tr("when a drawing is seen"), [&](Drawing& d) {
        switch (choice) {
        case ThisPicture:
            d.lives = {Lives::On::Stretch, {now, now}, {}};
            break;
        case TheLoop:
            d.lives = {Lives::On::Stretch, *loop, {}};
            break;
        case AtKeyPosition:
            if (d.lives.on != Lives::On::KeyPosition && here)
                d.lives = {Lives::On::KeyPosition, {now, now}, here->id};
            break;
        default:
            d.lives = {Lives::On::Repetition, {}, {}};
        }
    });
}

void DrawingOptions::change(const QString& text, const std::function<void(Drawing&)>& edit)
{
    const auto* row = m_bench.drawings.find(m_shown);
    if (m_refreshing || !row)
        return;
    store::DrawingRow after = *row;
    edit(after.drawing);
    m_bench.drawings.change(text, after);
}

} // namespace kestrel::app
