#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/json_reader.h"
#include "core/marking.h"
#include "sim/simulate.h"

#include <charconv>
#include <filesystem>

namespace kestrel::cli {

namespace {

void printList(std::ostream& out)
{
    nlohmann::json skills = nlohmann::json::array();
    for (const auto& s : sim::simSkills()) {
        nlohmann::json faults = nlohmann::json::array();
        for (const auto& f : s.faults)
            faults.push_back({{"id", f.id}, {"disturbs", f.disturbs}});
        skills.push_back(
            {{"id", s.id}, {"variants", s.variants}, {"schools", s.schools}, {"views", {"side", "rear"}}, {"faults", faults}});
    }
    out << nlohmann::json{{"skills", skills}}.dump(2) << "\n";
}

/// "head_drop=0.5" or "head_drop", which means 1.
void readFault(const std::string& text, Arguments& args, std::map<std::string, double>& faults)
{
    const auto equals = text.find('=');
    double amount = 1;
    if (equals != std::string::npos) {
        const char* begin = text.data() + equals + 1;
        const char* end = text.data() + text.size();
        const auto [stop, error] = std::from_chars(begin, end, amount);
        if (error != std::errc{} || stop != end)
            args.complain("--fault " + text + ": expected a fault and an amount, such as head_drop=1.");
    }
    faults[text.substr(0, equals)] = amount;
}

media::PixelSize readSize(const std::string& text, Arguments& args)
{
    media::PixelSize size;
    const auto x = text.find('x');
    const auto part = [&](std::size_t from, std::size_t to, int& into) {
        const auto [stop, error] = std::from_chars(text.data() + from, text.data() + to, into);
        return error == std::errc{} && stop == text.data() + to;
    };
    if (x == std::string::npos || !part(0, x, size.width) || !part(x + 1, text.size(), size.height))
        args.complain("--size " + text + ": expected a width and a height, such as 1280x720.");
    return size;
}

} // namespace

VerbResult simulate(const Words& words, Streams io)
{
    Arguments args(words, {"skill", "variant", "fault", "school", "view", "fps", "size", "hand", "height", "age", "seed", "out"},
                   {"truth-only", "list"});
    args.noPlain();
    if (args.has("list") && !args.mistake()) {
        printList(io.out);
        return Done;
    }
    sim::SimulateOptions o;
    o.skill = args.required("skill");
    o.motion.variant = args.text("variant").value_or("");
    o.motion.school = args.text("school").value_or("");
    for (const auto& f : args.all("fault"))
        readFault(f, args, o.motion.faults);
    o.motion.seed = static_cast<std::uint32_t>(args.integer("seed", 0, 1'000'000'000).value_or(1));
    o.look = o.motion.seed;
    if (const auto view = args.text("view")) {
        if (const auto found = findView(*view))
            o.view = *found;
        else
            args.complain("--view " + *view + ": expected side or rear.");
    }
    if (const auto hand = args.text("hand")) {
        if (const auto found = findHand(*hand))
            o.hand = *found;
        else
            args.complain("--hand " + *hand + ": expected right or left.");
    }
    o.frameRate = args.number("fps", 10, 1000).value_or(o.frameRate);
    if (const auto size = args.text("size"))
        o.size = readSize(*size, args);
    o.heightMetres = args.number("height", 0.8, 2.3).value_or(o.heightMetres);
    o.age = args.number("age", 4, 99).value_or(o.age);
    const std::string folder = args.required("out");
    if (args.mistake())
        return tl::unexpected(*args.mistake());

    const auto simulated = sim::simulate(o);
    if (!simulated)
        return tl::unexpected(simulated.error());
    std::error_code ec;
    std::filesystem::create_directories(folder, ec);
    if (ec)
        return fail(ErrorCode::CannotWrite, "The folder cannot be made: " + ec.message() + ".", folder);
    const std::filesystem::path base(folder);
    if (!args.has("truth-only")) {
        int shownPercent = -1;
        const auto saved = sim::saveClip(*simulated, (base / "clip.mp4").string(), [&](int done, int of) {
            if (const int percent = 100 * done / of / 10 * 10; percent != shownPercent) {
                shownPercent = percent;
                io.err << "painting " << percent << " %\n";
            }
        });
        if (!saved)
            return tl::unexpected(saved.error());
    }
    return saveText((base / "truth.json").string(), sim::truthJson(*simulated).dump() + "\n").map([] {
        return static_cast<int>(Done);
    });
}

} // namespace kestrel::cli
