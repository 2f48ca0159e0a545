// The application a benchmark of the window runs in: without a monitor unless one is asked for, and with the light look.

#pragma once

#include "app/shell/theme.h"

#include <QApplication>
#include <benchmark/benchmark.h>

namespace kestrel::bench {

/// Runs the benchmarks of this program. `beforeEnd` puts away what must not outlive the application.
template <typename BeforeEnd> void runInWindow(int& argc, char** argv, BeforeEnd beforeEnd)
{
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    QApplication::setStyle(QStringLiteral("Fusion"));
    app::Theme::instance().setDark(false);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    beforeEnd();
}

} // namespace kestrel::bench
