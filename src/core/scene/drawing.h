#pragma once

#include "core/base/geometry.h"
#include "core/base/index.h"
#include "core/scene/landmark.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kestrel {

/// What a coach draws on a film.
enum class DrawingKind {
    Line,
    Arrow,
    Path,   ///< points joined in order
    Circle, ///< about the first point; `radius` says how far
    Box,    ///< from corner to corner
    Angle,  ///< at the second of three points
    Wedge,  ///< between the line of the first two points and that of the last two
    Level,  ///< through a point, square to the scene's up
    Plumb,  ///< through a point, along the scene's up
    Grid,   ///< on the ground where it is known, else level about a point
    Clock,  ///< a face about a point, the other way round for left-handers
    Label,  ///< `text` beside a point
    Trail,  ///< where a landmark was on each picture, a dot a picture
    Strobe, ///< what moves on every `every`th picture of its stretch, laid into one picture
};

/// An end of a drawing: on the picture, where it stays, or on a landmark, which it follows.
struct Pin {
    ImagePoint at;                    ///< pixels of the upright picture; of a landmark, where it was when it was pinned
    std::optional<Landmark> landmark; ///< empty: the picture
    bool operator==(const Pin&) const = default;
};

/// On which pictures a drawing is seen.
struct Lives {
    enum class On { Stretch, KeyPosition, Repetition };
    On on = On::Stretch;
    FrameRange stretch;      ///< one picture where both ends are the same
    std::string keyPosition; ///< its picture, in this repetition
    bool operator==(const Lives&) const = default;
};

struct Drawing {
    DrawingKind kind = DrawingKind::Line;
    std::vector<Pin> at;
    double radius = 0; ///< pixels; of circle and clock
    Lives lives;
    int every = 4; ///< pictures from one to the next; of a strobe
    bool isThick = false;
    bool hides = false; ///< of a circle or box: what is inside is made unrecognisable wherever it leaves the program
    std::string text;   ///< the coach's words; of a label, all there is
    bool operator==(const Drawing&) const = default;
};

inline constexpr std::size_t kMostPins = 200;      ///< of one drawing
inline constexpr std::size_t kMostDrawings = 1000; ///< of one repetition
inline constexpr int kMostEvery = 1000;            ///< pictures from one to the next of a strobe

/// How many points a kind has, at least and at most.
struct PinCount {
    std::size_t least, most;
};
PinCount pinCountOf(DrawingKind);
/// Whether it carries a number of its own.
bool isMeasured(DrawingKind);
bool hasRadius(DrawingKind);

/// Whether it is seen on every repetition of its day, and not only where it was drawn: it belongs to a key position, and all of
/// it follows the body.
bool isShared(const Drawing&);

std::string_view wordOf(DrawingKind);
std::optional<DrawingKind> findDrawingKind(std::string_view);

} // namespace kestrel
