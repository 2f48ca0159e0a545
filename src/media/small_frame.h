#pragma once

#include "media/decoded_frame.h"
#include "media/ffmpeg.h"
#include "media/picture.h"

namespace kestrel::media {

/// Room for the same picture at another size: planar 4:2:0, its colours meant as in \p like. Null without memory.
FramePtr makeSmallFrame(const AVFrame& like, PixelSize);

/// As it is kept in memory, and shared.
DecodedFrame keepFrame(FramePtr, bool isSmall);

} // namespace kestrel::media
