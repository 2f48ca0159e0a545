#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking.h"
#include "look/film_image.h"
#include "sim/contact_sheet.h"
#include "sim/simulate.h"

#include <charconv>
#include <filesystem>

namespace kestrel::cli {

namespace {

constexpr int kSheetColumns = 5;

Expected<void> printList(std::ostream& out)
{
    nlohmann::json skills = nlohmann::json::array();
    for (const auto& id : sim::simSkillIds()) {
        const auto s = sim::loadSimSkill(id);
        if (!s)
            return tl::unexpected(s.error());
        const auto ids = [](const auto& list) {
            nlohmann::json names = nlohmann::json::array();
            for (const auto& e : list)
                names.push_back(e.id);
            return names;
        };
        nlohmann::json faults = nlohmann::json::array();
        for (const auto& f : s->faults)
            faults.push_back({{"id", f.id}, {"says", f.says}, {"disturbs", f.disturbs}, {"variants", f.variants}});
        skills.push_back({{"id", id},
                          {"variants", ids(s->variants)},
                          {"schools", ids(s->schools)},
                          {"views", {"side", "side_back", "front", "rear", "diagonal", "overhead"}},
                          {"faults", faults}});
    }
    out << printed(nlohmann::json{{"skills", skills}}, 2);
    return {};
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

void readFilmFaults(Arguments& args, sim::SimulateOptions& o)
{
    sim::FilmFaults& f = o.film;
    f.exposure = args.number("exposure", 0, 1).value_or(f.exposure);
    f.readout = args.number("readout", 0, 1).value_or(f.readout);
    f.noise = args.number("noise", 0, 100).value_or(f.noise);
    f.dim = args.number("dim", 0.02, 3).value_or(f.dim);
    f.quality = static_cast<int>(args.integer("quality", 1, 51).value_or(f.quality));
    f.uneven = args.number("uneven", 0, 1).value_or(f.uneven);
    f.repeatEvery = static_cast<int>(args.integer("repeat-every", 0, 1000).value_or(f.repeatEvery));
    f.rotation = static_cast<int>(args.integer("rotation", 0, 270).value_or(f.rotation));
}

void readCamera(Arguments& args, sim::CameraSetup& c)
{
    c.distance = args.number("distance", 1.5, 1e5);
    c.height = args.number("camera-height", 0.1, 50);
    c.zoom = args.number("zoom", 0.1, 10).value_or(c.zoom);
    c.yawError = args.number("yaw-error", -80, 80).value_or(c.yawError);
    c.roll = args.number("roll", -45, 45).value_or(c.roll);
    c.shake = args.number("shake", 0, 100).value_or(c.shake);
}

/// One film with its truth beside it.
Expected<void> makeOne(const sim::SimulateOptions& o, const std::filesystem::path& folder, const std::string& suffix,
                       const Arguments& args, std::ostream& err)
{
    const auto simulated = sim::simulate(o);
    if (!simulated)
        return tl::unexpected(simulated.error());
    if (args.has("sheet")) {
        std::map<std::string, std::string> names;
        if (const auto pack = findPack(o.skill))
            for (const auto& k : pack->keyPositions)
                names[k.id] = k.name;
        const auto file = folder / ("sheet" + suffix + ".png");
        return look::saveImage(sim::contactSheet(*simulated, names, kSheetColumns), file.string());
    }
    if (!args.has("truth-only")) {
        int shownPercent = -1;
        const auto saved = sim::saveClip(*simulated, (folder / ("clip" + suffix + ".mp4")).string(), [&](int done, int of) {
            if (const int percent = 100 * done / of / 10 * 10; percent != shownPercent) {
                shownPercent = percent;
                err << "painting " << percent << " %\n";
            }
        });
        if (!saved)
            return saved;
    }
    auto truth = sim::truthJson(*simulated);
    truth["film"]["file"] = "clip" + suffix + ".mp4";
    return saveText((folder / ("truth" + suffix + ".json")).string(), printed(truth, -1));
}

} // namespace

VerbResult simulate(const Words& words, Streams io)
{
    Arguments args(words, {"skill",   "variant",  "fault",         "school",  "view",      "fps",          "playback", "size",
                           "hand",    "height",   "age",           "sex",     "seed",      "tempo",        "look",     "out",
                           "style",   "distance", "camera-height", "zoom",    "yaw-error", "roll",         "shake",    "exposure",
                           "readout", "noise",    "dim",           "quality", "uneven",    "repeat-every", "rotation"},
                   {"truth-only", "list", "sheet"});
    args.noPlain();
    if (args.has("list") && !args.mistake())
        return printList(io.out).map([] { return static_cast<int>(Done); });
    sim::SimulateOptions o;
    o.skill = args.required("skill");
    o.motion.variant = args.text("variant").value_or("");
    o.motion.school = args.text("school").value_or("");
    for (const auto& f : args.all("fault"))
        readFault(f, args, o.motion.faults);
    o.motion.seed = static_cast<std::uint32_t>(args.integer("seed", 0, 1'000'000'000).value_or(1));
    o.motion.tempo = args.number("tempo", 0.25, 3).value_or(o.motion.tempo);
    o.look = static_cast<std::uint32_t>(args.integer("look", 0, 1000).value_or(o.motion.seed));
    std::vector<View> views;
    for (const auto& view : args.all("view")) {
        if (const auto found = findView(view))
            views.push_back(*found);
        else
            args.complain("--view " + view + ": expected side, side_back, front, rear, diagonal or overhead.");
    }
    if (views.empty())
        views.push_back(View::Side);
    if (const auto hand = args.text("hand")) {
        if (const auto found = findHand(*hand))
            o.hand = *found;
        else
            args.complain("--hand " + *hand + ": expected right or left.");
    }
    if (const auto sex = args.text("sex")) {
        if (*sex != "girl" && *sex != "boy")
            args.complain("--sex " + *sex + ": expected girl or boy.");
        o.person.sex = *sex == "girl" ? sim::Sex::Female : sim::Sex::Male;
    }
    o.frameRate = args.number("fps", 10, 1000).value_or(o.frameRate);
    o.playbackRate = args.number("playback", 1, 1000);
    const auto style = static_cast<std::uint32_t>(args.integer("style", 0, 1'000'000).value_or(0));
    if (const auto size = args.text("size"))
        o.size = readSize(*size, args);
    o.person.heightMetres = args.number("height", 0.8, 2.3).value_or(o.person.heightMetres);
    o.person.age = args.number("age", 4, 99).value_or(o.person.age);
    readCamera(args, o.camera);
    readFilmFaults(args, o);
    const std::string folder = args.required("out");
    if (args.mistake())
        return tl::unexpected(*args.mistake());

    if (const auto pack = style > 0 ? findPack(o.skill) : Expected<Pack>(Pack{}); pack && style > 0)
        o.motion.style = sim::fitStyle(o, *pack, style);
    std::error_code ec;
    std::filesystem::create_directories(folder, ec);
    if (ec)
        return fail(ErrorCode::CannotWrite, "The folder cannot be made: " + ec.message() + ".", folder);
    // several views are several cameras that saw the same repetition at the same instants
    for (std::size_t i = 0; i < views.size(); ++i) {
        o.camera.view = views[i];
        const std::string suffix = i == 0 ? "" : "-" + std::string(wordOf(views[i]));
        if (const auto done = makeOne(o, folder, suffix, args, io.err); !done)
            return tl::unexpected(done.error());
    }
    return Done;
}

} // namespace kestrel::cli
