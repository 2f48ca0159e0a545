#pragma once

#include "core/pack/pack.h"

#include <QComboBox>
#include <QDialog>
#include <QTextBrowser>

namespace kestrel::app {

/// How to film a skill next time: a page for each view, to read, save and send.
class FilmGuideWindow : public QDialog {
    Q_OBJECT
public:
    FilmGuideWindow(const Pack& pack, View view, QWidget* parent);

private:
    void refresh();
    void save();

    Pack m_pack;
    QComboBox* m_view;
    QTextBrowser* m_page;
    QString m_html;
};

} // namespace kestrel::app
