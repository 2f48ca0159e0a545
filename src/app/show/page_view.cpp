#include "app/show/page_view.h"

#include "app/workspace/day_films.h"
#include "app/workspace/own_files.h"

#include <QDir>
#include <QPainter>

namespace kestrel::app {

namespace {

/// Whether the sheet shows all of the page.
bool hasRoom(const report::Page& page)
{
    QImage sheet(report::kUpright.toSize(), QImage::Format_RGB32);
    QPainter painter(&sheet);
    return report::paintPage(painter, page, sheet.rect());
}

} // namespace

PageView::PageView(Workspace& workspace, Bench& bench, QWidget* parent)
    : DocumentLeaf(workspace, bench, QStringLiteral("page"), parent)
{
    m_voice = new VoiceBox(this);
    m_takeOff = new QPushButton(tr("Take the picture off"), this);
    m_takeOff->setObjectName(QStringLiteral("takePictureOff"));
    m_takeOff->setToolTip(tr("The picture that you put on this page; can be undone"));
    m_takeOff->hide();
    choices()->addWidget(m_takeOff);
    choices()->addWidget(m_voice);
    connect(m_takeOff, &QPushButton::clicked, this, [this] {
        if (PageView::bench().context.isOpen())
            setPicture(tr("take the picture off the page"), PageView::bench().context.day().id, std::nullopt);
    });
    connect(m_voice, &QComboBox::activated, this, &PageView::outdate);
    connect(&workspace, &Workspace::changed, this, [this](const Change& change) {
        if (change.subject == Change::Subject::Page)
            outdate();
    });
}

void PageView::putPicture(const QImage& image, const std::string& words)
{
    if (!bench().context.isOpen())
        return emit message(tr("Bring a clip to the Bench first: the picture goes onto its page."));
    Background::run(
        this, [image, folder = pictureFolder(workspace().library())](std::stop_token) { return keepPicture(folder, image); },
        [this, words, day = bench().context.day().id,
         player = bench().context.athlete().name](const Expected<std::string>& name) {
            if (!name)
                return emit workspace().failed(name.error());
            setPicture(tr("put a picture on the page"), day, store::PagePicture{*name, words});
            emit message(tr("It is on the page of %1, under Show.").arg(QString::fromStdString(player)));
        });
}

void PageView::setPicture(const QString& words, store::DayId day, const std::optional<store::PagePicture>& after)
{
    const auto before = workspace().valueOr(workspace().library().pagePictures().of(day));
    (void)workspace().edit(
        {words, Change{Change::Subject::Page}}, [=](store::Library& l) { return l.pagePictures().set(day, after); },
        [=](store::Library& l) { return l.pagePictures().set(day, before); });
}

DocumentLeaf::Maker PageView::maker()
{
    return [this, voice = m_voice->voice()](const store::Library& library, const ShownDay& day,
                                            std::stop_token stop) -> Expected<Made> {
        FilmPictures pictures(stop, day.hidesFaces);
        report::PageFacts facts = day.facts;
        facts.voice = voice;
        auto followUp = library.days().find(day.day).and_then(
            [&](const store::FilmingDay& filmed) { return followUpOf(library, day.pack, filmed, readingsOf(day.films)); });
        if (!followUp)
            return tl::unexpected(followUp.error());
        facts.followUp = std::move(*followUp);
        const auto put = library.pagePictures().of(day.day);
        if (!put)
            return tl::unexpected(put.error());
        if (*put)
            facts.extra = {QImage(QDir(pictureFolder(library)).filePath(QString::fromStdString((*put)->file))), (*put)->words};
        report::Page page = report::makePage(day.pack, day.review, facts, pictures.drawnFrames(day.films));
        Made made{report::documentOf(page), page.warnings, [this, page] {
                      m_page = page;
                      m_takeOff->setVisible(!page.extra.image.isNull());
                  }};
        if (*put && !hasRoom(page))
            made.warnings.push_back("The page has no room for your picture; the web page shows it.");
        const auto said = pictures.warnings();
        made.warnings.insert(made.warnings.begin(), said.begin(), said.end());
        return made;
    };
}

} // namespace kestrel::app
