#include "app/workspace/background.h"

#include <QThread>

#include <algorithm>

namespace kestrel::app {

namespace {

/// What takes long (marking, bringing in, exporting) never keeps what is short (judging, saving a clip) waiting.
constexpr int kAtOnce = 4;

} // namespace

QThreadPool& Background::pool()
{
    static QThreadPool* const pool = [] {
        auto* made = new QThreadPool(qApp); // waits for what is at work when the application ends
        made->setMaxThreadCount(std::max(kAtOnce, QThread::idealThreadCount()));
        return made;
    }();
    return *pool;
}

} // namespace kestrel::app
