#pragma once

#include <QFile>
#include <QProcess>
#include <QStringList>

#include <cstdlib>
#include <filesystem>
#include <string>

namespace kestrel::bench {

/// A made film with movement and grain, so that it costs what a telephone's film costs.
inline std::string makeFilm(const char* name, const char* size, int rate, int seconds, int group)
{
    // kept beside the programs: making it takes longer than measuring with it
    const auto folder = std::filesystem::read_symlink("/proc/self/exe").parent_path().parent_path() / "bench-films";
    std::filesystem::create_directories(folder);
    const QString file = QString::fromStdString((folder / name).string());
    if (QFile::exists(file))
        return file.toStdString();
    QProcess ffmpeg;
    ffmpeg.start(QStringLiteral("ffmpeg"), {QStringLiteral("-v"),
                                            QStringLiteral("error"),
                                            QStringLiteral("-f"),
                                            QStringLiteral("lavfi"),
                                            QStringLiteral("-i"),
                                            QStringLiteral("testsrc2=size=%1:rate=%2:duration=%3,noise=alls=12:allf=t")
                                                .arg(QLatin1String(size))
                                                .arg(rate)
                                                .arg(seconds),
                                            QStringLiteral("-c:v"),
                                            QStringLiteral("libx264"),
                                            QStringLiteral("-preset"),
                                            QStringLiteral("veryfast"),
                                            QStringLiteral("-bf"),
                                            QStringLiteral("2"),
                                            QStringLiteral("-g"),
                                            QString::number(group),
                                            QStringLiteral("-keyint_min"),
                                            QString::number(group),
                                            QStringLiteral("-sc_threshold"),
                                            QStringLiteral("0"),
                                            QStringLiteral("-b:v"),
                                            QStringLiteral("17M"),
                                            QStringLiteral("-pix_fmt"),
                                            QStringLiteral("yuv420p"),
                                            file});
    if (!ffmpeg.waitForFinished(300'000) || ffmpeg.exitCode() != 0)
        std::abort();
    return file.toStdString();
}

/// Three hours at 30 pictures a second, key frames two seconds apart: a minute of a quiet picture, over and over. About 1 GB; who
/// asks removes it.
inline std::string makeThreeHours()
{
    const auto folder = std::filesystem::read_symlink("/proc/self/exe").parent_path().parent_path() / "bench-films";
    std::filesystem::create_directories(folder);
    const QString minute = QString::fromStdString((folder / "quiet_minute.mp4").string()),
                  whole = QString::fromStdString((folder / "three_hours.mp4").string());
    const auto run = [](const QStringList& words) {
        if (QProcess::execute(QStringLiteral("ffmpeg"),
                              QStringList{QStringLiteral("-v"), QStringLiteral("error"), QStringLiteral("-y")} + words) != 0)
            std::abort();
    };
    if (!QFile::exists(minute))
        run({QStringLiteral("-f"), QStringLiteral("lavfi"), QStringLiteral("-i"),
             QStringLiteral("testsrc2=size=1920x1080:rate=30:duration=60"), QStringLiteral("-c:v"), QStringLiteral("libx264"),
             QStringLiteral("-preset"), QStringLiteral("veryfast"), QStringLiteral("-crf"), QStringLiteral("32"),
             QStringLiteral("-g"), QStringLiteral("60"), QStringLiteral("-pix_fmt"), QStringLiteral("yuv420p"), minute});
    run({QStringLiteral("-stream_loop"), QStringLiteral("179"), QStringLiteral("-i"), minute, QStringLiteral("-c"),
         QStringLiteral("copy"), whole});
    return whole.toStdString();
}

} // namespace kestrel::bench
