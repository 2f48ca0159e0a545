#pragma once

#include "core/pack/pack.h"

#include <string>
#include <vector>

namespace kestrel::report {

/// How to film a skill from one side, for the person who holds the camera.
struct FilmGuide {
    std::string title; ///< "How to film: overhand pitch, side view"
    std::string where, height, frame;
    std::string rate;               ///< how many pictures a second, and why
    std::vector<std::string> shows; ///< names of the readings this view gives
    std::vector<std::string> checklist;
    View view = View::Side;
};

/// Errors: NotFound when the pack does not say how to film from there.
Expected<FilmGuide> makeFilmGuide(const Pack&, View);

/// A whole page with a drawing of where the camera stands, seen from above.
std::string toHtml(const FilmGuide&);

/// "side view": how a view is called in running text.
std::string viewWords(View);

} // namespace kestrel::report
