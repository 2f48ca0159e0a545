#include "cli/run.h"

#include <QGuiApplication>

#include <iostream>

namespace {

/// Standard error is for our own sentences; Qt's remarks about the machine are not among them.
void printSeriousOnly(QtMsgType type, const QMessageLogContext&, const QString& message)
{
    if (type == QtCriticalMsg || type == QtFatalMsg)
        std::cerr << message.toStdString() << "\n";
}

} // namespace

int main(int argc, char** argv)
{
    // Text and pages are drawn by Qt; no display is needed for that.
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    qInstallMessageHandler(printSeriousOnly);
    const QGuiApplication app(argc, argv);
    return kestrel::cli::run({argv + 1, argv + argc}, std::cout, std::cerr);
}
