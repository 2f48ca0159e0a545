#pragma once

#include <cstdint>
#include <optional>
#include <string>

namespace kestrel::store {

/// What a file, or a folder of pictures, looks like without reading it.
struct FilmStamp {
    std::int64_t bytes = 0;
    std::int64_t modified = 0; ///< milliseconds since 1970
    bool operator==(const FilmStamp&) const = default;
};

/// Empty: there is no such file.
std::optional<FilmStamp> findFilmStamp(const std::string& file);

} // namespace kestrel::store
