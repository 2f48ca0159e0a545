#include "app/workspace/own_files.h"

#include "look/film_image.h"

#include <QDir>
#include <QUuid>

namespace kestrel::app {

namespace {

QString folderOf(const store::Library& library, const QString& name)
{
    return QDir(QString::fromStdString(library.folder())).filePath(name);
}

} // namespace

QString voiceFolder(const store::Library& library)
{
    return folderOf(library, QStringLiteral("voices"));
}

QString pictureFolder(const store::Library& library)
{
    return folderOf(library, QStringLiteral("pictures"));
}

Expected<std::string> keepPicture(const QString& folder, const QImage& image)
{
    QDir().mkpath(folder);
    const QString name = QUuid::createUuid().toString(QUuid::WithoutBraces) + QStringLiteral(".png");
    return look::saveImage(image, QDir(folder).filePath(name).toStdString()).map([&] { return name.toStdString(); });
}

void removeUnusedFiles(const store::Library& library)
{
    if (library.isReadOnly())
        return;
    for (QDir folder : {QDir(voiceFolder(library)), QDir(pictureFolder(library))})
        for (const QString& name : folder.entryList({QStringLiteral("*.wav"), QStringLiteral("*.png")}, QDir::Files)) {
            const auto inTalk = library.walks().names(name.toStdString()),
                       onPage = library.pagePictures().names(name.toStdString());
            if (inTalk && onPage && !*inTalk && !*onPage)
                folder.remove(name);
        }
}

} // namespace kestrel::app
