#include "core/scene/marking_json.h"

#include "core/base/json_reader.h"
#include "core/scene/drawing_json.h"

#include <map>

namespace kestrel {

namespace {

constexpr double kFarthest = 1000; // metres
constexpr double kLargestPixel = 1e5;
constexpr std::int64_t kMostFrames = 10'000'000;
constexpr std::size_t kMostMarks = 1'000'000;

constexpr const char* kFormat = "jolly-kestrel/marking";

ImagePoint readPoint(const JsonNode& node)
{
    const auto items = node.items();
    if (items.size() != 2) {
        if (!node.raw().is_null() && node.raw().is_array())
            node.wrong("found " + std::to_string(items.size()) + " numbers, expected two: x and y");
        return {};
    }
    return {items[0].numberIn(-kLargestPixel, kLargestPixel), items[1].numberIn(-kLargestPixel, kLargestPixel)};
}

Scene readScene(const JsonNode& node)
{
    Scene scene;
    scene.view = node.at("view").choice(findView, "side, side_back, front, rear, overhead or diagonal").value_or(View::Side);
    scene.target =
        node.at("targetDirection").choice(findTargetDirection, "left, right, away or toward").value_or(TargetDirection::Right);
    if (const auto up = node.find("up")) {
        const auto p = readPoint(*up);
        if (p.x == 0 && p.y == 0)
            up->wrong("the up direction has no length");
        else
            scene.up = {p.x, p.y};
    }
    if (const auto s = node.find("scale")) {
        Scale scale{readPoint(s->at("from")), readPoint(s->at("to")), s->at("metres").numberIn(0.01, 1000)};
        if (s->raw().is_object() && (scale.to - scale.from).length() < 1)
            s->wrong("the scale line is shorter than one pixel");
        scene.scale = scale;
    }
    if (const auto ground = node.find("ground"))
        for (const auto& g : ground->items())
            scene.ground.push_back(
                {readPoint(g.at("at")), g.at("x").numberIn(-kFarthest, kFarthest), g.at("y").numberIn(-kFarthest, kFarthest)});
    return scene;
}

Event readEvent(const JsonNode& node, double lastFrame)
{
    Event e;
    e.keyPosition = node.at("keyPosition").text();
    e.frame = FramePosition(node.at("frame").numberIn(-0.5, lastFrame));
    if (const auto u = node.find("uncertaintyFrames"))
        e.uncertaintyFrames = u->numberIn(0, 1000);
    if (const auto s = node.find("source"))
        e.source = s->choice(findSource, "coach, tracked, network or simulated").value_or(Source::Coach);
    return e;
}

Mark readMark(const JsonNode& node, double lastFrame)
{
    Mark m;
    m.frame = FrameIndex(node.at("frame").integerIn(0, static_cast<std::int64_t>(lastFrame)));
    m.landmark =
        node.at("landmark").choice(findLandmark, "a landmark such as wrist.right, nose or ref.plate").value_or(Landmark{});
    m.at = {node.at("x").numberIn(-kLargestPixel, kLargestPixel), node.at("y").numberIn(-kLargestPixel, kLargestPixel)};
    if (const auto s = node.find("sigma"))
        m.sigma = s->numberIn(0, kLargestPixel);
    if (const auto s = node.find("source"))
        m.source = s->choice(findSource, "coach, tracked, network or simulated").value_or(Source::Coach);
    m.visible = node.booleanOr("visible", true);
    return m;
}

/// Marks by frame and landmark, so that reading 100,000 of them stays linear.
std::vector<Mark> mostTrusted(std::vector<Mark> marks)
{
    std::map<std::pair<FrameIndex, Landmark>, std::size_t> seen;
    std::vector<Mark> kept;
    for (auto& m : marks) {
        const auto [it, isNew] = seen.try_emplace({m.frame, m.landmark}, kept.size());
        if (isNew)
            kept.push_back(std::move(m));
        else if (m.source <= kept[it->second].source)
            kept[it->second] = std::move(m);
    }
    return kept;
}

} // namespace

Expected<Marking> parseMarking(const nlohmann::json& root, const std::string& file)
{
    if (auto e = checkFormat(root, kFormat, file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    const JsonNode node(root, "", problems);
    Marking m;

    const auto film = node.at("film");
    m.film.file = film.textOr("file", "");
    m.film.width = static_cast<int>(film.at("width").integerIn(1, 100000));
    m.film.height = static_cast<int>(film.at("height").integerIn(1, 100000));
    m.film.frames = film.at("frames").integerIn(1, kMostFrames);
    const double lastFrame = static_cast<double>(m.film.frames) - 1;

    const auto clock = node.at("clock");
    m.clock.capture = clock.at("captureRate").numberIn(0.1, 100000);
    m.clock.playback = clock.at("playbackRate").numberIn(0.1, 100000);

    m.scene = readScene(node.at("scene"));

    const auto athlete = node.at("athlete");
    m.athlete.hand = athlete.at("hand").choice(findHand, "right or left").value_or(Hand::Right);
    if (const auto h = athlete.find("heightMetres"))
        m.athlete.heightMetres = h->numberIn(0.5, 2.6);
    if (const auto a = athlete.find("age"))
        m.athlete.age = a->numberIn(2, 110);
    m.skill = node.textOr("skill", "");
    m.variant = node.textOr("variant", "");
    m.isLive = node.booleanOr("live", true);
    m.outcome = node.textOr("outcome", "");
    if (const auto answers = node.find("answers"))
        for (const auto& a : answers->items())
            m.answers[a.at("observation").text()] = a.at("choice").text();

    if (const auto events = node.find("events"))
        for (const auto& e : events->items()) {
            const Event event = readEvent(e, lastFrame + 0.5);
            if (findEvent(m, event.keyPosition))
                e.at("keyPosition").wrong("the key position \"" + event.keyPosition + "\" is given twice");
            m.events.push_back(event);
        }
    if (const auto marks = node.find("marks"))
        for (const auto& k : marks->items(kMostMarks))
            m.marks.push_back(readMark(k, lastFrame));
    if (const auto drawings = node.find("drawings"))
        for (const auto& d : drawings->items(kMostDrawings)) {
            if (const auto drawing = readDrawing(d, m.film.frames - 1))
                m.drawings.push_back(*drawing);
            else if (d.raw().is_object())
                m.unknownDrawings.push_back(d.raw().dump(-1, ' ', false, nlohmann::json::error_handler_t::replace));
        }

    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    m.marks = mostTrusted(std::move(m.marks));
    return m;
}

Expected<Marking> loadMarking(const std::string& file)
{
    return loadJson(file).and_then([&](const nlohmann::json& root) { return parseMarking(root, file); });
}

nlohmann::json toJson(const Scene& s)
{
    nlohmann::json j{{"view", wordOf(s.view)}, {"targetDirection", wordOf(s.target)}, {"up", {s.up.x, s.up.y}}};
    if (s.scale)
        j["scale"] = {
            {"from", {s.scale->from.x, s.scale->from.y}}, {"to", {s.scale->to.x, s.scale->to.y}}, {"metres", s.scale->metres}};
    for (const auto& g : s.ground)
        j["ground"].push_back({{"at", {g.at.x, g.at.y}}, {"x", g.x}, {"y", g.y}});
    return j;
}

Expected<Scene> parseScene(const nlohmann::json& root, const std::string& file)
{
    JsonProblems problems(file);
    const Scene scene = readScene(JsonNode(root, "", problems));
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return scene;
}

nlohmann::json toJson(const Marking& m)
{
    nlohmann::json athlete{{"hand", wordOf(m.athlete.hand)}};
    if (m.athlete.heightMetres)
        athlete["heightMetres"] = *m.athlete.heightMetres;
    if (m.athlete.age)
        athlete["age"] = *m.athlete.age;

    nlohmann::json events = nlohmann::json::array();
    for (const auto& e : m.events)
        events.push_back({{"keyPosition", e.keyPosition},
                          {"frame", e.frame.value},
                          {"uncertaintyFrames", e.uncertaintyFrames},
                          {"source", wordOf(e.source)}});
    nlohmann::json marks = nlohmann::json::array();
    for (const auto& k : m.marks) {
        nlohmann::json j{{"frame", k.frame.value}, {"landmark", nameOf(k.landmark)}, {"x", k.at.x}, {"y", k.at.y},
                         {"sigma", k.sigma},       {"source", wordOf(k.source)}};
        if (!k.visible)
            j["visible"] = false;
        marks.push_back(std::move(j));
    }
    nlohmann::json root{
        {"format", kFormat},
        {"version", 1},
        {"film", {{"file", m.film.file}, {"width", m.film.width}, {"height", m.film.height}, {"frames", m.film.frames}}},
        {"clock", {{"captureRate", m.clock.capture}, {"playbackRate", m.clock.playback}}},
        {"scene", toJson(m.scene)},
        {"athlete", std::move(athlete)},
        {"events", std::move(events)},
        {"marks", std::move(marks)}};
    if (!m.skill.empty())
        root["skill"] = m.skill;
    if (!m.variant.empty())
        root["variant"] = m.variant;
    if (!m.isLive)
        root["live"] = false;
    if (!m.outcome.empty())
        root["outcome"] = m.outcome;
    for (const auto& [observation, choice] : m.answers)
        root["answers"].push_back({{"observation", observation}, {"choice", choice}});
    for (const auto& d : m.drawings)
        root["drawings"].push_back(toJson(d));
    for (const auto& d : m.unknownDrawings)
        root["drawings"].push_back(nlohmann::json::parse(d));
    return root;
}

Expected<void> saveMarking(const Marking& m, const std::string& file)
{
    return saveText(file, printed(toJson(m), 1));
}

} // namespace kestrel
