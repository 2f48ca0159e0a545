#include "app/workspace/voices.h"

#include <QDir>

namespace kestrel::app {

QString voiceFolder(const store::Library& library)
{
    return QDir(QString::fromStdString(library.folder())).filePath(QStringLiteral("voices"));
}

void removeUnusedVoices(const store::Library& library)
{
    QDir folder(voiceFolder(library));
    if (library.isReadOnly() || !folder.exists())
        return;
    for (const QString& name : folder.entryList({QStringLiteral("*.wav")}, QDir::Files))
        if (const auto spoken = library.walks().speaksOf(name.toStdString()); spoken && !*spoken)
            folder.remove(name);
}

} // namespace kestrel::app
