#pragma once

#include "core/base/error.h"
#include "core/base/stand_back.h"

#include <QCoreApplication>
#include <QObject>
#include <QPointer>
#include <QThreadPool>

#include <memory>
#include <new>
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
        pool().start([stop = handle.m_stop, alive, work = std::move(work), done = std::move(done)]() mutable {
            standBack();
            const auto result = resultOf(work, stop.get_token());
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
    /// Too little memory ends the work, not the program: it fails, or gives an empty result where it cannot.
    template <class Work> static auto resultOf(Work& work, const std::stop_token& stop)
    {
        using Result = std::invoke_result_t<Work, std::stop_token>;
        try {
            return std::make_shared<Result>(work(stop));
        } catch (const std::bad_alloc&) {
            if constexpr (std::is_constructible_v<Result, tl::unexpected<Error>>)
                return std::make_shared<Result>(tl::unexpected(Error{
                    ErrorCode::BadArgument, "This needs more memory than the computer has free; nothing was changed.", {}, {}}));
            else
                return std::make_shared<Result>();
        }
    }

    /// Not Qt's own pool: painting waits for a place in that one.
    static QThreadPool& pool();

    std::stop_source m_stop;
};

} // namespace kestrel::app
