#include "app/show/page_view.h"

#include "app/shell/file_dialogs.h"
#include "look/film_image.h"
#include "media/film.h"
#include "report/page_output.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>
#include <map>

namespace kestrel::app {

namespace {

constexpr QSize kSheet(1240, 1754); // A4 at 150 dots per inch

struct Made {
    report::Page page;
    QImage picture;
};

Made makeInBackground(const Pack& pack, const Review& review, const report::PageFacts& facts, std::stop_token stop)
{
    std::map<std::string, Expected<media::Film>> films; // opened when a picture of one is wanted
    std::optional<Error> wrong;
    const report::FrameSource frames = [&](std::size_t repetition, FrameIndex f) {
        const std::string& file = review.films[std::min(repetition, review.films.size() - 1)];
        auto film = films.find(file);
        if (film == films.end())
            film = films.emplace(file, media::Film::open(file, {.stop = stop})).first;
        if (!film->second) {
            wrong = film->second.error();
            return QImage();
        }
        const auto picture = film->second->frame(f, {}, stop);
        return picture ? look::toImage(*picture) : QImage();
    };
    Made made{report::makePage(pack, review, facts, review.films.empty() ? report::FrameSource() : frames),
              QImage(kSheet, QImage::Format_RGB32)};
    if (wrong)
        made.page.warnings.insert(made.page.warnings.begin(), wrong->text());
    QPainter painter(&made.picture);
    report::paintPage(painter, made.page, QRectF(made.picture.rect()));
    return made;
}

} // namespace

PageView::PageView(Workspace& workspace, Bench& bench, QWidget* parent) : QWidget(parent), m_workspace(workspace), m_bench(bench)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 16);
    auto* row = new QHBoxLayout;
    auto* head = new QLabel(tr("Page"), this);
    head->setProperty("head", true);
    m_note = new QLabel(this);
    m_note->setProperty("muted", true);
    m_voice = new QComboBox(this);
    m_voice->setToolTip(tr("Who the page speaks to"));
    m_voice->addItem(tr("words by age"), -1);
    m_voice->addItem(tr("for a child"), static_cast<int>(report::Voice::Child));
    m_voice->addItem(tr("for a teenager"), static_cast<int>(report::Voice::Teen));
    m_voice->addItem(tr("for an adult"), static_cast<int>(report::Voice::Adult));
    m_pdf = new QPushButton(tr("Save PDF…"), this);
    m_pdf->setProperty("primary", true);
    m_html = new QPushButton(tr("Save web page…"), this);
    row->addWidget(head);
    row->addWidget(m_note, 1);
    row->addWidget(m_voice);
    row->addWidget(m_html);
    row->addWidget(m_pdf);
    layout->addLayout(row);
    auto* scroll = new QScrollArea(this);
    m_sheet = new QLabel(scroll);
    m_sheet->setAlignment(Qt::AlignHCenter | Qt::AlignTop);
    m_sheet->setObjectName(QStringLiteral("sheet"));
    scroll->setWidget(m_sheet);
    scroll->setWidgetResizable(true);
    layout->addWidget(scroll, 1);
    const auto outdate = [this] {
        m_stale = true;
        if (isVisible())
            make();
    };
    connect(m_voice, &QComboBox::activated, this, outdate);
    connect(&bench.review, &ReviewModel::reviewChanged, this, outdate);
    connect(&bench.context, &ClipContext::clipChanged, this, outdate);
    connect(m_pdf, &QPushButton::clicked, this, [this] { chooseAndSave(QStringLiteral(".pdf")); });
    connect(m_html, &QPushButton::clicked, this, [this] { chooseAndSave(QStringLiteral(".html")); });
    make();
}

void PageView::showEvent(QShowEvent*)
{
    if (m_stale)
        make();
}

void PageView::resizeEvent(QResizeEvent*)
{
    showPicture();
}

void PageView::make()
{
    m_work.stop();
    m_page.reset();
    m_picture = {};
    m_pdf->setEnabled(false);
    m_html->setEnabled(false);
    if (!m_bench.context.isOpen() || !m_bench.context.pack()) {
        m_note->setText({});
        m_sheet->setText(tr("Bring a clip to the bench and mark it; the page makes itself."));
        return;
    }
    if (!isVisible())
        return;
    m_stale = false;
    m_note->setText(tr("making the page …"));
    report::PageFacts facts{m_bench.context.athlete().name, m_bench.context.day().date, {}};
    if (const int voice = m_voice->currentData().toInt(); voice >= 0)
        facts.voice = static_cast<report::Voice>(voice);
    m_work = Background::run(
        this,
        [pack = *m_bench.context.pack(), review = m_bench.review.review(), facts](std::stop_token stop) {
            return makeInBackground(pack, review, facts, stop);
        },
        [this](Made made) {
            m_page = std::move(made.page);
            m_picture = std::move(made.picture);
            m_pdf->setEnabled(true);
            m_html->setEnabled(true);
            m_note->setText(m_page->warnings.empty() ? tr("one side of A4, as it will be printed")
                                                     : QString::fromStdString(m_page->warnings.front()));
            showPicture();
            emit ready();
        });
}

void PageView::showPicture()
{
    if (m_picture.isNull())
        return;
    const int width = std::min(820, this->width() - 60);
    const double ratio = devicePixelRatioF();
    QPixmap sheet = QPixmap::fromImage(m_picture.scaledToWidth(static_cast<int>(width * ratio), Qt::SmoothTransformation));
    sheet.setDevicePixelRatio(ratio);
    m_sheet->setPixmap(sheet);
}

void PageView::chooseAndSave(const QString& ending)
{
    const QString name = QString::fromStdString(m_bench.context.athlete().name + " " + m_bench.context.day().date) + ending;
    const QString file = askWhereToSave(this, FilePurpose::Documents, tr("Save the page"), name);
    if (!file.isEmpty())
        save(file.endsWith(ending, Qt::CaseInsensitive) ? file : file + ending);
}

void PageView::save(const QString& file)
{
    if (!m_page)
        return;
    Background::run(
        this, [page = *m_page, file](std::stop_token) { return report::savePage(page, file.toStdString()); },
        [this, file](const Expected<void>& saved) {
            if (saved)
                emit message(tr("Saved %1").arg(file));
            else
                emit m_workspace.failed(saved.error());
        });
}

} // namespace kestrel::app
