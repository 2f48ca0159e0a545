#pragma once

#include "core/base/index.h"
#include "vision/pose_reader.h"

#include <functional>
#include <optional>
#include <stop_token>
#include <string>
#include <string_view>
#include <vector>

namespace kestrel::vision {

/// A box that the coach drew round the player, pixels; without a size it is a click on the player.
struct PlayerBox {
    FrameIndex frame; ///< where it was drawn
    ImagePoint corner;
    double width = 0, height = 0;
    bool isClick() const { return width <= 0 || height <= 0; }
};

/// What finds the points of the body; the larger, the slower (models/README.md).
enum class BodyNetwork { Quick, Usual, Thorough };
std::string_view wordOf(BodyNetwork); ///< "quick", "usual", "thorough"
std::optional<BodyNetwork> findBodyNetwork(std::string_view);
/// Its file in the folder of the networks.
const char* fileOf(BodyNetwork);

struct TrackOptions {
    std::string models; ///< folder that holds the networks
    BodyNetwork body = BodyNetwork::Usual;
    FrameIndex first{0};
    std::optional<FrameIndex> last;
    std::optional<PlayerBox> player; ///< empty: the largest person
    std::string knownIndex;          ///< as media::OpenOptions
    /// Called after each picture: how many are done, of how many.
    std::function<void(std::int64_t, std::int64_t)> progress;
    std::stop_token stop;
};

/// The body on each picture of a stretch of film.
struct PoseTrack {
    FrameIndex first{0};
    BodyNetwork by = BodyNetwork::Usual;    ///< whose eyes these are
    std::vector<std::optional<Pose>> poses; ///< from the first on; empty: nobody seen there, or not looked at
    std::int64_t looked = 0;                ///< pictures that were looked at; fewer than poses when it was stopped
    std::vector<Error> damaged;             ///< pictures that could not be decoded

    std::int64_t seen() const;
};

/// Every second picture of a film is: the network sees a side of the body a little otherwise in a mirror.
constexpr bool isLookedAtMirrored(FrameIndex f)
{
    return f.value % 2 != 0;
}

/// Finds the player and follows the body from picture to picture, looking anew where it was lost. Two pictures are read at once,
/// while the next ones are decoded. Every second one is looked at mirrored, so that a point's way goes a little to and
/// fro: bodyMarks() brings it together. On a film's first pictures something else may be taken for the player: where much less of
/// a body was seen before the stretch on which it is seen best, those pictures are looked at again, backward from that stretch.
/// When it is stopped, what was done is given back: the beginning, or, with a player, what lies around the picture on which that
/// was chosen.
///
/// Errors: those of Film::open and of the networks, CannotOpen with the way to get it when the thorough one has not been
/// fetched; NotFound when nobody was seen on any picture, or where the coach clicked.
Expected<PoseTrack> trackPose(const std::string& film, const TrackOptions&);

} // namespace kestrel::vision
