#pragma once

#include "vision/network.h"
#include "vision/region.h"

#include <vector>

namespace kestrel::vision {

struct Person {
    Region region;
    double certainty = 0; ///< 0.5 to 1
};

/// Finds people in a picture. A person whose height is less than about a sixth of the picture's longer side is missed.
class PersonFinder {
public:
    /// Errors: those of Network::load; BadArgument when the network is another one.
    static Expected<PersonFinder> load(const std::string& file);

    /// The largest first.
    std::vector<Person> find(const media::Picture&);

private:
    explicit PersonFinder(Network network) : m_network(std::move(network)) {}
    Network m_network;
};

} // namespace kestrel::vision
