#include "app/main_window.h"
#include "app/shots.h"
#include "app/theme.h"
#include "core/pack_folder.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QDir>
#include <QStandardPaths>

#include <iostream>

using namespace kestrel;

namespace {

/// Says on the terminal what could not be done; there is no window yet to say it in.
int refuse(const Error& e)
{
    std::cerr << e.text() << "\n";
    return 2;
}

} // namespace

int main(int argc, char** argv)
{
    QApplication application(argc, argv);
    QApplication::setApplicationName(QStringLiteral("jolly-kestrel"));
    QApplication::setApplicationDisplayName(QStringLiteral("Jolly Kestrel"));
    QApplication::setApplicationVersion(QStringLiteral(KESTREL_VERSION));
    QApplication::setStyle(QStringLiteral("Fusion"));

    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral("Film reading for coaches of bat, racket and ball sports."));
    parser.addHelpOption();
    parser.addVersionOption();
    const QCommandLineOption libraryOption(QStringLiteral("library"),
                                           QStringLiteral("Folder of the library; made when it does not exist."),
                                           QStringLiteral("folder"));
    const QCommandLineOption darkOption(QStringLiteral("dark"), QStringLiteral("Dark instead of light."));
    const QCommandLineOption shotsOption(QStringLiteral("shots"),
                                         QStringLiteral("Take a picture of each view into this folder and leave."),
                                         QStringLiteral("folder"));
    parser.addOptions({libraryOption, darkOption, shotsOption});
    parser.process(application);

    const QString folder =
        parser.isSet(libraryOption)
            ? parser.value(libraryOption)
            : QDir(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation)).filePath(QStringLiteral("library"));
    auto library = store::Library::open(folder.toStdString());
    if (!library)
        return refuse(library.error());
    app::Theme::instance().setDark(parser.isSet(darkOption));
    app::MainWindow window(std::move(*library), shippedFolder("packs"));
    if (parser.isSet(shotsOption)) {
        const auto taken = app::takeShots(window, parser.value(shotsOption));
        return taken ? 0 : refuse(taken.error());
    }
    window.show();
    return QApplication::exec();
}
