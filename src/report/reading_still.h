#pragma once

#include "report/page.h"

namespace kestrel::report {

/// The film's picture on which a reading is seen best, cut out around what is measured, with the reading drawn on it. A line
/// drawing stands in for a picture that cannot be had, and a sentence about it is added to the warnings.
/// \param unit  thickness of thin lines: the smaller the still is shown, the thicker
Still readingStill(const Pack&, const Reading&, const FrameSource&, bool hasNumber, std::vector<std::string>& warnings,
                   double unit = 3.6);

} // namespace kestrel::report
