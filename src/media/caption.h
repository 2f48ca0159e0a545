#pragma once

#include "core/base/time.h"

#include <string>
#include <vector>

namespace kestrel::media {

/// Words that are shown for a while.
struct Caption {
    MediaTime from, to;
    std::string text;
    bool operator==(const Caption&) const = default;
};

/// As the two usual kinds of caption files, to lie beside a film.
std::string toSrt(const std::vector<Caption>&);
std::string toWebVtt(const std::vector<Caption>&);

} // namespace kestrel::media
