#pragma once

#include "report/document.h"
#include "report/page.h"

#include <string>
#include <vector>

namespace kestrel::report {

/// How a point of the movement looks on the film.
enum class CheckState { Right, WorkOnIt, NotSeen };
/// "right", "work on it", "not seen on this film"
const char* wordsOf(CheckState);

struct CheckPoint {
    std::string text; ///< in the reader's voice
    CheckState state = CheckState::NotSeen;
    bool isTheOne = false; ///< what is worked on first
    Still still;           ///< of those that matter; else empty
};
struct CheckGroup {
    std::string keyPosition; ///< name
    std::vector<CheckPoint> points;
};

/// The pack's points in the order of the movement, for one side of A4.
struct Checklist {
    std::string title, subtitle;
    std::vector<CheckGroup> groups;
    std::string stop;                  ///< pain was noted: said above everything, and nothing is to be worked on; may be empty
    std::string caution;               ///< at the foot
    std::vector<std::string> warnings; ///< stills that could not be had
};

/// What is not taught yet at this age, or by this coach, is left out, and so is what the camera could not show from any of the
/// films when \p hasUnseen is false. \param frames  as makePage
Checklist makeChecklist(const Pack&, const Review&, const PageFacts&, const FrameSource& frames, bool hasUnseen = true);

/// Paints it into a rectangle of A4's proportions, in letters as large as fit. False when even the smallest run into the foot.
bool paintChecklist(QPainter&, const Checklist&, const QRectF& a4);

/// One side of A4, upright.
Document documentOf(const Checklist&);

} // namespace kestrel::report
