#include "store/content_hash.h"

#include <QCryptographicHash>
#include <QDir>
#include <QDirIterator>
#include <QFile>
#include <QFileInfo>

namespace kestrel::store {

namespace {

Expected<void> addContent(QCryptographicHash& hash, const std::string& file, const std::stop_token& stop)
{
    QFile f(QString::fromStdString(file));
    if (!f.open(QIODevice::ReadOnly))
        return fail(ErrorCode::CannotOpen, "The file cannot be read: " + f.errorString().toStdString() + ".", file);
    constexpr qint64 kBlock = 1 << 20;
    while (!f.atEnd()) {
        if (stop.stop_requested())
            return fail(ErrorCode::Cancelled, "Stopped.", file);
        const QByteArray block = f.read(kBlock);
        if (block.isEmpty())
            return fail(ErrorCode::CannotOpen, "The file cannot be read to its end: " + f.errorString().toStdString() + ".",
                        file);
        hash.addData(block);
    }
    return {};
}

} // namespace

Expected<std::string> calcContentHash(const std::string& file, std::stop_token stop)
{
    QCryptographicHash hash(QCryptographicHash::Sha256);
    const QDir folder(QString::fromStdString(file));
    if (!QFileInfo(QString::fromStdString(file)).isDir()) {
        if (const auto done = addContent(hash, file, stop); !done)
            return tl::unexpected(done.error());
        return hash.result().toHex().toStdString();
    }
    const QStringList pictures{QStringLiteral("*.png"), QStringLiteral("*.jpg"), QStringLiteral("*.jpeg")};
    for (const QString& name : folder.entryList(pictures, QDir::Files, QDir::Name)) {
        hash.addData(name.toUtf8());
        if (const auto done = addContent(hash, folder.filePath(name).toStdString(), stop); !done)
            return tl::unexpected(done.error());
    }
    return hash.result().toHex().toStdString();
}

Expected<std::string> findByContent(const std::string& folder, const std::string& contentHash, std::stop_token stop)
{
    static const QStringList kFilms{QStringLiteral("*.mp4"), QStringLiteral("*.mov"),  QStringLiteral("*.m4v"),
                                    QStringLiteral("*.avi"), QStringLiteral("*.webm"), QStringLiteral("*.mkv"),
                                    QStringLiteral("*.mpg"), QStringLiteral("*.3gp")};
    QDirIterator files(QString::fromStdString(folder), kFilms, QDir::Files | QDir::Readable, QDirIterator::Subdirectories);
    while (files.hasNext()) {
        const std::string file = files.next().toStdString();
        const auto hash = calcContentHash(file, stop);
        if (hash && *hash == contentHash)
            return file;
        if (!hash && hash.error().code == ErrorCode::Cancelled)
            return hash;
    }
    return fail(ErrorCode::NotFound, "No film with the same content lies in this folder.", folder);
}

} // namespace kestrel::store
