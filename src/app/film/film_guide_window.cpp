#include "app/film/film_guide_window.h"

#include "app/shell/file_dialogs.h"

#include "core/base/json_reader.h"
#include "report/film_guide.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace kestrel::app {

FilmGuideWindow::FilmGuideWindow(const Pack& pack, View view, QWidget* parent) : QDialog(parent), m_pack(pack)
{
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("How to film it"));
    resize(680, 640);
    auto* layout = new QVBoxLayout(this);
    auto* row = new QHBoxLayout;
    m_view = new QComboBox(this);
    for (const auto& place : m_pack.filming)
        m_view->addItem(QString::fromStdString(report::viewWords(place.view)), static_cast<int>(place.view));
    m_view->setCurrentIndex(std::max(0, m_view->findData(static_cast<int>(view))));
    auto* keep = new QPushButton(tr("Save as a web page…"), this);
    row->addWidget(m_view);
    row->addStretch();
    row->addWidget(keep);
    layout->addLayout(row);
    m_page = new QTextBrowser(this);
    m_page->setObjectName(QStringLiteral("guidePage"));
    layout->addWidget(m_page, 1);
    connect(m_view, &QComboBox::currentIndexChanged, this, &FilmGuideWindow::refresh);
    connect(keep, &QPushButton::clicked, this, &FilmGuideWindow::save);
    refresh();
}

void FilmGuideWindow::refresh()
{
    const auto guide = report::makeFilmGuide(m_pack, static_cast<View>(m_view->currentData().toInt()));
    m_html = QString::fromStdString(guide ? report::toHtml(*guide) : guide.error().text());
    m_page->setHtml(m_html);
}

void FilmGuideWindow::save()
{
    QString file =
        askWhereToSave(this, FilePurpose::Documents, tr("Save the page"), tr("how-to-film.html"), tr("Web page (*.html)"));
    if (file.isEmpty())
        return;
    if (const auto saved = saveText(file.toStdString(), m_html.toStdString()); !saved)
        m_page->setPlainText(QString::fromStdString(saved.error().text()));
}

} // namespace kestrel::app
