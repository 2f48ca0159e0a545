#pragma once

#include <QCoreApplication>
#include <QPointer>

#include <functional>
#include <memory>

namespace kestrel::app {

/// What work on another thread calls to say how far it is, 0 to 1. \p tell hears of it on the interface thread, with per cent and
/// no more often than every \p step per cent, as long as the owner lives.
template <class Owner, class Tell> std::function<void(double)> tellProgress(Owner* owner, int step, Tell tell)
{
    return [owner = QPointer<Owner>(owner), step, tell = std::move(tell), last = std::make_shared<int>(-1)](double share) {
        const int percent = static_cast<int>(100 * share);
        if (percent / step == *last)
            return;
        *last = percent / step;
        QMetaObject::invokeMethod(
            qApp,
            [owner, tell, percent] {
                if (owner)
                    tell(percent);
            },
            Qt::QueuedConnection);
    };
}

} // namespace kestrel::app
