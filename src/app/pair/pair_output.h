#pragma once

#include "app/film/film_pictures.h"
#include "app/pair/pair_overlays.h"
#include "core/compare/differences.h"

#include <array>
#include <functional>

namespace kestrel::app {

enum class PairLayout { Beside, Above, Ghost };

/// How two films are put into one picture.
struct PairLook {
    PairLayout layout = PairLayout::Beside;
    double ghostShare = 0.5;
    bool hasBodyLines = false, hasGrid = false;
    std::string anchor = "midHip";
};

/// Puts pictures of two films together, as large as they come, with what is drawn on them. Decodes: not for the interface thread.
class PairPictures {
public:
    /// \param sides  outlive it
    PairPictures(const std::array<PairSide, 2>& sides, PairLook, std::stop_token);
    /// Null: one of the films cannot be read.
    QImage paint(FrameIndex a, FrameIndex b);
    std::vector<std::string> warnings() const;

private:
    const std::array<PairSide, 2>& m_sides;
    PairLook m_look;
    std::array<FilmPictures, 2> m_pictures;
};

/// How the films run in a clip.
struct PairRun {
    std::string at; ///< key position at which both stand together
    LineUp::By by = LineUp::By::RealTime;
    double offset = 0;   ///< pictures by which the second is moved besides
    double speed = 0.25; ///< of real time
};

/// Writes both as one film, .mp4 or .webm, from the first's first picture of the repetition to its last. Whole or not at all.
/// Errors: BadArgument for another ending, CannotOpen, CannotWrite, Cancelled. \param progress  0 to 1
Expected<std::vector<std::string>> savePairClip(const std::array<PairSide, 2>&, const Pack&, const PairLook&, const PairRun&,
                                                const std::string& file, const std::function<void(double)>& progress,
                                                std::stop_token);

} // namespace kestrel::app
