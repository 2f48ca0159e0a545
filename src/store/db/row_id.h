#pragma once

#include <compare>
#include <cstdint>

namespace kestrel::store {

/// The number of a row of one table. Does not convert to other numbers or to another table's.
template <class Tag> struct RowId {
    constexpr RowId() = default;
    constexpr explicit RowId(std::int64_t v) : value(v) {}
    friend constexpr auto operator<=>(RowId, RowId) = default;
    constexpr bool isValid() const { return value > 0; }
    std::int64_t value = 0; ///< 0: not stored yet
};

using AthleteId = RowId<struct AthleteTag>;
using DayId = RowId<struct DayTag>;
using ClipId = RowId<struct ClipTag>;
using RepetitionId = RowId<struct RepetitionTag>;
using DrawingId = RowId<struct DrawingTag>;
using SentId = RowId<struct SentTag>;
using MatchId = RowId<struct MatchTag>;

} // namespace kestrel::store
