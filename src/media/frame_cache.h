#pragma once

#include "core/base/index.h"
#include "media/decoded_frame.h"

#include <cstdint>
#include <map>
#include <mutex>

namespace kestrel::media {

/// Which way the coach travels through the film.
enum class Travel { Forward, Backward };

/// Decoded pictures around the playhead, under a ceiling of memory. What lies farthest from the playhead is first kept
/// small only and then let go; what lies behind counts as farther. While the coach goes forward as fast as pictures are
/// decoded, few are kept at full size behind: decoding into memory that has just been used is quicker, and what was
/// shown is there at the size of the screen. Safe to use from several threads.
class FrameCache {
public:
    explicit FrameCache(std::size_t ceiling) : m_ceiling(ceiling) {}

    void setCeiling(std::size_t bytes);
    /// Keeps so many pictures, those nearest to the one put last, and none small, whatever the ceiling; 0: as many as fit.
    void keepNearest(std::size_t pictures);
    std::size_t ceiling() const;
    std::size_t bytes() const; ///< held now
    /// How many pictures of the film fit at full size; a guess from those that are there, 0 while there are none.
    std::int64_t capacity() const;

    /// From where distances are counted.
    void setPlayhead(FrameIndex, Travel);
    void put(FrameIndex, DecodedFrame full);
    /// The planes a picture was shown from, to be kept once its full ones have gone. Ignored when they would save little.
    void putShrunk(FrameIndex, DecodedFrame small);
    /// The best there is of that picture; empty when there is none.
    DecodedFrame find(FrameIndex) const;
    bool hasFull(FrameIndex) const;
    /// One more picture ahead of the playhead would only take another one's place there.
    bool wouldPushOutAhead() const;
    enum class Gap { NotFull, Nothing }; ///< not there at full size, or not at all
    /// The first picture from \p from up to and without \p to that is missing in that way; \p to when none is. Walks down
    /// when \p to is smaller.
    std::int64_t firstGap(std::int64_t from, std::int64_t to, Gap gap = Gap::NotFull) const;
    void clear();

private:
    using Frames = std::map<std::int64_t, DecodedFrame>;
    std::size_t bytesTaken() const;
    double distance(std::int64_t) const;
    bool isAhead(std::int64_t) const;
    Frames::const_iterator farthest(const Frames&) const;
    Frames::iterator firstInBoth(std::int64_t before);
    void insert(Frames&, std::size_t& sum, std::int64_t, DecodedFrame);
    void erase(Frames&, std::size_t& sum, Frames::const_iterator);
    void shrink(std::unique_lock<std::mutex>&, Frames::const_iterator full);
    void makeRoom(std::unique_lock<std::mutex>&);

    mutable std::mutex m_mutex;
    std::size_t m_ceiling;
    std::size_t m_kept = 0; ///< pictures; 0: as many as fit
    Frames m_full, m_small; // a picture may be in both
    std::size_t m_fullBytes = 0, m_smallBytes = 0;
    std::size_t m_fullMost = 0; ///< that m_fullBytes has been, within its share
    std::int64_t m_playhead = 0;
    Travel m_travel = Travel::Forward;
};

} // namespace kestrel::media
