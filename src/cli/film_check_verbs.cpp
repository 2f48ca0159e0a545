#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/pack/film_support.h"
#include "core/pack/pack_folder.h"
#include "media/film_check.h"
#include "report/film_guide.h"

namespace kestrel::cli {

namespace {

std::optional<View> readView(Arguments& args)
{
    const auto text = args.text("view");
    if (!text)
        return View::Side;
    const auto view = findView(*text);
    if (!view)
        args.complain("--view " + *text + ": expected side, side_back, front, rear, overhead or diagonal.");
    return view;
}

nlohmann::json toJson(const FilmSupport& support)
{
    nlohmann::json positions = nlohmann::json::array(), measures = nlohmann::json::array();
    for (const auto& k : support.keyPositions)
        positions.push_back({{"keyPosition", k.keyPosition}, {"shown", k.isShown}, {"neededRate", finiteOrNull(k.neededRate)}});
    for (const auto& m : support.measures)
        measures.push_back({{"measure", m.measure}, {"readable", m.isReadable}, {"why", m.why}});
    return {{"keyPositions", positions}, {"measures", measures}, {"consequences", support.consequences}};
}

} // namespace

VerbResult filmCheck(const Words& words, Streams io)
{
    Arguments args(words, {"pack", "view", "capture-rate"});
    const std::string file = args.onlyPlain("a film file");
    const auto view = readView(args);
    const auto rate = args.number("capture-rate", 1, 10'000);
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    std::optional<Pack> pack;
    if (const auto name = args.text("pack")) {
        auto found = findPack(*name);
        if (!found)
            return tl::unexpected(found.error());
        pack = std::move(*found);
    }
    auto film = media::Film::open(file);
    if (!film)
        return tl::unexpected(film.error());
    const auto check = media::checkFilm(*film);
    if (!check)
        return tl::unexpected(check.error());
    const auto& info = film->info();
    const double captureRate = rate ? *rate : info.declaredCaptureRate > 0 ? info.declaredCaptureRate : info.frameRate;
    nlohmann::json stretches = nlohmann::json::array();
    for (const auto& s : check->stretches)
        stretches.push_back({{"first", s.first.value},
                             {"last", s.last.value},
                             {"brightness", finiteOrNull(s.brightness)},
                             {"clipped", finiteOrNull(s.clipped)},
                             {"sharpness", finiteOrNull(s.sharpness)}});
    const bool asks = !rate && info.declaredCaptureRate <= 0 && check->looksSlow;
    std::vector<std::string> findings = check->findings;
    if (asks)
        findings.insert(findings.begin(), "The movement looks much slower than life: the film may be slow motion. Say at which "
                                          "rate it was filmed with --capture-rate.");
    nlohmann::json out{{"playbackRate", finiteOrNull(info.frameRate)},
                       {"captureRate", finiteOrNull(captureRate)},
                       {"asksForCaptureRate", asks},
                       {"sweepHeightsSquaredPerSecond", finiteOrNull(check->sweep)},
                       {"athletePixels", finiteOrNull(check->athletePixels)},
                       {"shakePixels", finiteOrNull(check->shakePixels)},
                       {"duplicates", check->duplicates},
                       {"examined", check->examined},
                       {"stretches", stretches},
                       {"findings", findings},
                       {"warnings", info.warnings}};
    if (pack)
        out["support"] = toJson(calcFilmSupport(*pack, {captureRate, check->athletePixels, *view}));
    io.out << printed(out, 2);
    return Done;
}

VerbResult filmGuide(const Words& words, Streams)
{
    Arguments args(words, {"pack", "view", "out"});
    args.noPlain();
    const std::string name = args.required("pack");
    const auto view = readView(args);
    const std::string out = args.required("out");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    return findPack(name)
        .and_then([&](const Pack& pack) { return report::makeFilmGuide(pack, *view); })
        .and_then([&](const report::FilmGuide& guide) { return saveText(out, report::toHtml(guide)); })
        .map([] { return static_cast<int>(Done); });
}

} // namespace kestrel::cli
