#include "vision/person_finder.h"

#include "vision/sigmoid.h"

#include <algorithm>
#include <array>
#include <numeric>

namespace kestrel::vision {

namespace {

constexpr int kSide = 224;          // pixels the network looks at
constexpr double kCertain = 0.5;    // a less certain person is none
constexpr double kSamePerson = 0.3; // boxes that share more of their area than that are of one person
constexpr std::size_t kRow = 12;    // numbers to a candidate: box, then four points

/// Grids of cells, each proposing so many candidates.
struct Grid {
    int cells, each;
};
constexpr Grid kGrids[] = {{28, 2}, {14, 2}, {7, 6}};
constexpr std::size_t kCandidates = 28 * 28 * 2 + 14 * 14 * 2 + 7 * 7 * 6;

/// A candidate in shares of the square that is looked at: box middle and size, the middle of the hips, the rim.
struct Candidate {
    double certainty = 0;
    std::array<double, 8> at{};
};

double overlap(const Candidate& a, const Candidate& b)
{
    const auto shared = [&](int axis) {
        const double low = std::max(a.at[axis] - a.at[axis + 2] / 2, b.at[axis] - b.at[axis + 2] / 2);
        const double high = std::min(a.at[axis] + a.at[axis + 2] / 2, b.at[axis] + b.at[axis + 2] / 2);
        return std::max(0.0, high - low);
    };
    const double both = shared(0) * shared(1);
    const double all = a.at[2] * a.at[3] + b.at[2] * b.at[3] - both;
    return all > 0 ? both / all : 0;
}

std::vector<Candidate> candidatesOf(std::span<const float> rows, std::span<const float> logits)
{
    std::vector<Candidate> found;
    std::size_t n = 0;
    for (const Grid& g : kGrids)
        for (int cell = 0; cell < g.cells * g.cells; ++cell)
            for (int k = 0; k < g.each; ++k, ++n) {
                const double certainty = sigmoid(logits[n]);
                if (certainty < kCertain)
                    continue;
                const double x = (cell % g.cells + 0.5) / g.cells, y = (cell / g.cells + 0.5) / g.cells;
                Candidate c{certainty, {}};
                for (std::size_t i = 0; i < c.at.size(); ++i) {
                    const bool isSize = i == 2 || i == 3;
                    c.at[i] = rows[n * kRow + i] / kSide + (isSize ? 0 : i % 2 == 0 ? x : y);
                }
                found.push_back(c);
            }
    std::sort(found.begin(), found.end(), [](const Candidate& a, const Candidate& b) { return a.certainty > b.certainty; });
    return found;
}

/// One candidate for each person: the mean of all that overlap the most certain one, weighted by certainty.
std::vector<Candidate> merged(std::vector<Candidate> all)
{
    std::vector<Candidate> people;
    while (!all.empty()) {
        const Candidate best = all.front();
        const auto others =
            std::stable_partition(all.begin(), all.end(), [&](const Candidate& c) { return overlap(best, c) > kSamePerson; });
        Candidate mean{best.certainty, {}};
        double weight = 0;
        for (auto c = all.begin(); c != others; ++c) {
            weight += c->certainty;
            for (std::size_t i = 0; i < mean.at.size(); ++i)
                mean.at[i] += c->certainty * c->at[i];
        }
        if (weight <= 0) // a box without area overlaps nothing, not even itself
            return people;
        for (double& v : mean.at)
            v /= weight;
        people.push_back(mean);
        all.erase(all.begin(), others);
    }
    return people;
}

} // namespace

Expected<PersonFinder> PersonFinder::load(const std::string& file)
{
    auto network = Network::load(file);
    if (!network)
        return tl::unexpected(network.error());
    if (network->input().size() != kSide * kSide * 3 || network->outputs() != 2 ||
        network->output(0).size() != kCandidates * kRow || network->output(1).size() != kCandidates)
        return fail(ErrorCode::BadArgument, "This is not the network that finds people.", file);
    return PersonFinder(std::move(*network));
}

Expected<PersonFinder> PersonFinder::another() const
{
    auto network = m_network.another();
    if (!network)
        return tl::unexpected(network.error());
    return PersonFinder(std::move(*network));
}

std::vector<Person> PersonFinder::find(const media::Picture& whole)
{
    const double side = std::max(whole.size.width, whole.size.height);
    return find(whole, {{whole.size.width / 2.0, whole.size.height / 2.0}, side, 0});
}

std::vector<Person> PersonFinder::find(const media::Picture& picture, const Region& within)
{
    sample(picture, within, kSide, Beyond::Black, -1, 1, m_network.input());
    std::vector<Person> people;
    if (!m_network.run())
        return people;
    for (const Candidate& c : merged(candidatesOf(m_network.output(0), m_network.output(1))))
        people.push_back({regionFrom(within.at(c.at[4], c.at[5]), within.at(c.at[6], c.at[7])),
                          {within.at(c.at[0], c.at[1]), std::max(c.at[2], c.at[3]) * within.side, 0},
                          c.certainty});
    std::sort(people.begin(), people.end(), [](const Person& a, const Person& b) { return a.region.side > b.region.side; });
    return people;
}

} // namespace kestrel::vision
