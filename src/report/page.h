#pragma once

#include "core/compare/follow_up.h"
#include "core/judge/review.h"
#include "core/pack/pack.h"

#include <QImage>

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace kestrel::report {

/// Who is spoken to: a child to about 10, a teenager, an adult.
enum class Voice { Child, Teen, Adult };
Voice voiceFor(std::optional<double> age);
const std::string& inVoice(const Cue&, Voice);

/// A film's picture with a reading drawn on it.
struct Still {
    QImage image; ///< empty when there is nothing to show
    std::string caption;
};

struct PageStrength {
    std::string text;
    Still still;
};

struct PageTask {
    std::string cue;      ///< in the player's voice
    std::string severity; ///< "fix this" or "stop and look"
    std::string because;  ///< what is so, what follows from it and why it matters, to the player
    Still still;
    Drill drill;
    std::string otherDrill; ///< what may be done instead, a sentence; may be empty
    std::string caution;    ///< of every called fault and of the drill; may be empty
};

/// What goes home on one side of A4.
struct Page {
    std::string title;    ///< "A page for Ada"
    std::string subtitle; ///< skill, age, date
    Voice voice = Voice::Teen;
    std::vector<PageStrength> strengths; ///< at most two
    std::optional<PageTask> task;
    std::string since;              ///< what became of the last page's task; may be empty
    std::string stop;               ///< pain was noted: said in place of a task, in the alert tone; may be empty
    std::string noTask;             ///< said in its place when there is nothing to change or too little was marked
    Still extra;                    ///< a picture the coach put on it; may be empty
    std::vector<std::string> also;  ///< the second and third task, cue and drill in a sentence each
    std::string honesty;            ///< how much this rests on
    std::vector<std::string> notes; ///< what else a coach would say to this family; at most two
    std::string later;              ///< what waits; may be empty
    std::string caution, filmNext;
    std::vector<std::string> warnings; ///< stills that could not be had
};

/// Gives the picture of a repetition's film (Review::films) at a frame, upright; a null image when it cannot be had.
using FrameSource = std::function<QImage(std::size_t repetition, FrameIndex)>;

struct PageFacts {
    std::string player;               ///< name; may be empty
    std::string date;                 ///< of filming, "2026-04-11"; may be empty
    std::optional<Voice> voice;       ///< empty: by age
    std::optional<FollowUp> followUp; ///< of the last page's task; empty: there was none
    Still extra;                      ///< a picture the coach put on it, with a sentence; may be empty
};

/// Chooses and words what goes on the page. \param frames  empty: line drawings stand in for the stills
Page makePage(const Pack&, const Review&, const PageFacts&, const FrameSource& frames);

} // namespace kestrel::report
