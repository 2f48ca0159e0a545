#pragma once

#include "core/judge/review.h"
#include "core/pack/pack.h"
#include "core/scene/drawing.h"
#include "report/page.h"

#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

namespace kestrel::report {

/// One stop of a talk through the film: a picture that stands still, or a stretch that plays and then stands at its end, with a
/// sentence. Or a picture of its own, such as two films together or a sum.
struct WalkStop {
    std::size_t repetition = 0;    ///< whose film: its place in what was judged together (Review::films)
    FrameRange frames;             ///< one picture where both ends are the same
    double speed = 0.25;           ///< of real time; of a stretch
    std::string text;              ///< what is said
    std::string measure;           ///< whose reading is drawn; may be empty
    std::vector<Drawing> drawings; ///< of this stop alone, besides what is drawn on the film
    std::string voice;             ///< the coach's words as a sound file; may be empty
    std::string picture;           ///< a picture file that is shown in place of the film; may be empty
    bool isPicture() const { return !picture.empty(); }
    bool isStretch() const { return !isPicture() && frames.first != frames.last; }
    bool operator==(const WalkStop&) const = default;
};

/// The talk.
struct WalkScript {
    std::string title;
    std::vector<WalkStop> stops;
    bool operator==(const WalkScript&) const = default;
};

inline constexpr std::size_t kMostStops = 40;
inline constexpr double kSlowestWalk = 1.0 / 32, kFastestWalk = 2; ///< speeds

/// What the program proposes, three to eight stops: the whole movement, what is good, the one thing with its cause, what to do
/// about it, what comes next. With pain noted there is no task, and the talk says why.
/// \param markings    by repetition of the review, without marks if need be; key positions say where the movement begins and ends
/// \param repetitions the pictures that belong to each
WalkScript proposeWalk(const Pack&, const Review&, const PageFacts&, const std::vector<Marking>& markings,
                       const std::vector<FrameRange>& repetitions);

/// How long a sentence is read aloud or by somebody who looks at the film besides, seconds.
double readingSeconds(const std::string& text);

/// {"format": "jolly-kestrel/walk", "version": 1, "title", "stops": [{"repetition", "from", "to", "speed", "text", "measure",
/// "drawings", "voice", "picture"}]}
nlohmann::json toJson(const WalkScript&);
Expected<WalkScript> parseWalk(const nlohmann::json&, const std::string& file);
Expected<WalkScript> loadWalk(const std::string& file);

} // namespace kestrel::report
