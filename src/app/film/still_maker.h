#pragma once

#include "app/workspace/background.h"
#include "core/base/index.h"
#include "look/overlay.h"

#include <QImage>
#include <QObject>

#include <functional>
#include <string>
#include <vector>

namespace kestrel::app {

/// What a still shows.
struct StillWish {
    std::string file, knownIndex; ///< the film; as media::OpenOptions
    FrameIndex frame;
    std::vector<look::Overlay> overlays;
    look::Palette palette;
};

/// Makes one picture of a film, at the film's own size, with what is drawn over it: exactly that picture, whatever is on the screen.
/// Off the interface thread; a newer wish replaces one that is still being worked at.
class StillMaker : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    void make(StillWish, std::function<void(Expected<QImage>)> done);

private:
    Background m_work;
};

} // namespace kestrel::app
