#include "app/shell/theme.h"
#include "app/window/made_up_club.h"
#include "app/window/open_library.h"
#include "app/window/shots.h"
#include "core/pack/pack_folder.h"

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

/// Too little memory for one thing does not end the program.
class Application : public QApplication {
public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override
    {
        try {
            return QApplication::notify(receiver, event);
        } catch (const std::bad_alloc&) {
            std::cerr << "There was not enough memory for that; close other programs.\n";
            return true;
        }
    }
};

/// In a window of its own: the coach's library stays as it is.
void openMadeUpClub(app::MainWindow& over, const QString& folder)
{
    auto club = app::openLibrary(folder.toStdString(), shippedFolder("packs"));
    if (!club) {
        emit over.workspace().failed(club.error());
        return;
    }
    auto* window = club->release();
    window->setAttribute(Qt::WA_DeleteOnClose);
    window->setWindowTitle(app::MainWindow::tr("Jolly Kestrel: the made-up club"));
    window->show();
}

void showMadeUpClub(app::MainWindow& window)
{
    const QString folder = app::MadeUpClub::usualFolder();
    if (app::MadeUpClub::isThere(folder))
        return openMadeUpClub(window, folder);
    if (window.findChild<app::MadeUpClub*>())
        return; // it is being made
    auto* making = new app::MadeUpClub(folder, &window);
    QObject::connect(making, &app::MadeUpClub::ready, &window, [&window](const QString& made) { openMadeUpClub(window, made); });
    QObject::connect(making, &app::MadeUpClub::failed, &window, [&window](const Error& e) {
        if (e.code != ErrorCode::Cancelled)
            emit window.workspace().failed(e);
    });
}

} // namespace

int main(int argc, char** argv)
{
    Application application(argc, argv);
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
    app::Theme::instance().setDark(parser.isSet(darkOption));
    const auto opened = app::openLibrary(folder.toStdString(), shippedFolder("packs"));
    if (!opened)
        return refuse(opened.error());
    app::MainWindow& window = **opened;
    QObject::connect(&window, &app::MainWindow::demoWanted, &window, [&window] { showMadeUpClub(window); });
    if (parser.isSet(shotsOption)) {
        const auto taken = app::takeShots(window, parser.value(shotsOption));
        return taken ? 0 : refuse(taken.error());
    }
    window.show();
    return QApplication::exec();
}
