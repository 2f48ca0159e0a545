#pragma once

#include "vision/network.h"
#include "vision/region.h"

#include <vector>

namespace kestrel::vision {

struct Person {
    Region region;
    Region head;          ///< upright, about the face
    double certainty = 0; ///< 0.5 to 1
};

/// Finds people in a picture. A person whose height is less than about a sixth of the picture's longer side is missed.
class PersonFinder {
public:
    /// Errors: those of Network::load; BadArgument when the network is another one.
    static Expected<PersonFinder> load(const std::string& file);
    /// The same for another thread, as Network::another().
    Expected<PersonFinder> another() const;

    /// The largest first. \param within  the part of the picture that is looked at, an upright square
    std::vector<Person> find(const media::Picture&, const Region& within);
    std::vector<Person> find(const media::Picture& whole);

private:
    explicit PersonFinder(Network network) : m_network(std::move(network)) {}
    Network m_network;
};

} // namespace kestrel::vision
