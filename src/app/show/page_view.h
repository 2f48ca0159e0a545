#pragma once

#include "app/bench/bench.h"
#include "app/workspace/background.h"
#include "report/page.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QWidget>

namespace kestrel::app {

/// The page for the player, as it will be printed, and the way out of it.
class PageView : public QWidget {
    Q_OBJECT
public:
    PageView(Workspace&, Bench&, QWidget* parent = nullptr);

    /// Writes the page that is shown; says where, or why not.
    void save(const QString& file);
    bool isReady() const { return m_page.has_value(); }
    const std::optional<report::Page>& page() const { return m_page; }

signals:
    void message(const QString& text);
    void ready();

protected:
    void showEvent(QShowEvent*) override;
    void resizeEvent(QResizeEvent*) override;

private:
    void make();
    void showPicture();
    void chooseAndSave(const QString& ending);

    Workspace& m_workspace;
    Bench& m_bench;
    Background m_work;
    std::optional<report::Page> m_page;
    QImage m_picture;
    QLabel *m_sheet, *m_note;
    QComboBox* m_voice;
    QPushButton *m_pdf, *m_html;
    bool m_stale = true;
};

} // namespace kestrel::app
