#pragma once

#include "core/base/geometry.h"
#include "core/base/index.h"
#include "core/base/time.h"
#include "core/scene/drawing.h"
#include "core/scene/landmark.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// Where the camera stands, seen from the athlete at address.
enum class View {
    Side,     ///< chest to the camera
    SideBack, ///< back to the camera
    Front,    ///< from the target
    Rear,     ///< behind the athlete, looking down the target line
    Overhead,
    Diagonal, ///< about 45 degrees; few readings hold
};

/// From either side of the target line: what lies along it is seen.
constexpr bool isFromSide(View v)
{
    return v == View::Side || v == View::SideBack;
}
/// From one of the target line's ends: what lies across it is seen.
constexpr bool isFromEnd(View v)
{
    return v == View::Front || v == View::Rear;
}

/// While an athlete stands as at address.
constexpr bool showsChest(View v)
{
    return v == View::Side || v == View::Front;
}
constexpr bool showsBack(View v)
{
    return v == View::SideBack || v == View::Rear;
}

/// Metres, for thresholds and drawing where an athlete's height is not known; never for a reading.
inline constexpr double kUsualHeight = 1.6;

/// Where the target lies in the picture.
enum class TargetDirection { Left, Right, Away, Toward };

/// Who or what made a mark or an event. Ordered by trust: a later one never replaces an earlier one.
enum class Source { Coach, Tracked, Network, Simulated };
/// Whether a program saw it on film.
constexpr bool isByProgram(Source s)
{
    return s == Source::Tracked || s == Source::Network;
}

/// A known length at the athlete's distance.
struct Scale {
    ImagePoint from, to;
    double metres = 0;
    bool operator==(const Scale&) const = default;
};

/// A place on the ground whose distances are known: a corner of the court, where two lines cross.
struct GroundMark {
    ImagePoint at;
    double x = 0, y = 0; ///< metres, along the court's own lines
    bool operator==(const GroundMark&) const = default;
};

/// How pixels become body coordinates.
struct Scene {
    View view = View::Side;
    TargetDirection target = TargetDirection::Right;
    ImageVector up{0, -1};      ///< against gravity, any length > 0
    std::optional<Scale> scale; ///< without it only angles and times can be read
    std::vector<GroundMark>
        ground; ///< from four on they give the ground's plane (core/scene/ground_plane.h); none: it is not known
    bool operator==(const Scene&) const = default;
};

struct FilmFacts {
    std::string file; ///< as written in the marking; relative to the marking's folder
    int width = 0, height = 0;
    std::int64_t frames = 0;
    bool operator==(const FilmFacts&) const = default;
};

/// Pictures per second when filmed and when shown; their ratio is the slow-motion factor.
struct Rates {
    double capture = 0, playback = 0;
    double slowFactor() const { return capture > 0 && playback > 0 ? capture / playback : 1.0; }
    bool operator==(const Rates&) const = default;
};

struct AthleteFacts {
    Hand hand = Hand::Right;
    std::optional<double> heightMetres;
    std::optional<double> age; ///< years
    bool operator==(const AthleteFacts&) const = default;
};

/// A key position found on the film.
struct Event {
    std::string keyPosition;
    FramePosition frame;
    double uncertaintyFrames = 0.5; ///< the true instant lies evenly spread within +- this many frames
    Source source = Source::Coach;
    bool operator==(const Event&) const = default;
};

struct Mark {
    FrameIndex frame;
    Landmark landmark;
    ImagePoint at;
    double sigma = 0; ///< one standard deviation, pixels, in each direction
    Source source = Source::Coach;
    bool visible = true; ///< whether the camera can see the point
    bool operator==(const Mark&) const = default;
};

/// Everything noted on one repetition's film: the input of all readings.
struct Marking {
    FilmFacts film;
    Rates clock;
    Scene scene;
    AthleteFacts athlete;
    std::string skill;   ///< pack id; may be empty
    std::string variant; ///< "windup", "stretch" ...; may be empty
    bool isLive = true;  ///< false: a shadow swing, without a ball
    std::string outcome; ///< where the ball went, in the coach's words; may be empty
    std::vector<Event> events;
    std::vector<Mark> marks;
    std::map<std::string, std::string> answers; ///< to the pack's observations: id of the observation -> id of the choice
    std::vector<Drawing> drawings;              ///< in files; the library keeps them by themselves
    std::vector<std::string> unknownDrawings;   ///< of kinds that this version does not know, as JSON: written again as they were
    bool operator==(const Marking&) const = default;
};

const Event* findEvent(const Marking&, std::string_view keyPosition);
const Mark* findMark(const Marking&, FrameIndex, const Landmark&);

/// Adds the event or replaces the one of the same key position. False, and nothing done, when that would replace a
/// coach's event by a program's.
bool setEvent(Marking&, const Event&);
/// Adds the mark or replaces the one of the same frame and landmark. False, and nothing done, when that would replace
/// a coach's mark by a program's.
bool setMark(Marking&, const Mark&);

std::string_view wordOf(View);
/// "side back": how a view is called before "view" in a sentence.
std::string plainWordsOf(View);
std::string_view wordOf(TargetDirection);
std::string_view wordOf(Source);
std::string_view wordOf(Hand);
std::optional<View> findView(std::string_view);
std::optional<TargetDirection> findTargetDirection(std::string_view);
std::optional<Source> findSource(std::string_view);
std::optional<Hand> findHand(std::string_view);

/// Which side of the picture the target lies on (or how deep) when this athlete is filmed from there.
/// \param leadIsDom  the dominant side is nearer the target, as in a backhand
TargetDirection usualTargetDirection(View, Hand, bool leadIsDom = false);

} // namespace kestrel
