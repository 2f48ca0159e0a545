#include "app/workspace/background.h"

#include <QCoreApplication>
#include <QThread>

#include <algorithm>

namespace kestrel::app {

namespace {

/// What takes long (marking, bringing in, exporting) never keeps what is short (judging, saving a clip) waiting.
constexpr int kAtOnce = 4;

} // namespace

QThreadPool& Background::pool()
{
    static QThreadPool pool;
    static const bool isReady = [] {
        pool.setMaxThreadCount(std::max(kAtOnce, QThread::idealThreadCount()));
        // what is at work hands its result to the application: it ends before the application is gone
        qAddPostRoutine([] { pool.waitForDone(); });
        return true;
    }();
    Q_UNUSED(isReady);
    return pool;
}

} // namespace kestrel::app
