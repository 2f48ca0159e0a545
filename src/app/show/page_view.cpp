#include "app/show/page_view.h"

#include "app/workspace/day_films.h"

namespace kestrel::app {

PageView::PageView(Workspace& workspace, Bench& bench, QWidget* parent)
    : DocumentLeaf(workspace, bench, QStringLiteral("page"), parent)
{
    m_voice = new VoiceBox(this);
    choices()->addWidget(m_voice);
    connect(m_voice, &QComboBox::activated, this, &PageView::outdate);
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
        report::Page page = report::makePage(day.pack, day.review, facts, pictures.drawnFrames(day.films));
        Made made{report::documentOf(page), page.warnings, [this, page] { m_page = page; }};
        const auto said = pictures.warnings();
        made.warnings.insert(made.warnings.begin(), said.begin(), said.end());
        return made;
    };
}

} // namespace kestrel::app
