#include "app/show/show_view.h"

#include "app/shell/settings.h"
#include "app/shell/theme.h"
#include "app/show/change_view.h"
#include "app/show/checklist_view.h"
#include "app/show/page_view.h"
#include "app/show/sheet_view.h"
#include "app/show/walk_view.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

namespace kestrel::app {

ShowView::ShowView(Workspace& workspace, Bench& bench, QWidget* parent) : QWidget(parent), m_bench(bench)
{
    m_page = new PageView(workspace, bench, this);
    m_sheet = new SheetView(workspace, bench, this);
    m_checklist = new ChecklistView(workspace, bench, this);
    m_walk = new WalkView(workspace, bench, this);
    m_change = new ChangeView(workspace, bench, this);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 16);
    auto* row = new QHBoxLayout;
    auto* head = new QLabel(tr("Show"), this);
    head->setProperty("head", true);
    row->addWidget(head);
    row->addSpacing(12);
    m_leaves = new LeafTabs(
        {{m_page, tr("Page"), tr("One page to take home: what is good, the one thing, its drill"), "leafPage"},
         {m_sheet, tr("Photo sheet"), tr("The key positions side by side"), "leafSheet"},
         {m_checklist, tr("Checklist"), tr("Every point of the movement: right, to work on, not seen"), "leafChecklist"},
         {m_walk, tr("Walk-through"), tr("The talk through the film, stop by stop: shown here, or written as a film"),
          "leafWalk"},
         {m_change, tr("What changed"), tr("Before and after: what has changed for real since the last page"), "leafChange"}},
        row, this);
    m_consent = new QLabel(this);
    m_consent->setObjectName(QStringLiteral("consentMissing"));
    m_consent->setTextFormat(Qt::PlainText);
    m_consent->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    m_consent->setWordWrap(true);
    row->addWidget(m_consent, 1);
    m_faces = new QComboBox(this);
    m_faces->setObjectName(QStringLiteral("faceHiding"));
    m_faces->addItem(tr("faces stay"), static_cast<int>(FaceHiding::Never));
    m_faces->addItem(tr("faces hidden without consent"), static_cast<int>(FaceHiding::WithoutConsent));
    m_faces->addItem(tr("faces hidden"), static_cast<int>(FaceHiding::Always));
    m_faces->setToolTip(
        tr("On everything that leaves: stills, page, sheet, checklist and film. What the program does not find, draw a "
           "circle round on the Bench and choose Hide."));
    m_faces->setCurrentIndex(m_faces->findData(static_cast<int>(Settings::faceHiding())));
    row->addWidget(m_faces);
    connect(m_faces, &QComboBox::activated, this, [this] {
        Settings::setFaceHiding(static_cast<FaceHiding>(m_faces->currentData().toInt()));
        refresh();
        for (DocumentLeaf* leaf : documents())
            leaf->outdate();
        m_walk->outdate();
    });
    layout->addLayout(row);
    layout->addWidget(m_leaves, 1);
    for (DocumentLeaf* leaf : documents())
        connect(leaf, &DocumentLeaf::message, this, &ShowView::message);
    connect(m_walk, &WalkView::message, this, &ShowView::message);
    connect(m_walk, &WalkView::benchWanted, this, &ShowView::benchWanted);
    connect(&bench.context, &ClipContext::markingChanged, this, &ShowView::refresh);
    connect(&Theme::instance(), &Theme::changed, this, &ShowView::refresh);
    refresh();
}

std::vector<DocumentLeaf*> ShowView::documents() const
{
    return {m_page, m_sheet, m_checklist, m_change};
}

void ShowView::turnTo(Leaf leaf)
{
    m_leaves->turnTo(static_cast<int>(leaf));
}

void ShowView::refresh()
{
    const auto& context = m_bench.context;
    m_consent->setStyleSheet(QStringLiteral("color:%1; font-weight:600").arg(colours().alert.name()));
    m_consent->setText(!context.isConsentMissing() ? QString()
                       : context.hidesFaces()      ? tr("No guardian has agreed yet: faces are hidden.")
                                                   : tr("No guardian has agreed yet: ask before anything leaves."));
    m_consent->setToolTip(m_consent->text());
}

} // namespace kestrel::app
