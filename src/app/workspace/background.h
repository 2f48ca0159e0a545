#pragma once

#include "core/base/stand_back.h"

#include <QCoreApplication>
#include <QObject>
#include <QPointer>
#include <QThreadPool>

#include <memory>
#include <stop_token>
#include <type_traits>

namespace kestrel::app {

/// One piece of work on another thread. Its result comes back to the context's thread, unless the context is gone or
/// the work was stopped. Copyable handle; dropping it does not stop the work.
class Background {
public:
    Background() = default;
    void stop() { m_stop.request_stop(); }

    /// \param work  called with a stop token on a pool thread; its result is handed to \p done on the context's thread
    template <class Work, class Done> static Background run(QObject* context, Work work, Done done)
    {
        Background handle;
        QPointer<QObject> alive(context);
        pool().start(
            [stop = handle.m_stop, alive, work = std::move(work), done = std::move(done)]() mutable {
                standBack();
                auto result = std::make_shared<std::invoke_result_t<Work, std::stop_token>>(work(stop.get_token()));
                QMetaObject::invokeMethod(
                    qApp,
                    [stop, alive, result, done = std::move(done)]() mutable {
                        if (alive && !stop.stop_requested())
                            done(std::move(*result));
                    },
                    Qt::QueuedConnection);
            });
        return handle;
    }

private:
    /// Not Qt's own pool: painting waits for a place in that one.
    static QThreadPool& pool();

    std::stop_source m_stop;
};

} // namespace kestrel::app
