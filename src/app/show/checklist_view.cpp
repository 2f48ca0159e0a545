#include "app/show/checklist_view.h"

namespace kestrel::app {

ChecklistView::ChecklistView(Workspace& workspace, Bench& bench, QWidget* parent)
    : DocumentLeaf(workspace, bench, QStringLiteral("checklist"), parent)
{
    m_voice = new VoiceBox(this);
    m_unseen = new QCheckBox(tr("what was not seen"), this);
    m_unseen->setToolTip(tr("Points that this film cannot show, or that are not marked"));
    m_unseen->setChecked(true);
    choices()->addWidget(m_unseen);
    choices()->addWidget(m_voice);
    connect(m_voice, &QComboBox::activated, this, &ChecklistView::outdate);
    connect(m_unseen, &QCheckBox::toggled, this, &ChecklistView::outdate);
}

DocumentLeaf::Maker ChecklistView::maker()
{
    return [this, voice = m_voice->voice(), hasUnseen = m_unseen->isChecked()](const store::Library&, const ShownDay& day,
                                                                               std::stop_token stop) -> Expected<Made> {
        FilmPictures pictures(stop, day.hidesFaces);
        report::PageFacts facts = day.facts;
        facts.voice = voice;
        report::Checklist list = report::makeChecklist(day.pack, day.review, facts, pictures.drawnFrames(day.films), hasUnseen);
        Made made{report::documentOf(list), list.warnings, [this, list] { m_list = list; }};
        const auto said = pictures.warnings();
        made.warnings.insert(made.warnings.begin(), said.begin(), said.end());
        return made;
    };
}

} // namespace kestrel::app
