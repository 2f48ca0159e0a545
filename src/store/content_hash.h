#pragma once

#include "core/base/error.h"

#include <stop_token>
#include <string>

namespace kestrel::store {

/// SHA-256 of a file, or of all pictures in a folder, hexadecimal. Errors: CannotOpen, Cancelled.
Expected<std::string> calcContentHash(const std::string& file, std::stop_token stop = {});

/// Looks in a folder and below for a file of that content. NotFound when there is none; Cancelled.
Expected<std::string> findByContent(const std::string& folder, const std::string& contentHash, std::stop_token stop = {});

} // namespace kestrel::store
