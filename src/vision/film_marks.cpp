#include "vision/film_marks.h"

#include "vision/body_marks.h"
#include "vision/equipment_marks.h"

namespace kestrel::vision {

namespace {

constexpr double kFromAbove = 14; // times the sigma, as films simulated from there showed

} // namespace

std::vector<Mark> filmMarks(const std::string& film, const PoseTrack& track, const Pack& pack, Hand hand, View view,
                            const FrameClock& clock, const FollowOptions& options)
{
    std::vector<Mark> marks = bodyMarks(track, clock, view);
    if (pack.hasEquipment() && track.looked == static_cast<std::int64_t>(track.poses.size()))
        if (const auto equipment = equipmentMarks(film, marks, pack, hand, clock, options))
            marks.insert(marks.end(), equipment->begin(), equipment->end());
    if (view == View::Overhead) {
        std::erase_if(marks, [](const Mark& m) { return m.landmark.part == Part::Ball; });
        for (Mark& m : marks)
            m.sigma *= kFromAbove;
    }
    return marks;
}

} // namespace kestrel::vision
