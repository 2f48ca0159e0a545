#include "vision/film_marks.h"

#include "vision/body_marks.h"
#include "vision/implement_marks.h"

namespace kestrel::vision {

std::vector<Mark> filmMarks(const std::string& film, const PoseTrack& track, const Pack& pack, Hand hand, const FrameClock& clock,
                            const FollowOptions& options)
{
    std::vector<Mark> marks = bodyMarks(track, clock);
    if (pack.implement && track.looked == static_cast<std::int64_t>(track.poses.size()))
        if (const auto held = implementMarks(film, marks, *pack.implement, hand, clock, options))
            marks.insert(marks.end(), held->begin(), held->end());
    return marks;
}

} // namespace kestrel::vision
