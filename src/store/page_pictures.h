#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <optional>
#include <string>

namespace kestrel::store {

/// A picture that the coach put on the page of a filming day, such as a sum or two films together.
struct PagePicture {
    std::string file;  ///< its name in the library's folder of pictures
    std::string words; ///< below it
    bool operator==(const PagePicture&) const = default;
};

class PagePictures {
public:
    explicit PagePictures(const Database& database) : m_database(&database) {}

    Expected<std::optional<PagePicture>> of(DayId) const; ///< empty: none
    Expected<void> set(DayId, const std::optional<PagePicture>&);
    /// Whether it is on any page.
    Expected<bool> names(const std::string& file) const;

private:
    const Database* m_database;
};

} // namespace kestrel::store
