#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/pack/pack_folder.h"
#include "demo/demo_library.h"

namespace kestrel::cli {

VerbResult demoLibrary(const Words& words, Streams io)
{
    Arguments args(words, {"scenario", "out"});
    args.noPlain();
    const std::string folder = args.required("out");
    const std::string scenario = args.text("scenario").value_or(shippedFolder("demo") + "/club.json");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    std::string shown;
    const auto made = demo::makeDemoLibrary(scenario, folder, [&](const demo::Progress& p) {
        if (p.file != shown)
            io.err << "painting " << p.file << " (" << p.film << " of " << p.films << ")\n";
        shown = p.file;
    });
    if (!made)
        return tl::unexpected(made.error());
    return Done;
}

} // namespace kestrel::cli
