#pragma once

#include "core/scene/drawing.h"
#include "vision/head_finder.h"

#include <string>
#include <vector>

namespace kestrel::vision {

/// Pixels of a picture that may be changed: rows from the top, four bytes a pixel, blue first.
struct PictureBits {
    std::uint8_t* bgra = nullptr;
    int stride = 0; ///< bytes from one row to the next
    media::PixelSize size;
};

/// Makes what is in a circle unrecognisable: a few blocks across, each of one mean colour, so that nothing of what was there can
/// be worked out from it.
void hide(PictureBits, const Head&);

/// Makes unrecognisable what must not be recognised on pictures that leave the program: what the coach drew to be hidden, and
/// faces where they are to be. For one thread.
class FaceHider {
public:
    /// \param models  folder of the networks   \param hidesFaces  false: only what was drawn is hidden, and no network is needed
    /// Errors: those of HeadFinder::load.
    static Expected<FaceHider> load(const std::string& models, bool hidesFaces);

    /// The athlete's head by its marks, and everybody else's that the network finds. A head that was
    /// seen a few pictures away on the same film, and is not found here, is hidden where it was. \param film  tells films apart
    /// \param marking, range  of the film's repetition; with its drawings
    void hide(PictureBits, const std::string& film, const Marking& marking, FrameRange range, FrameIndex);

    /// Pictures on which the athlete's head is not marked and no head was found.
    std::int64_t unsure() const { return m_unsure; }
    /// A sentence about them; empty: there are none.
    std::string warning() const;

private:
    struct Known {
        Head head; ///< in pixels of the film
        FrameIndex seenOn;
    };
    explicit FaceHider(std::optional<HeadFinder> finder) : m_finder(std::move(finder)) {}
    std::vector<Head> headsOn(const PictureBits&, const Marking&, FrameIndex, double scale);

    std::optional<HeadFinder> m_finder; // empty: faces stay
    std::string m_film;
    std::vector<Known> m_known;
    std::int64_t m_unsure = 0;
};

} // namespace kestrel::vision
