#include "app/shell/file_dialogs.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QRegularExpression>
#include <QSettings>
#include <QStandardPaths>

namespace kestrel::app {

namespace {

QSettings settings()
{
    return QSettings(QSettings::IniFormat, QSettings::UserScope, QStringLiteral("jolly-kestrel"), QStringLiteral("settings"));
}

QString keyOf(FilePurpose purpose)
{
    switch (purpose) {
    case FilePurpose::Films:
        return QStringLiteral("folders/films");
    case FilePurpose::FindFilm:
        return QStringLiteral("folders/find-film");
    case FilePurpose::Documents:
        return QStringLiteral("folders/documents");
    case FilePurpose::Packs:
        break;
    }
    return QStringLiteral("folders/packs");
}

} // namespace

QString rememberedFolder(FilePurpose purpose)
{
    const QString usual = QStandardPaths::writableLocation(purpose == FilePurpose::Films || purpose == FilePurpose::FindFilm
                                                               ? QStandardPaths::MoviesLocation
                                                               : QStandardPaths::DocumentsLocation);
    const QString kept = settings().value(keyOf(purpose)).toString();
    return !kept.isEmpty() && QFileInfo(kept).isDir() ? kept : usual;
}

void rememberFolderOf(FilePurpose purpose, const QString& file)
{
    if (!file.isEmpty())
        settings().setValue(keyOf(purpose), QFileInfo(file).isDir() ? file : QFileInfo(file).absolutePath());
}

QString fileNameFor(const QString& name)
{
    static const QRegularExpression kNotInNames(QStringLiteral("[/\\\\:*?\"<>|\\x00-\\x1f]"));
    QString good = name;
    good.replace(kNotInNames, QStringLiteral("-"));
    while (good.startsWith(QLatin1Char('.')))
        good.remove(0, 1);
    constexpr qsizetype kLongestName = 80; // letters; with what is added it stays below a file system's 255 bytes
    return good.left(kLongestName).trimmed();
}

QStringList askForFiles(QWidget* parent, FilePurpose purpose, const QString& title, const QString& filter)
{
    const QStringList files = QFileDialog::getOpenFileNames(parent, title, rememberedFolder(purpose), filter);
    if (!files.isEmpty())
        rememberFolderOf(purpose, files.front());
    return files;
}

QString askForFile(QWidget* parent, FilePurpose purpose, const QString& title, const QString& filter)
{
    const QString file = QFileDialog::getOpenFileName(parent, title, rememberedFolder(purpose), filter);
    rememberFolderOf(purpose, file);
    return file;
}

QString askForFolder(QWidget* parent, FilePurpose purpose, const QString& title)
{
    const QString folder = QFileDialog::getExistingDirectory(parent, title, rememberedFolder(purpose));
    rememberFolderOf(purpose, folder);
    return folder;
}

QString askWhereToSave(QWidget* parent, FilePurpose purpose, const QString& title, const QString& name, const QString& filter)
{
    const QString start = QDir(rememberedFolder(purpose)).filePath(fileNameFor(name));
    const QString file = QFileDialog::getSaveFileName(parent, title, start, filter);
    rememberFolderOf(purpose, file);
    return file;
}

QString filmFilter()
{
    return QCoreApplication::translate("FileDialogs", "Films (*.mp4 *.mov *.m4v *.avi *.webm *.mkv *.mpg *.3gp);;All files (*)");
}

} // namespace kestrel::app
