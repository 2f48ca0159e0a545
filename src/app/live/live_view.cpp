#include "app/live/live_view.h"
#include "app/shell/number_field.h"

#include "app/shell/theme.h"
#include "app/workspace/row_edits.h"
#include "look/fonts.h"

#include <QDateTime>
#include <QDir>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>
#include <QStandardPaths>
#include <QVBoxLayout>

namespace kestrel::app {

namespace {

constexpr int kRadarFreshMs = 6000; // an older reading belongs to another ball
constexpr int kHead = 80;           // pixels above the picture
constexpr double kKilometresPerHour = 3.6;

} // namespace

LiveView::LiveView(Workspace& workspace, DayAsker day, QWidget* parent)
    : QWidget(parent), m_workspace(workspace), m_day(std::move(day)), m_import(workspace)
{
    setFocusPolicy(Qt::StrongFocus);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 10, 16, 12);
    auto* head = new QLabel(tr("Live"), this);
    head->setProperty("head", true);
    layout->addWidget(head);
    layout->addLayout(makeControls());
    layout->addStretch();
    connect(&m_camera, &LiveCamera::shown, this, [this](const QImage& p) {
        m_picture = p;
        m_notice.clear();
        update();
    });
    connect(&m_camera, &LiveCamera::preparing, this, [this](double share) {
        m_notice = tr("The stand-in paints its athlete, once … %1 %").arg(static_cast<int>(100 * share));
        update();
    });
    connect(&m_camera, &LiveCamera::failed, this, [this](const Error& e) {
        m_camera.stop();
        m_picture = {};
        m_notice = QString::fromStdString(e.text());
        refresh();
    });
    connect(&m_radar, &RadarLink::measured, this, &LiveView::refresh);
    connect(&m_radar, &RadarLink::opened, this, &LiveView::refresh);
    connect(&m_radar, &RadarLink::refused, this, [this](const QString& why) {
        emit message(why);
        refresh();
    });
    connect(&m_radar, &RadarLink::lost, this, [this] {
        emit message(tr("The radar gun is gone. Plug it in and press Listen again."));
        refresh();
    });
    connect(&m_import, &ClipImport::added, this, &LiveView::onClipSaved);
    m_tick.setInterval(250);
    connect(&m_tick, &QTimer::timeout, this, &LiveView::refresh);
    m_notice = tr("Press Start. The last seconds are kept all the time: when a throw was good, press Enter and it is a clip.");
    refresh();
}

QLayout* LiveView::makeControls()
{
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    m_source = new QComboBox(this);
    m_source->setObjectName(QStringLiteral("cameraSource"));
    m_source->addItems(LiveCamera::names());
    m_source->setToolTip(tr("The camera"));
    m_start = new QPushButton(tr("Start"), this);
    m_start->setObjectName(QStringLiteral("startCamera"));
    connect(m_start, &QPushButton::clicked, this, [this] { m_camera.isRunning() ? stop() : start(); });
    m_seconds = new NumberField(this);
    m_seconds->setObjectName(QStringLiteral("liveSeconds"));
    m_seconds->setRange(1, 10);
    m_seconds->setDecimals(0);
    m_seconds->setValue(4);
    m_seconds->setPrefix(tr("the last "));
    m_seconds->setSuffix(tr(" s"));
    m_save = new QPushButton(tr("Save as a clip"), this);
    m_save->setObjectName(QStringLiteral("saveLast"));
    m_save->setProperty("primary", true);
    m_save->setToolTip(tr("What has just been seen becomes a clip of today (Enter)"));
    connect(m_save, &QPushButton::clicked, this, &LiveView::saveLast);
    m_state = new QLabel(this);
    m_state->setProperty("muted", true);
    m_state->setObjectName(QStringLiteral("liveState"));
    m_gun = new QLineEdit(this);
    m_gun->setObjectName(QStringLiteral("radarAddress"));
    m_gun->setPlaceholderText(tr("radar gun: device or host:port"));
    m_gun->setFixedWidth(240);
    m_listen = new QPushButton(tr("Listen"), this);
    m_listen->setObjectName(QStringLiteral("listenRadar"));
    m_listen->setToolTip(tr("Its readings go with the clips that are saved"));
    connect(m_listen, &QPushButton::clicked, this, &LiveView::toggleRadar);
    m_speed = new QLabel(this);
    m_speed->setProperty("subhead", true);
    m_speed->setObjectName(QStringLiteral("radarSpeed"));
    row->addWidget(m_source);
    row->addWidget(m_start);
    row->addWidget(m_seconds);
    row->addWidget(m_save);
    m_load = new QLabel(this);
    m_load->setObjectName(QStringLiteral("liveLoad"));
    m_load->setTextFormat(Qt::PlainText);
    row->addWidget(m_state);
    row->addWidget(m_load);
    row->addStretch();
    row->addWidget(m_speed);
    row->addWidget(m_gun);
    row->addWidget(m_listen);
    for (QWidget* w : {static_cast<QWidget*>(m_start), static_cast<QWidget*>(m_save), static_cast<QWidget*>(m_listen)})
        w->setFocusPolicy(Qt::TabFocus);
    return row;
}

void LiveView::start()
{
    const QString folder = QDir(QString::fromStdString(m_workspace.library().folder())).filePath(QStringLiteral("stand-in"));
    m_notice = tr("Waiting for the camera …");
    m_camera.start(m_source->currentText(), folder);
    m_load->setText(m_loadWords ? m_loadWords() : QString());
    m_tick.start();
    refresh();
    setFocus();
}

void LiveView::stop()
{
    m_camera.stop();
    m_tick.stop();
    m_picture = {};
    m_notice = tr("The camera is off.");
    refresh();
    update();
}

void LiveView::toggleRadar()
{
    if (m_radar.isOpen())
        m_radar.close();
    else
        m_radar.open(m_gun->text());
    refresh();
}

void LiveView::refresh()
{
    m_start->setText(m_camera.isRunning() ? tr("Stop") : tr("Start"));
    m_source->setEnabled(!m_camera.isRunning());
    m_save->setEnabled(m_camera.isRunning() && !m_isSaving);
    m_listen->setText(m_radar.isOpen() ? tr("Stop listening") : tr("Listen"));
    const auto speed = m_radar.recent(kRadarFreshMs);
    m_speed->setText(speed ? tr("%1 km/h").arg(*speed * kKilometresPerHour, 0, 'f', 0) : QString());
    m_state->setText(m_camera.isRunning()
                         ? tr("%1 s kept at %2 pictures a second")
                               .arg(m_camera.recorder().isStarted() ? m_camera.recorder().secondsHeld() : 0, 0, 'f', 1)
                               .arg(m_camera.frameRate(), 0, 'f', 0)
                         : QString());
    update();
}

/// Beside the library, named by the time, never over another file.
QString LiveView::newFile() const
{
    const QDir folder(QDir(QString::fromStdString(m_workspace.library().folder())).filePath(QStringLiteral("films")));
    folder.mkpath(QStringLiteral("."));
    const QString stamp = QDateTime::currentDateTime().toString(QStringLiteral("yyyy-MM-dd-HHmmss"));
    QString file = folder.filePath(QStringLiteral("live-%1.mp4").arg(stamp));
    for (int n = 2; QFile::exists(file); ++n)
        file = folder.filePath(QStringLiteral("live-%1-%2.mp4").arg(stamp).arg(n));
    return file;
}

void LiveView::saveLast()
{
    if (!m_camera.isRunning() || m_isSaving)
        return;
    m_isSaving = true;
    m_speedOfClip = m_radar.recent(kRadarFreshMs);
    const QString file = newFile();
    Background::run(
        this,
        [recorder = m_camera.sharedRecorder(), file = file.toStdString(), seconds = m_seconds->value()](std::stop_token) {
            return recorder->save(file, seconds);
        },
        [this, file](const Expected<void>& saved) {
            m_isSaving = false;
            refresh();
            if (!saved)
                emit message(QString::fromStdString(saved.error().text()));
            else
                m_day([this, file](store::DayId day) { m_import.add(day, {file}); },
                      [this, file] {
                          emit message(
                              tr("Not added to anybody. Choose or add the athlete in the Roster and drop the film there: %1")
                                  .arg(file));
                      });
        });
    refresh();
}

void LiveView::onClipSaved(store::ClipId clip)
{
    m_load->setText(m_loadWords ? m_loadWords() : QString());
    if (m_speedOfClip)
        if (const auto list = m_workspace.library().repetitions().of(clip); list && !list->empty()) {
            store::RepetitionRow after = list->front();
            after.ballSpeed = m_speedOfClip;
            changeRow(m_workspace, tr("note the ball speed"), list->front(), after);
        }
    m_speedOfClip.reset();
    emit clipSaved(clip);
}

void LiveView::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        saveLast();
    else
        QWidget::keyPressEvent(event);
}

QRectF LiveView::pictureArea() const
{
    return QRectF(16, kHead, width() - 32, height() - kHead - 14);
}

void LiveView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const QRectF area = pictureArea();
    painter.fillRect(area, QColor(0x15, 0x1A, 0x1E));
    if (!m_picture.isNull()) {
        const QSizeF size = QSizeF(m_picture.size()).scaled(area.size(), Qt::KeepAspectRatio);
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.drawImage(QRectF(area.center() - QPointF(size.width() / 2, size.height() / 2), size), m_picture);
        return;
    }
    painter.setPen(QColor(0xF0, 0xEB, 0xE1));
    painter.setFont(look::font(15));
    painter.drawText(area.adjusted(60, 20, -60, -20), Qt::AlignCenter | Qt::TextWordWrap, m_notice);
}

} // namespace kestrel::app
