#pragma once

#include "core/scene/marking.h"

#include <string>
#include <vector>

namespace kestrel::vision {

/// What the body's marks say against the scene that the coach has set. Only what is plain; nothing is changed.
enum class SceneDoubt {
    BackForChest,   ///< the back is seen where this view shows the chest
    ChestForBack,   ///< the other way round
    OtherDirection, ///< the body goes left where the target is said to be right, or the other way round
    AcrossPicture,  ///< the body goes across the picture where the target is said to be away from the camera or toward it
    FromAbove,      ///< the program does not see bodies well from there, so that nothing else about them is asked
};

/// From the shoulders and hips of a whole repetition, on many pictures.
///
/// *Chest or back*: the right shoulder lies left of the left one where the chest is seen. The mean of that distance over all
/// pictures, in trunk lengths, counts from 0.3 on; turned square to the camera it is some 0.7. Not from above or diagonally.
/// *Way*: how far the middle of the hips has gone from the first tenth of the pictures to the last, in trunk lengths. A stride
/// toward the target, some two of them, counts from 0.6 on; across the picture where there should be none from 1 on. A camera
/// that follows the player shows none.
std::vector<SceneDoubt> doubtsAboutScene(const std::vector<Mark>&, const Scene&);

/// A sentence for the coach, with what may be the matter.
std::string textOf(SceneDoubt);

} // namespace kestrel::vision
