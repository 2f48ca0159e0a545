#include "core/read/time_order.h"

#include <algorithm>
#include <bit>
#include <cstdint>

namespace kestrel {

namespace {

constexpr std::size_t kMostPositions = 16; // ours have up to nine; what comes after is taken as it is

struct Placed {
    const KeyPosition* position;
    const Event* event;
};

/// In pack order; what the pack does not know is left out.
std::vector<Placed> placedIn(const Pack& pack, const std::vector<Event>& events)
{
    std::vector<Placed> placed;
    for (const auto& k : pack.keyPositions)
        for (const auto& e : events)
            if (e.keyPosition == k.id)
                placed.push_back({&k, &e});
    return placed;
}

/// \param a  comes before \p b in the pack
bool agree(const Placed& a, const Placed& b)
{
    const auto& free = a.position->anyOrderWith;
    if (std::find(free.begin(), free.end(), b.position->id) != free.end())
        return true;
    const bool areCoachs = a.event->source == Source::Coach && b.event->source == Source::Coach;
    const double slack = areCoachs ? 0 : a.event->uncertaintyFrames + b.event->uncertaintyFrames;
    return b.event->frame.value + slack >= a.event->frame.value;
}

/// For each, which of the others it contradicts, as bits.
std::vector<std::uint32_t> contradictions(const std::vector<Placed>& placed)
{
    std::vector<std::uint32_t> against(placed.size(), 0);
    for (std::size_t i = 0; i < placed.size(); ++i)
        for (std::size_t j = i + 1; j < placed.size(); ++j)
            if (!agree(placed[i], placed[j])) {
                against[i] |= 1u << j;
                against[j] |= 1u << i;
            }
    return against;
}

/// Those that belong to every largest set without a contradiction, as bits.
std::uint32_t believed(const std::vector<std::uint32_t>& against)
{
    int most = 0;
    std::uint32_t in = 0;
    for (std::uint32_t set = 0; set < 1u << against.size(); ++set) {
        const int size = std::popcount(set);
        if (size < most)
            continue;
        bool isSound = true;
        for (std::size_t i = 0; isSound && i < against.size(); ++i)
            isSound = !(set >> i & 1) || !(set & against[i]);
        if (!isSound)
            continue;
        in = size > most ? set : in & set;
        most = size;
    }
    return in;
}

} // namespace

std::vector<std::string> findOutOfOrder(const Pack& pack, const std::vector<Event>& events)
{
    auto placed = placedIn(pack, events);
    placed.resize(std::min(placed.size(), kMostPositions));
    const auto against = contradictions(placed);
    std::vector<std::string> wrong;
    if (std::all_of(against.begin(), against.end(), [](std::uint32_t a) { return a == 0; }))
        return wrong;
    const std::uint32_t in = believed(against);
    for (std::size_t i = 0; i < placed.size(); ++i)
        if (!(in >> i & 1))
            wrong.push_back(placed[i].position->id);
    return wrong;
}

std::string sentenceAboutOrder(const Pack& pack, const std::vector<Event>& events)
{
    const auto wrong = findOutOfOrder(pack, events);
    if (wrong.empty())
        return {};
    const auto placed = placedIn(pack, events);
    for (std::size_t i = 0; i < placed.size(); ++i) {
        if (std::find(wrong.begin(), wrong.end(), placed[i].position->id) == wrong.end())
            continue;
        for (std::size_t j = 0; j < placed.size(); ++j) {
            if (j < i && !agree(placed[j], placed[i]))
                return placed[i].position->name + " lies before " + placed[j].position->name +
                       ", which comes first in the movement.";
            if (j > i && !agree(placed[i], placed[j]))
                return placed[i].position->name + " lies after " + placed[j].position->name +
                       ", which comes later in the movement.";
        }
    }
    return placed.front().position->name + " is placed out of order.";
}

} // namespace kestrel
