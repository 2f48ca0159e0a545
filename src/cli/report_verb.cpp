#include "cli/arguments.h"
#include "cli/verbs.h"

namespace kestrel::cli {
VerbResult report(const Words&, Streams) { return fail(ErrorCode::NotFound, "later"); }
} // namespace kestrel::cli
