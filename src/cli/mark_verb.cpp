#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking_json.h"
#include "media/film.h"
#include "vision/mark_film.h"

#include <filesystem>
#include <mutex>
#include <nlohmann/json.hpp>
#include <sstream>

namespace kestrel::cli {

namespace {

/// "x,y,width,height" in pixels, on the first picture; or "x,y", a point on the player.
std::optional<vision::PlayerBox> findPlayer(const std::string& text)
{
    std::istringstream stream(text);
    vision::PlayerBox box;
    char a = 0, b = 0, c = 0;
    stream >> box.corner.x >> a >> box.corner.y;
    if (stream && stream.eof() && a == ',')
        return box;
    stream >> b >> box.width >> c >> box.height;
    const bool isBox = stream && stream.eof() && a == ',' && b == ',' && c == ',' && !box.isClick();
    return isBox ? std::optional(box) : std::nullopt;
}

} // namespace

VerbResult mark(const Words& words, Streams io)
{
    Arguments args(words, {"skill", "view", "hand", "target", "capture-rate", "height", "age", "player", "out"},
                   {"quick", "thorough"});
    const std::string file = args.onlyPlain("a film file");
    const std::string skill = args.required("skill"), out = args.required("out");
    const auto view = findView(args.required("view"));
    if (!view)
        args.complain("--view is one of side, side_back, front, rear, overhead, diagonal.");
    const auto hand = findHand(args.text("hand").value_or("right"));
    if (!hand)
        args.complain("--hand is right or left.");
    const auto target = args.text("target") ? findTargetDirection(*args.text("target")) : std::nullopt;
    if (args.text("target") && !target)
        args.complain("--target is one of left, right, away, toward.");
    const auto rate = args.number("capture-rate", 1, 10'000);
    const auto height = args.number("height", 0.5, 2.5), age = args.number("age", 1, 120);
    const auto player = args.text("player") ? findPlayer(*args.text("player")) : std::nullopt;
    if (args.text("player") && !player)
        args.complain("--player is x,y or x,y,width,height in pixels: a point on the player, or a box round them.");
    if (args.has("quick") && args.has("thorough"))
        args.complain("--quick and --thorough are two networks: choose one, or neither.");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto pack = findPack(skill);
    if (!pack)
        return tl::unexpected(pack.error());
    const auto film = media::Film::open(file);
    if (!film)
        return tl::unexpected(film.error());

    std::mutex mutex;
    std::int64_t told = -1;
    vision::TrackOptions options;
    options.models = shippedFolder("models");
    options.body = args.has("quick")      ? vision::BodyNetwork::Quick
                   : args.has("thorough") ? vision::BodyNetwork::Thorough
                                          : vision::BodyNetwork::Usual;
    options.player = player;
    options.knownIndex = film->indexBytes();
    options.progress = [&](std::int64_t done, std::int64_t of) {
        const std::lock_guard lock(mutex);
        if (const auto tenth = 10 * done / of; tenth > told) {
            told = tenth;
            io.err << "marking " << 10 * tenth << " %\n";
        }
    };
    const auto& info = film->info();
    Marking m;
    m.film = {std::filesystem::path(file).filename().string(), info.size.width, info.size.height, info.frames()};
    const double playback = info.frameRate > 0 ? info.frameRate : 30;
    m.clock = {rate.value_or(playback), playback};
    m.skill = pack->id;
    m.athlete = {*hand, height, age};
    m.scene.view = *view;
    m.scene.target = target.value_or(usualTargetDirection(*view, *hand, pack->leadIsDom()));
    const FrameClock clock(info.shown, m.clock.slowFactor());
    const auto marked = vision::markFilm(file, *pack, m, clock, options, false);
    if (!marked)
        return tl::unexpected(marked.error());
    m.marks = marked->marks;
    m.scene.scale = marked->scale;
    nlohmann::json positions = nlohmann::json::array();
    for (const auto& d : marked->positions)
        positions.push_back({{"keyPosition", d.keyPosition},
                             {"frame", d.frame ? nlohmann::json(d.frame->value) : nlohmann::json()},
                             {"why", d.why}});
    for (const auto& e : vision::proposalsOf(marked->positions))
        setEvent(m, e);
    nlohmann::json doubts = nlohmann::json::array();
    for (const auto doubt : marked->doubts)
        doubts.push_back(vision::textOf(doubt));
    if (auto saved = saveMarking(m, out); !saved)
        return tl::unexpected(saved.error());
    io.out << printed(nlohmann::json{{"frames", info.frames()},
                                     {"seen", marked->seen},
                                     {"marks", m.marks.size()},
                                     {"positions", positions},
                                     {"doubts", doubts},
                                     {"warnings", info.warnings}},
                      2);
    return static_cast<int>(marked->seen == info.frames() && !marked->isDamaged ? Done : PartlyDone);
}

} // namespace kestrel::cli
