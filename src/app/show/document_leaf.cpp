#include "app/show/document_leaf.h"

#include "app/shell/file_dialogs.h"
#include "app/workspace/document_saver.h"

#include <QFile>
#include <QScrollArea>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kPictureWidth = 1240; // pixels of the sheet as it is shown: A4 at 150 dots per inch
constexpr int kWidest = 820;

} // namespace

DocumentLeaf::DocumentLeaf(Workspace& workspace, Bench& bench, const QString& kind, QWidget* parent)
    : QWidget(parent), m_workspace(workspace), m_bench(bench), m_kind(kind)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* row = new QHBoxLayout;
    m_note = new QLabel(this);
    m_note->setProperty("muted", true);
    m_note->setTextFormat(Qt::PlainText);
    m_note->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    m_choices = new QHBoxLayout;
    row->addWidget(m_note, 1);
    row->addLayout(m_choices);
    row->addWidget(makeWayOut(tr("Save web page…"), QStringLiteral(".html")));
    row->addWidget(makeWayOut(tr("Save picture…"), QStringLiteral(".png")));
    auto* pdf = makeWayOut(tr("Save PDF…"), QStringLiteral(".pdf"));
    pdf->setProperty("primary", true);
    row->addWidget(pdf);
    layout->addLayout(row);
    auto* scroll = new QScrollArea(this);
    m_sheet = new QLabel(scroll);
    m_sheet->setAlignment(Qt::AlignHCenter | Qt::AlignTop);
    m_sheet->setObjectName(kind + QStringLiteral("Sheet"));
    scroll->setWidget(m_sheet);
    scroll->setWidgetResizable(true);
    layout->addWidget(scroll, 1);
    connect(&bench.review, &ReviewModel::reviewChanged, this, &DocumentLeaf::outdate);
    connect(&bench.context, &ClipContext::clipChanged, this, &DocumentLeaf::outdate);
    connect(&bench.context, &ClipContext::repetitionChosen, this, &DocumentLeaf::outdate);
    connect(&workspace, &Workspace::changed, this, [this](const Change& change) {
        if (change.subject == Change::Subject::Drawings)
            outdate();
    });
}

QPushButton* DocumentLeaf::makeWayOut(const QString& words, const QString& ending)
{
    auto* button = new QPushButton(words, this);
    button->setObjectName(m_kind + ending);
    button->setToolTip(tr("Writes the sheet that is shown; the library keeps it as it left"));
    connect(button, &QPushButton::clicked, this, [this, ending] { chooseAndSave(ending); });
    m_waysOut.push_back(button);
    return button;
}

void DocumentLeaf::outdate()
{
    m_isStale = true;
    if (isVisible())
        make();
}

void DocumentLeaf::showEvent(QShowEvent*)
{
    if (m_isStale)
        make();
}

void DocumentLeaf::resizeEvent(QResizeEvent*)
{
    showPicture();
}

void DocumentLeaf::make()
{
    m_work.stop();
    m_document.reset();
    m_picture = {};
    for (auto* button : m_waysOut)
        button->setEnabled(false);
    auto request = ShownDayRequest::of(m_workspace, m_bench);
    if (!request) {
        m_note->setText({});
        m_sheet->setText(tr("Bring a clip to the bench and mark it; the sheet makes itself."));
        return;
    }
    m_isStale = false;
    m_note->setText(tr("making the sheet …"));
    m_work = Background::run(
        this,
        [request = std::move(*request), make = maker(), kind = m_kind.toStdString()](std::stop_token stop) -> Expected<Shown> {
            const auto library = request.openLibrary();
            if (!library)
                return tl::unexpected(library.error());
            return request.gather(*library).and_then([&](const ShownDay& day) {
                return make(*library, day, stop).map([&](Made made) {
                    QImage picture = report::pictureOf(made.document, kPictureWidth);
                    return Shown{std::move(made), std::move(picture), sentOf(day, kind)};
                });
            });
        },
        [this](Expected<Shown> done) {
            if (!done) {
                m_note->setText({});
                m_sheet->setText(QString::fromStdString(done.error().text()));
                return;
            }
            auto& [made, picture, sent] = *done;
            m_document = std::move(made.document);
            m_sent = std::move(sent);
            m_picture = std::move(picture);
            for (auto* button : m_waysOut)
                button->setEnabled(true);
            m_note->setText(made.warnings.empty() ? whatItIs() : QString::fromStdString(made.warnings.front()));
            m_note->setToolTip(m_note->text());
            showPicture();
            if (made.then)
                made.then();
            emit ready();
        });
}

void DocumentLeaf::showPicture()
{
    if (m_picture.isNull())
        return;
    const bool isLying = m_picture.width() > m_picture.height();
    const int width = std::min(isLying ? kPictureWidth : kWidest, this->width() - 30);
    const double ratio = devicePixelRatioF();
    QPixmap sheet = QPixmap::fromImage(m_picture.scaledToWidth(static_cast<int>(width * ratio), Qt::SmoothTransformation));
    sheet.setDevicePixelRatio(ratio);
    m_sheet->setPixmap(sheet);
}

void DocumentLeaf::chooseAndSave(const QString& ending)
{
    const QString name = QStringLiteral("%1 %2 %3")
                             .arg(QString::fromStdString(m_bench.context.athlete().name),
                                  QString::fromStdString(m_bench.context.day().date), m_kind) +
                         ending;
    const QString file = askWhereToSave(this, FilePurpose::Documents, tr("Save the sheet"), name);
    if (!file.isEmpty())
        save(file.endsWith(ending, Qt::CaseInsensitive) ? file : file + ending);
}

void DocumentLeaf::save(const QString& file)
{
    if (!m_document)
        return;
    saveDocument(this, m_workspace, *m_document, file, [this, file, sent = m_sent] {
        QFile written(file);
        if (written.open(QIODevice::ReadOnly))
            keepSent(m_workspace, sent, file, written.readAll().toStdString());
        emit message(tr("Saved %1").arg(file));
    });
}

} // namespace kestrel::app
