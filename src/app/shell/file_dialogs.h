#pragma once

#include <QString>
#include <QStringList>

class QWidget;

namespace kestrel::app {

/// File dialogs that open where the last one of the same purpose was left, in this and in earlier sessions.
enum class FilePurpose { Films, FindFilm, Documents, Packs };

QStringList askForFiles(QWidget*, FilePurpose, const QString& title, const QString& filter);
QString askForFile(QWidget*, FilePurpose, const QString& title, const QString& filter);
QString askForFolder(QWidget*, FilePurpose, const QString& title);
/// \param name  proposed, without a folder; characters that cannot stand in a file's name are replaced
QString askWhereToSave(QWidget*, FilePurpose, const QString& title, const QString& name, const QString& filter = {});

/// What askWhereToSave makes of a name: "a/b" becomes "a-b".
QString fileNameFor(const QString& name);
/// Where a dialog of that purpose begins.
QString rememberedFolder(FilePurpose);
/// \param file  a file, or a folder when it ends in a slash
void rememberFolderOf(FilePurpose, const QString& file);

/// Film files by their usual endings, for dialogs.
QString filmFilter();

} // namespace kestrel::app
