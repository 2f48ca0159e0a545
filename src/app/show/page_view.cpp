#include "app/show/page_view.h"

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
    return [this, voice = m_voice->voice()](const store::Library&, const ShownDay& day, std::stop_token stop) -> Expected<Made> {
        FilmPictures pictures(stop, day.hidesFaces);
        report::PageFacts facts = day.facts;
        facts.voice = voice;
        const report::FrameSource frames = [&](std::size_t repetition, FrameIndex f) {
            return pictures.drawnOn(day.films[std::min(repetition, day.films.size() - 1)], f);
        };
        report::Page page = report::makePage(day.pack, day.review, facts, day.films.empty() ? report::FrameSource() : frames);
        Made made{report::documentOf(page), page.warnings, [this, page] { m_page = page; }};
        if (pictures.wrong())
            made.warnings.insert(made.warnings.begin(), pictures.wrong()->text());
        return made;
    };
}

} // namespace kestrel::app
