#include "vision/mark_film.h"

#include "core/scene/leg_scale.h"
#include "vision/body_marks.h"
#include "vision/film_marks.h"
#include "vision/find_repetitions.h"
#include "vision/propose.h"

#include <set>

namespace kestrel::vision {

namespace {

constexpr std::int64_t kBodyParts = 3, kEquipmentParts = 2; // what finding the body takes, and what is held and flies

/// The coach's marks and what was followed from them, and beside these the program's.
void addMarks(Marking& whole, const std::vector<Mark>& found, const FrameRange& frames)
{
    std::erase_if(whole.marks, [&](const Mark& m) { return !frames.contains(m.frame) || m.source > Source::Tracked; });
    std::set<std::pair<std::int64_t, Landmark>> own;
    for (const auto& m : whole.marks)
        own.emplace(m.frame.value, m.landmark);
    for (const auto& m : found)
        if (own.count({m.frame.value, m.landmark}) == 0)
            whole.marks.push_back(m);
}

SeenRepetition seenIn(const FrameRange& frames, Marking whole, const Pack& pack, const FrameClock& clock)
{
    std::erase_if(whole.marks, [&](const Mark& m) { return !frames.contains(m.frame); });
    std::erase_if(whole.events,
                  [&](const Event& e) { return e.frame < FramePosition(frames.first) || e.frame > FramePosition(frames.last); });
    return {frames, proposalsOf(proposeKeyPositions(pack, whole, clock))};
}

} // namespace

std::vector<Event> proposalsOf(const std::vector<Detection>& detections)
{
    std::vector<Event> proposed;
    for (const auto& d : detections)
        if (d.frame)
            proposed.push_back({d.keyPosition, *d.frame, d.uncertaintyFrames, Source::Network});
    return proposed;
}

Expected<MarkedFilm> markFilm(const std::string& film, const Pack& pack, const Marking& known, const FrameClock& clock,
                              TrackOptions options, bool mayBeSeveral)
{
    const auto progress = options.progress;
    const std::int64_t parts = kBodyParts + (pack.hasEquipment() ? kEquipmentParts : 0);
    const auto tell = [&](std::int64_t done, std::int64_t of) {
        if (progress)
            progress(done, parts * of);
    };
    options.progress = [&](std::int64_t done, std::int64_t of) { tell(kBodyParts * done, of); };
    const auto track = trackPose(film, options);
    if (!track)
        return tl::unexpected(track.error());
    const FrameRange frames{options.first, options.last.value_or(FrameIndex(clock.frames() - 1))};
    MarkedFilm found;
    found.seen = track->seen();
    found.of = static_cast<std::int64_t>(track->poses.size());
    found.looked = track->looked;
    found.isDamaged = !track->damaged.empty();
    found.marks = filmMarks(film, *track, pack, known.athlete.hand, known.scene.view, clock,
                            {frames.first, frames.last, options.knownIndex,
                             [&](std::int64_t done, std::int64_t of) { tell(kBodyParts * of + kEquipmentParts * done, of); },
                             options.stop});
    Marking whole = known;
    if (!whole.scene.scale && whole.athlete.heightMetres)
        whole.scene.scale = found.scale = scaleFromHeight(found.marks, whole.scene.view, *whole.athlete.heightMetres);
    addMarks(whole, found.marks, frames);
    if (whole.scene.view != View::Overhead) // from there hands are taken for feet
        found.fasterHand = fasterHand(found.marks, clock);
    if (found.looked < found.of) // half a film has other extremes
        return found;
    if (mayBeSeveral)
        for (const auto& range : findRepetitions(whole.marks, clock))
            found.repetitions.push_back(seenIn(range, whole, pack, clock));
    if (found.repetitions.size() > 1) // between repetitions the player goes anywhere
        return found;
    found.doubts = doubtsAboutScene(found.marks, known.scene);
    found.positions = proposeKeyPositions(pack, whole, clock);
    return found;
}

} // namespace kestrel::vision
