#pragma once

#include "app/show/shown_day.h"
#include "app/workspace/background.h"
#include "report/document.h"

#include <QBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QWidget>

namespace kestrel::app {

/// One leaf of Show: a document made of the day on the bench, as it will leave, and the ways out of it. It is made anew when what
/// it rests on has changed, on another thread.
class DocumentLeaf : public QWidget {
    Q_OBJECT
public:
    /// \param kind  "page": what the library keeps it as
    DocumentLeaf(Workspace&, Bench&, const QString& kind, QWidget* parent);

    bool isReady() const { return m_document.has_value(); }
    /// Writes the document that is shown, and keeps it as it left; says where, or why not.
    void save(const QString& file);
    void outdate(); ///< what it rests on has changed

signals:
    void message(const QString& text);
    void ready();

protected:
    struct Made {
        report::Document document;
        std::vector<std::string> warnings;
        std::function<void()> then{}; ///< done on the interface thread, once it is shown
    };
    using Maker = std::function<Expected<Made>(const store::Library&, const ShownDay&, std::stop_token)>;
    /// What makes it, with the leaf's choices as they are now.
    virtual Maker maker() = 0;
    virtual QString whatItIs() const = 0; ///< "one side of A4, as it will be printed"

    QBoxLayout* choices() { return m_choices; } ///< for the leaf's own, left of the ways out
    Bench& bench() { return m_bench; }
    Workspace& workspace() { return m_workspace; }

    void showEvent(QShowEvent*) override;
    void resizeEvent(QResizeEvent*) override;

private:
    struct Shown {
        Made made;
        QImage picture;
        store::SentRow sent;
    };
    QPushButton* makeWayOut(const QString& words, const QString& ending);
    void make();
    void showPicture();
    void chooseAndSave(const QString& ending);

    Workspace& m_workspace;
    Bench& m_bench;
    QString m_kind;
    Background m_work;
    std::optional<report::Document> m_document;
    store::SentRow m_sent; // of the document
    QImage m_picture;
    QBoxLayout* m_choices;
    QLabel *m_sheet, *m_note;
    std::vector<QPushButton*> m_waysOut;
    bool m_isStale = true;
};

} // namespace kestrel::app
