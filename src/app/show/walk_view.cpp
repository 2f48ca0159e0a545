#include "app/show/walk_view.h"

#include "app/film/picture_bits.h"
#include "app/shell/file_dialogs.h"
#include "app/shell/speed_box.h"
#include "app/shell/theme.h"
#include "app/workspace/own_files.h"
#include "app/workspace/progress_teller.h"
#include "core/base/part_file.h"
#include "core/pack/pack_folder.h"

#include <QDir>
#include <QFileInfo>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QScrollArea>
#include <QUuid>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

#include <nlohmann/json.hpp>

namespace kestrel::app {

namespace {

constexpr QSize kIcon(96, 54);

} // namespace

WalkView::WalkView(Workspace& workspace, Bench& bench, QWidget* parent)
    : QWidget(parent), m_workspace(workspace), m_bench(bench), m_editor(workspace, bench)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(16);
    row->addWidget(makeList());
    m_stage = new WalkStage(this);
    row->addWidget(m_stage, 1);
    row->addWidget(makeForm());
    connect(&m_editor, &WalkEditor::changed, this, &WalkView::refresh);
    connect(&m_editor, &WalkEditor::message, this, &WalkView::message);
    connect(&bench.review, &ReviewModel::reviewChanged, this, &WalkView::outdate);
    connect(&bench.context, &ClipContext::clipChanged, this, &WalkView::outdate);
    connect(&workspace, &Workspace::changed, this, [this](const Change& change) {
        if (change.subject == Change::Subject::Drawings)
            outdate();
    });
    refresh();
}

QWidget* WalkView::makeList()
{
    auto* left = new QWidget(this);
    left->setFixedWidth(268);
    auto* column = new QVBoxLayout(left);
    column->setContentsMargins(0, 0, 0, 0);
    m_state = new QLabel(left);
    m_state->setProperty("muted", true);
    m_state->setWordWrap(true);
    m_list = new QListWidget(left);
    m_list->setObjectName(QStringLiteral("walkStops"));
    m_list->setIconSize(kIcon);
    m_list->setWordWrap(true);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_list->setResizeMode(QListView::Adjust);
    m_list->setDragDropMode(QAbstractItemView::InternalMove);
    m_list->setToolTip(tr("Drag a stop to another place; Delete removes it, Ctrl+↑ and Ctrl+↓ move it"));
    m_list->setAccessibleName(tr("Stops"));
    m_list->installEventFilter(this);
    auto* buttons = new QHBoxLayout;
    m_add = new QPushButton(tr("Add from Bench"), left);
    m_add->setObjectName(QStringLiteral("addStop"));
    m_add->setToolTip(tr("The picture stood at on the Bench, or its loop, with the chosen reading: after the chosen stop"));
    m_remove = new QPushButton(tr("Remove"), left);
    m_remove->setObjectName(QStringLiteral("removeStop"));
    m_remove->setToolTip(tr("Remove the chosen stop (Delete)"));
    buttons->addWidget(m_add, 1);
    buttons->addWidget(m_remove);
    auto* anew = new QPushButton(tr("Propose anew"), left);
    anew->setObjectName(QStringLiteral("proposeAnew"));
    anew->setToolTip(tr("From the review as it is now, instead of your own; can be undone"));
    column->addWidget(m_state);
    column->addWidget(m_list, 1);
    column->addLayout(buttons);
    column->addWidget(anew);
    connect(m_list, &QListWidget::currentRowChanged, this, [this](int rowNow) {
        if (!m_refreshing && rowNow >= 0)
            choose(static_cast<std::size_t>(rowNow));
    });
    connect(m_list->model(), &QAbstractItemModel::rowsMoved, this,
            [this](const QModelIndex&, int from, int, const QModelIndex&, int to) {
                if (m_refreshing)
                    return;
                const auto target = static_cast<std::size_t>(to > from ? to - 1 : to);
                m_chosen = target;
                // the list is filled anew from the script, once it has finished its own move
                QMetaObject::invokeMethod(
                    this, [this, from, target] { m_editor.move(static_cast<std::size_t>(from), target); }, Qt::QueuedConnection);
            });
    connect(m_add, &QPushButton::clicked, this, [this] {
        const auto before = m_editor.script().stops.size();
        const auto at = m_chosen;
        m_editor.addFromBench(m_chosen);
        if (m_editor.script().stops.size() > before)
            choose(std::min(at + 1, m_editor.script().stops.size() - 1));
    });
    connect(m_remove, &QPushButton::clicked, this, [this] {
        if (m_chosen < m_editor.script().stops.size())
            m_editor.remove(m_chosen);
    });
    connect(anew, &QPushButton::clicked, &m_editor, &WalkEditor::proposeAnew);
    return left;
}

QWidget* WalkView::makeForm()
{
    auto* right = new QWidget(this);
    right->setFixedWidth(262);
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 8, 0);
    auto* head = new QLabel(tr("What is said here"), right);
    head->setProperty("subhead", true);
    m_text = new QPlainTextEdit(right);
    m_text->setObjectName(QStringLiteral("stopText"));
    m_text->setPlaceholderText(tr("One sentence"));
    m_text->setTabChangesFocus(true);
    m_text->setFixedHeight(110);
    m_text->installEventFilter(this);
    const auto number = [&](const char* name, const QString& tip) {
        auto* box = new QSpinBox(right);
        box->setObjectName(QLatin1String(name));
        box->setRange(0, 0);
        box->setToolTip(tip);
        box->setKeyboardTracking(false);
        return box;
    };
    m_from = number("stopFrom", tr("The film plays from this picture on; the same as below: it stands still"));
    m_to = number("stopTo", tr("The picture on which it stands"));
    m_speed = new SpeedBox(right);
    m_speed->setObjectName(QStringLiteral("stopSpeed"));
    m_speed->setToolTip(tr("Speed against real time"));
    auto* form = new QFormLayout;
    form->addRow(tr("plays from"), m_from);
    form->addRow(tr("stands on"), m_to);
    form->addRow(tr("plays at"), m_speed);
    auto* out = new QLabel(tr("How it leaves"), right);
    out->setProperty("subhead", true);
    m_show = new QPushButton(tr("Show full screen"), right);
    m_show->setObjectName(QStringLiteral("presentWalk"));
    m_show->setProperty("primary", true);
    m_show->setToolTip(tr("From the chosen stop on: Space goes on, ← back, Esc ends"));
    m_captions = new QComboBox(right);
    m_captions->setObjectName(QStringLiteral("walkCaptions"));
    m_captions->addItem(tr("words in the picture"), static_cast<int>(report::CaptionStyle::Burnt));
    m_captions->addItem(tr("words as a track"), static_cast<int>(report::CaptionStyle::Track));
    m_captions->addItem(tr("no words"), static_cast<int>(report::CaptionStyle::None));
    m_captions->setToolTip(
        tr("A track can be switched off by who looks; the words lie beside the film as SRT and WebVTT either way"));
    m_size = new QComboBox(right);
    m_size->setObjectName(QStringLiteral("walkSize"));
    m_size->addItem(tr("at most 1280 x 720"), false);
    m_size->addItem(tr("as large as the film"), true);
    m_write = new QPushButton(tr("Save as a film…"), right);
    m_write->setObjectName(QStringLiteral("writeWalk"));
    m_write->setToolTip(tr("MP4 (H.264) or WebM (VP9), with the words beside it"));
    m_progress = new QProgressBar(right);
    m_progress->setObjectName(QStringLiteral("walkProgress"));
    m_progress->setRange(0, 1000);
    m_progress->setTextVisible(false);
    m_progress->hide();
    m_note = new QLabel(right);
    m_note->setObjectName(QStringLiteral("walkNote"));
    m_note->setProperty("muted", true);
    m_note->setTextFormat(Qt::PlainText);
    m_note->setWordWrap(true);
    column->addWidget(head);
    column->addWidget(m_text);
    column->addLayout(form);
    column->addSpacing(6);
    m_drawings = new StopDrawings(m_editor, right);
    connect(m_drawings, &StopDrawings::drawWanted, this, &WalkView::drawOnBench);
    column->addWidget(m_drawings);
    column->addSpacing(6);
    column->addLayout(makeVoice(right));
    column->addStretch();
    column->addWidget(out);
    column->addWidget(m_show);
    column->addSpacing(6);
    column->addWidget(m_captions);
    column->addWidget(m_size);
    column->addWidget(m_write);
    column->addWidget(m_progress);
    column->addWidget(m_note);
    const auto setFrames = [this] {
        const FrameIndex from(m_from->value()), to(m_to->value());
        edit(tr("pictures of a stop"), [&](report::WalkStop& s) { s.frames = {std::min(from, to), to}; });
    };
    connect(m_from, &QSpinBox::valueChanged, this, setFrames);
    connect(m_to, &QSpinBox::valueChanged, this, setFrames);
    connect(m_speed, &QComboBox::activated, this, [this] {
        edit(tr("speed of a stop"), [this](report::WalkStop& s) { s.speed = m_speed->currentData().toDouble(); });
        m_stage->goTo(m_chosen, true);
    });
    connect(m_show, &QPushButton::clicked, this, &WalkView::present);
    connect(m_write, &QPushButton::clicked, this, [this] { m_isWriting ? stopWriting() : chooseAndWrite(); });
    auto* scroll = new QScrollArea(this); // on a low screen
    scroll->setWidget(right);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFixedWidth(278);
    return scroll;
}

/// The repetition and picture of the chosen stop, where the drawing tools are.
void WalkView::drawOnBench()
{
    const auto id = m_editor.repetitionOf(m_chosen);
    if (!id.isValid())
        return;
    auto& context = m_bench.context;
    const auto row = m_workspace.library().repetitions().find(id);
    if (!row)
        return emit m_workspace.failed(row.error());
    if (context.clip().id != row->clip)
        context.open(row->clip);
    context.setRepetition(id);
    m_bench.player.setFrame(m_editor.script().stops[m_chosen].frames.last);
    emit benchWanted();
}

/// The coach's own voice for the chosen stop.
QLayout* WalkView::makeVoice(QWidget* parent)
{
    auto* column = new QVBoxLayout;
    auto* head = new QLabel(tr("In your own voice"), parent);
    head->setProperty("subhead", true);
    m_microphone = new QComboBox(parent);
    m_microphone->setObjectName(QStringLiteral("microphone"));
    m_microphone->addItems(VoiceRecorder::names());
    m_microphone->setToolTip(tr("The microphone"));
    m_microphone->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_record = new QPushButton(tr("Speak"), parent);
    m_record->setObjectName(QStringLiteral("recordVoice"));
    m_record->setToolTip(tr("Record your words for this stop; they go into the film, and the stop lasts as long. Again: stop"));
    m_forgetVoice = new QPushButton(tr("Delete"), parent);
    m_forgetVoice->setObjectName(QStringLiteral("forgetVoice"));
    m_forgetVoice->setToolTip(tr("Without your voice again; can be undone"));
    m_level = new QProgressBar(parent);
    m_level->setObjectName(QStringLiteral("voiceLevel"));
    m_level->setRange(0, 100);
    m_level->setTextVisible(false);
    m_level->setFixedHeight(8);
    m_level->setAccessibleName(tr("How loud it is"));
    m_said = new QLabel(parent);
    m_said->setObjectName(QStringLiteral("voiceSaid"));
    m_said->setProperty("muted", true);
    auto* row = new QHBoxLayout;
    row->addWidget(m_record, 1);
    row->addWidget(m_forgetVoice);
    column->addWidget(head);
    column->addWidget(m_microphone);
    column->addLayout(row);
    column->addWidget(m_level);
    column->addWidget(m_said);
    connect(m_record, &QPushButton::clicked, this, &WalkView::toggleRecording);
    connect(m_forgetVoice, &QPushButton::clicked, this,
            [this] { edit(tr("delete the voice of a stop"), [](report::WalkStop& s) { s.voice.clear(); }); });
    connect(&m_recorder, &VoiceRecorder::heard, this, [this](double loudness) {
        constexpr double kFull = 0.35; // as loud as speech gets
        m_level->setValue(static_cast<int>(100 * std::min(1.0, loudness / kFull)));
        m_said->setText(tr("recording, %1 s").arg(m_recorder.seconds(), 0, 'f', 1));
    });
    connect(&m_recorder, &VoiceRecorder::failed, this, [this](const QString& why) {
        emit message(why);
        refreshVoice();
    });
    return column;
}

void WalkView::toggleRecording()
{
    if (!m_recorder.isRunning()) {
        m_recordedStop = m_chosen;
        m_stage->goTo(m_chosen, false);
        m_recorder.start(m_microphone->currentText());
        return refreshVoice();
    }
    media::Sound said = m_recorder.stop();
    refreshVoice();
    if (said.samples.empty())
        return;
    // a file of its own each time, so that undo finds the one before
    const QString name = QUuid::createUuid().toString(QUuid::WithoutBraces) + QStringLiteral(".wav");
    Background::run(
        this,
        [said = std::move(said), folder = voiceFolder(m_workspace.library()), name](std::stop_token) {
            QDir().mkpath(folder);
            return media::saveWav(said, QDir(folder).filePath(name).toStdString());
        },
        [this, name, n = m_recordedStop](const Expected<void>& saved) {
            if (!saved)
                return emit m_workspace.failed(saved.error());
            if (n >= m_editor.script().stops.size())
                return;
            auto stop = m_editor.script().stops[n];
            stop.voice = name.toStdString();
            m_editor.changeStop(tr("voice of a stop"), n, stop);
            refreshVoice();
        });
}

void WalkView::refreshVoice()
{
    const auto& stops = m_editor.script().stops;
    const bool has = m_editor.day() && m_chosen < stops.size();
    const bool isRecording = m_recorder.isRunning();
    const bool isSpoken = has && !stops[m_chosen].voice.empty();
    m_record->setEnabled(has);
    m_record->setText(isRecording ? tr("Stop") : isSpoken ? tr("Speak anew") : tr("Speak"));
    m_forgetVoice->setEnabled(isSpoken && !isRecording);
    m_list->setEnabled(!isRecording);
    if (isRecording)
        return;
    m_level->setValue(0);
    m_said->setText(isSpoken ? tr("Your voice is on this stop.") : QString());
}

void WalkView::outdate()
{
    m_isStale = true;
    if (isVisible()) {
        m_isStale = false;
        m_editor.refresh();
    }
}

void WalkView::showEvent(QShowEvent*)
{
    if (m_isStale) {
        m_isStale = false;
        m_editor.refresh();
    }
}

/// What is typed is stored, also when the window closes; a recording ends.
void WalkView::hideEvent(QHideEvent*)
{
    storeSentence();
    if (m_recorder.isRunning())
        toggleRecording();
}

void WalkView::storeSentence()
{
    edit(tr("sentence of a stop"), [this](report::WalkStop& s) { s.text = m_text->toPlainText().trimmed().toStdString(); });
}

/// The sentence is stored when the coach leaves it; keys of the list move and remove stops.
bool WalkView::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == m_text && event->type() == QEvent::FocusOut)
        storeSentence();
    if (watched == m_list && event->type() == QEvent::KeyPress) {
        const auto* key = static_cast<QKeyEvent*>(event);
        const auto count = m_editor.script().stops.size();
        if (key->key() == Qt::Key_Delete && m_chosen < count) {
            m_editor.remove(m_chosen);
            return true;
        }
        if (key->modifiers() == Qt::ControlModifier && key->key() == Qt::Key_Up && m_chosen > 0) {
            const auto from = m_chosen--;
            m_editor.move(from, from - 1);
            return true;
        }
        if (key->modifiers() == Qt::ControlModifier && key->key() == Qt::Key_Down && m_chosen + 1 < count) {
            const auto from = m_chosen++;
            m_editor.move(from, from + 1);
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void WalkView::refresh()
{
    const auto& stops = m_editor.script().stops;
    m_refreshing = true;
    m_list->clear();
    for (std::size_t n = 0; n < stops.size(); ++n) {
        const QString words = stops[n].text.empty() ? tr("(nothing is said)") : QString::fromStdString(stops[n].text);
        m_list->addItem(QStringLiteral("%1  %2").arg(n + 1).arg(words));
    }
    m_chosen = stops.empty() ? 0 : std::min(m_chosen, stops.size() - 1);
    m_list->setCurrentRow(stops.empty() ? -1 : static_cast<int>(m_chosen));
    m_refreshing = false;
    m_state->setText(m_editor.isGathering() ? tr("looking through the day …")
                     : !m_editor.day()      ? tr("Bring a clip to the bench and mark it; the talk is proposed from its review.")
                     : m_editor.isOwn()     ? tr("Your own talk.")
                                            : tr("Proposed from the review. Change what you like; it becomes yours."));
    m_stage->setTalk(m_editor.day(), m_editor.scriptToPlay());
    refreshForm();
    refreshIcons();
}

void WalkView::refreshForm()
{
    m_refreshing = true;
    const auto& stops = m_editor.script().stops;
    const bool has = m_editor.day() && m_chosen < stops.size();
    for (QWidget* w : {static_cast<QWidget*>(m_text), static_cast<QWidget*>(m_from), static_cast<QWidget*>(m_to),
                       static_cast<QWidget*>(m_speed), static_cast<QWidget*>(m_show), static_cast<QWidget*>(m_remove)})
        w->setEnabled(has);
    m_write->setEnabled(has || m_isWriting);
    m_add->setEnabled(m_editor.day() != nullptr);
    if (has) {
        const auto& stop = stops[m_chosen];
        const auto& film = m_editor.day()->films[stop.repetition];
        for (QWidget* w : {static_cast<QWidget*>(m_from), static_cast<QWidget*>(m_to)})
            w->setEnabled(!stop.isPicture());
        for (auto* box : {m_from, m_to})
            box->setRange(0, static_cast<int>(film.marking.film.frames) - 1);
        m_from->setValue(static_cast<int>(stop.frames.first.value));
        m_to->setValue(static_cast<int>(stop.frames.last.value));
        m_speed->setEnabled(stop.isStretch());
        m_speed->setCurrentIndex(m_speed->findData(stop.speed));
        if (!m_text->hasFocus())
            m_text->setPlainText(QString::fromStdString(stop.text));
    } else {
        m_text->clear();
    }
    m_refreshing = false;
    m_drawings->showStop(m_chosen);
    refreshVoice();
}

/// Small pictures of where each stop stands.
void WalkView::refreshIcons()
{
    m_icons.stop();
    if (!m_editor.day())
        return;
    m_icons = Background::run(
        this,
        [day = m_editor.day(), script = m_editor.scriptToPlay()](std::stop_token stop) {
            FilmPictures pictures(stop);
            std::vector<QImage> icons;
            for (const auto& s : script.stops) {
                if (stop.stop_requested())
                    break;
                const auto& film = day->films[std::min(s.repetition, day->films.size() - 1)];
                const QImage picture =
                    s.isPicture() ? QImage(QString::fromStdString(s.picture)) : pictures.picture(film, s.frames.last);
                icons.push_back(picture.isNull() ? picture
                                                 : picture.scaled(2 * kIcon, Qt::KeepAspectRatio, Qt::SmoothTransformation));
            }
            return icons;
        },
        [this](const std::vector<QImage>& icons) {
            for (int n = 0; n < m_list->count() && n < static_cast<int>(icons.size()); ++n)
                if (!icons[static_cast<std::size_t>(n)].isNull())
                    m_list->item(n)->setIcon(QIcon(QPixmap::fromImage(icons[static_cast<std::size_t>(n)])));
        });
}

void WalkView::choose(std::size_t n)
{
    m_chosen = n;
    m_refreshing = true;
    m_list->setCurrentRow(static_cast<int>(n));
    m_refreshing = false;
    refreshForm();
    m_stage->goTo(n, true);
}

void WalkView::edit(const QString& text, const std::function<void(report::WalkStop&)>& change)
{
    if (m_refreshing || m_chosen >= m_editor.script().stops.size())
        return;
    auto stop = m_editor.script().stops[m_chosen];
    change(stop);
    if (stop != m_editor.script().stops[m_chosen])
        m_editor.changeStop(text, m_chosen, stop);
}

WalkPlayer* WalkView::present()
{
    if (!m_editor.day() || m_editor.script().stops.empty())
        return nullptr;
    auto* player = new WalkPlayer(m_editor.day(), m_editor.scriptToPlay(), m_chosen, window());
    player->showFullScreen();
    player->setFocus();
    return player;
}

void WalkView::chooseAndWrite()
{
    const QString name =
        QStringLiteral("%1 %2 walk-through.mp4")
            .arg(QString::fromStdString(m_bench.context.athlete().name), QString::fromStdString(m_bench.context.day().date));
    const QString file =
        askWhereToSave(this, FilePurpose::Documents, tr("Save the walk-through"), name, tr("Films (*.mp4 *.webm)"));
    if (!file.isEmpty())
        write(QFileInfo(file).suffix().isEmpty() ? file + QStringLiteral(".mp4") : file);
}

void WalkView::write(const QString& file)
{
    if (m_isWriting || !m_editor.day())
        return;
    report::WalkFilmOptions options;
    options.captions = static_cast<report::CaptionStyle>(m_captions->currentData().toInt());
    options.isFullSize = m_size->currentData().toBool();
    const auto& day = *m_editor.day();
    options.hasNumbers = day.facts.voice.value_or(report::voiceFor(day.review.athlete.age)) != report::Voice::Child;
    options.progress = tellProgress(this, 1, [this](int percent) { onProgress(percent / 100.0); });
    store::SentRow sent = sentOf(day, "walk");
    sent.content = toJson(m_editor.script()).dump(1);
    m_isWriting = true;
    m_writingSince.start();
    m_progress->setValue(0);
    m_progress->show();
    m_write->setText(tr("Stop writing"));
    m_writing = Background::run(
        this,
        [day = m_editor.day(), script = m_editor.scriptToPlay(), file, options](std::stop_token stop) mutable {
            auto hider = vision::FaceHider::load(shippedFolder("models"), day->hidesFaces);
            if (!hider)
                return Expected<report::WrittenWalk>(tl::unexpected(hider.error()));
            options.hide = [&](std::size_t n, FrameIndex frame, QImage& image) {
                const auto& film = day->films[n];
                hider->hide(bitsOf(image), film.file, film.marking, film.repetition, frame);
            };
            return report::writeWalk(script, day->films, file.toStdString(), options, stop)
                .map([&](report::WrittenWalk done) {
                    if (hider->unsure() > 0)
                        done.warnings.insert(done.warnings.begin(), hider->warning());
                    return done;
                })
                .and_then([&](const report::WrittenWalk& done) -> Expected<report::WrittenWalk> {
                    const QString base = file.left(file.lastIndexOf(QLatin1Char('.')));
                    for (const auto& [ending, words] : {std::pair(QStringLiteral(".srt"), media::toSrt(done.captions)),
                                                        std::pair(QStringLiteral(".vtt"), media::toWebVtt(done.captions))})
                        if (auto saved = saveText((base + ending).toStdString(), words); !saved)
                            return tl::unexpected(saved.error());
                    return done;
                });
        },
        [this, file, sent](const Expected<report::WrittenWalk>& done) { onWritten(file, sent, done); });
}

void WalkView::stopWriting()
{
    if (!m_isWriting)
        return;
    m_writing.stop();
    m_isWriting = false;
    m_progress->hide();
    m_write->setText(tr("Save as a film…"));
    m_note->setText(tr("Stopped; nothing was written."));
    emit wrote(false);
}

void WalkView::onProgress(double share)
{
    if (!m_isWriting)
        return;
    m_progress->setValue(static_cast<int>(1000 * share));
    const double spent = static_cast<double>(m_writingSince.elapsed()) / 1000;
    if (share > 0.02)
        m_note->setText(tr("%1 %, about %2 s left")
                            .arg(static_cast<int>(100 * share))
                            .arg(static_cast<int>(std::ceil(spent / share - spent))));
}

void WalkView::onWritten(const QString& file, const store::SentRow& sent, const Expected<report::WrittenWalk>& done)
{
    m_isWriting = false;
    m_progress->hide();
    m_write->setText(tr("Save as a film…"));
    if (!done) {
        m_note->setText({});
        emit m_workspace.failed(done.error());
        emit wrote(false);
        return;
    }
    m_note->setText(done->warnings.empty() ? tr("%1 s of film, %2 stops").arg(done->seconds, 0, 'f', 0).arg(done->stops.size())
                                           : QString::fromStdString(done->warnings.front()));
    keepSent(m_workspace, sent, file, sent.content);
    emit message(tr("Saved %1, with its words beside it").arg(file));
    emit wrote(true);
}

} // namespace kestrel::app
