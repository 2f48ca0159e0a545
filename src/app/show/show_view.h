#pragma once

#include "app/bench/bench.h"
#include "app/shell/leaf_tabs.h"

#include <QComboBox>
#include <QLabel>
#include <QWidget>

namespace kestrel::app {

class ChangeView;
class ChecklistView;
class DocumentLeaf;
class PageView;
class SheetView;
class WalkView;

/// What is shown to players and families, made from what is on the bench: page, photo sheet, checklist, walk-through and what has
/// changed.
class ShowView : public QWidget {
    Q_OBJECT
public:
    ShowView(Workspace&, Bench&, QWidget* parent = nullptr);

    enum class Leaf { Page, Sheet, Checklist, Walk, Change };
    void turnTo(Leaf);

    PageView* page() const { return m_page; }
    SheetView* sheet() const { return m_sheet; }
    ChecklistView* checklist() const { return m_checklist; }
    WalkView* walk() const { return m_walk; }
    ChangeView* change() const { return m_change; }

signals:
    void benchWanted();
    void message(const QString& text);

private:
    void refresh();
    std::vector<DocumentLeaf*> documents() const;

    Bench& m_bench;
    QLabel* m_consent;
    QComboBox* m_faces;
    LeafTabs* m_leaves;
    PageView* m_page;
    SheetView* m_sheet;
    ChecklistView* m_checklist;
    WalkView* m_walk;
    ChangeView* m_change;
};

} // namespace kestrel::app
