#pragma once

#include <ostream>
#include <string>
#include <vector>

namespace kestrel::cli {

enum ExitCode { Done = 0, BadInput = 2, PartlyDone = 3 };

/// The command line without its program name. Results go to \p out as JSON (or as the verb says), messages to \p err.
/// Needs a QGuiApplication for the verbs that paint.
int run(const std::vector<std::string>& words, std::ostream& out, std::ostream& err);

} // namespace kestrel::cli
