#include "vision/head_finder.h"

#include "core/base/segment.h"

#include <algorithm>

namespace kestrel::vision {

namespace {

constexpr const char* kFinderNetwork = "/pose_detection.tflite";
constexpr double kOfNeck = 0.85;     // radius of a head: of the way from its middle to the shoulders'
constexpr double kOfPicture = 0.025; // at least, of the picture's height
constexpr double kRoom = 0.75;       // of the face's box, from its middle: hair, ears and chin
constexpr double kOfBody = 0.14;     // at most, of the square about the whole body: the box is often as wide as the shoulders

// Radii of the marked head within which a found head or the trunk it lies on, and the hips, are the athlete's.
constexpr double kSameHead = 1.5, kSameHips = 3;

} // namespace

bool isTheAthlete(const Head& found, const Head& marked)
{
    if ((found.centre - marked.centre).length() < kSameHead * marked.radius)
        return true;
    return found.hips && marked.hips && (*found.hips - *marked.hips).length() < kSameHips * marked.radius &&
           distanceToSegment(found.centre, marked.centre, *marked.hips) < kSameHead * marked.radius;
}

std::optional<Head> markedHead(const Marking& m, FrameIndex frame, double scale)
{
    const auto middle = [&](Part part) -> std::optional<ImagePoint> {
        const Mark* left = findMark(m, frame, {part, BodySide::Left, {}});
        const Mark* right = findMark(m, frame, {part, BodySide::Right, {}});
        if (left && right)
            return midpoint(left->at, right->at);
        return left ? std::optional(left->at) : right ? std::optional(right->at) : std::nullopt;
    };
    auto centre = middle(Part::Ear);
    if (const Mark* nose = findMark(m, frame, {Part::Nose, BodySide::None, {}}); !centre && nose)
        centre = nose->at;
    if (!centre)
        return std::nullopt;
    const auto shoulders = middle(Part::Shoulder);
    const double radius = shoulders ? kOfNeck * (*shoulders - *centre).length() : kOfPicture * m.film.height;
    Head head{{centre->x * scale, centre->y * scale}, std::max(radius, kOfPicture * m.film.height) * scale};
    if (const auto hips = middle(Part::Hip))
        head.hips = ImagePoint{hips->x * scale, hips->y * scale};
    return head;
}

Expected<HeadFinder> HeadFinder::load(const std::string& folder)
{
    auto finder = PersonFinder::load(folder + kFinderNetwork);
    if (!finder)
        return tl::unexpected(finder.error());
    return HeadFinder(std::move(*finder));
}

std::vector<Head> HeadFinder::find(const media::Picture& picture)
{
    const double width = picture.size.width, height = picture.size.height;
    const double longer = std::max(width, height), shorter = std::min(width, height);
    // the whole picture, then squares along its longer side in which somebody is seen larger
    std::vector<Region> within{{{width / 2, height / 2}, longer, 0}};
    for (double at = shorter / 2; at <= longer - shorter / 2 + 1; at += std::max(1.0, (longer - shorter) / 2))
        within.push_back({width >= height ? ImagePoint{at, height / 2} : ImagePoint{width / 2, at}, shorter, 0});
    std::vector<Head> heads;
    for (const auto& region : within)
        for (const auto& person : m_finder.find(picture, region)) {
            const Head head{person.head.centre, std::min(kRoom * person.head.side, kOfBody * person.region.side),
                            person.region.centre};
            const auto same = std::find_if(heads.begin(), heads.end(), [&](const Head& h) {
                return (h.centre - head.centre).length() < std::max(h.radius, head.radius);
            });
            if (same == heads.end())
                heads.push_back(head);
            else
                same->radius = std::max(same->radius, head.radius);
        }
    return heads;
}

} // namespace kestrel::vision
