#pragma once

#include "core/scene/marking.h"
#include "vision/person_finder.h"

#include <optional>

namespace kestrel::vision {

/// A head on a picture.
struct Head {
    ImagePoint centre;                ///< pixels of the picture
    double radius = 0;                ///< of a circle that holds it, hair and all
    std::optional<ImagePoint> hips{}; ///< the middle of that person's hips; empty: not known
};

/// Whether a person who was found is the athlete whose head is marked: the heads are near each other, or what was taken for a
/// head lies on the athlete's trunk and the hips are about the athlete's. A face before the trunk, with hips elsewhere, is
/// somebody else's.
bool isTheAthlete(const Head& found, const Head& marked);

/// The athlete's head where it is marked on a picture: about the ears, else the nose. Empty: not marked there.
/// \param scale  pixels of the picture in one of the film
std::optional<Head> markedHead(const Marking&, FrameIndex, double scale);

/// Finds the heads of people who are large enough to be recognised: where the network that finds people is sure of one.
class HeadFinder {
public:
    /// Errors: those of PersonFinder::load.
    static Expected<HeadFinder> load(const std::string& folder);

    /// People who are far away are looked for in parts of the picture as well.
    std::vector<Head> find(const media::Picture&);

private:
    explicit HeadFinder(PersonFinder finder) : m_finder(std::move(finder)) {}
    PersonFinder m_finder;
};

} // namespace kestrel::vision
