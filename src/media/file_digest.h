#pragma once

#include "core/base/error.h"

#include <string>

namespace kestrel::media {

/// SHA-256 of a file's content, in small hexadecimal digits. Errors: CannotOpen.
Expected<std::string> calcSha256(const std::string& file);

} // namespace kestrel::media
