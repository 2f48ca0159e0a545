#include "support/ffmpeg_films.h"

#include <QProcess>

#include <cstdio>

namespace kestrel::test {

std::string remade(const std::string& film, const QString& newFile, const QStringList& outputOptions,
                   const QStringList& inputOptions)
{
    QProcess ffmpeg;
    ffmpeg.start(QStringLiteral("ffmpeg"), QStringList{QStringLiteral("-y"), QStringLiteral("-v"), QStringLiteral("error")} +
                                               inputOptions + QStringList{QStringLiteral("-i"), QString::fromStdString(film)} +
                                               outputOptions + QStringList{newFile});
    if (!ffmpeg.waitForStarted() || !ffmpeg.waitForFinished(120'000) || ffmpeg.exitCode() != 0) {
        std::fprintf(stderr, "ffmpeg: %s\n", ffmpeg.readAllStandardError().constData());
        return {};
    }
    return newFile.toStdString();
}

} // namespace kestrel::test
