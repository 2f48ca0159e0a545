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

/// Makes faces on pictures that leave the program unrecognisable: the athlete's by its marks, everybody's that the network finds,
/// and what the coach drew to be hidden. For one thread.
class FaceHider {
public:
    /// \param models  folder of the networks. Errors: those of HeadFinder::load.
    static Expected<FaceHider> load(const std::string& models);

    /// \param film  tells films apart: on a picture without anybody the last known heads of the same film are hidden
    /// \param marking, range  of the film's repetition; with its drawings
    void hide(PictureBits, const std::string& film, const Marking& marking, FrameRange range, FrameIndex);

    /// Pictures on which neither marks nor the network said where a head is.
    std::int64_t unsure() const { return m_unsure; }

private:
    explicit FaceHider(HeadFinder finder) : m_finder(std::move(finder)) {}

    HeadFinder m_finder;
    std::string m_film;
    std::vector<Head> m_last;
    std::int64_t m_unsure = 0;
};

} // namespace kestrel::vision
