#include "core/scene/drawing_json.h"

namespace kestrel {

namespace {

constexpr double kLargestPixel = 1e5;

Pin readPin(const JsonNode& n)
{
    Pin pin;
    if (const auto l = n.find("landmark"))
        pin.landmark = l->choice(findLandmark, "a landmark such as wrist.right, nose or ref.plate");
    if (!pin.landmark || n.find("x")) {
        pin.at.x = n.at("x").numberIn(-kLargestPixel, kLargestPixel);
        pin.at.y = n.at("y").numberIn(-kLargestPixel, kLargestPixel);
    }
    return pin;
}

Lives readLives(const JsonNode& n, std::int64_t lastFrame)
{
    Lives lives;
    if (const auto k = n.find("keyPosition")) {
        lives.on = Lives::On::KeyPosition;
        lives.keyPosition = k->words();
    } else if (n.booleanOr("repetition", false)) {
        lives.on = Lives::On::Repetition;
    } else {
        lives.stretch = {FrameIndex(n.at("from").integerIn(0, lastFrame)), FrameIndex(n.at("to").integerIn(0, lastFrame))};
        if (lives.stretch.last < lives.stretch.first)
            n.at("to").wrong("the stretch ends before it begins");
    }
    return lives;
}

} // namespace

std::optional<Drawing> readDrawing(const JsonNode& n, std::int64_t lastFrame)
{
    const auto kind = findDrawingKind(n.at("kind").text());
    if (!kind)
        return std::nullopt;
    Drawing d;
    d.kind = *kind;
    d.lives = readLives(n.at("lives"), lastFrame);
    const auto at = n.at("at");
    for (const auto& pin : at.items(kMostPins))
        d.at.push_back(readPin(pin));
    const auto [least, most] = pinCountOf(*kind);
    if (at.raw().is_array() && (d.at.size() < least || d.at.size() > most))
        at.wrong("found " + std::to_string(d.at.size()) + " points, a " + std::string(wordOf(*kind)) + " has " +
                 std::to_string(least) + (most > least ? " or more" : ""));
    d.at.resize(std::clamp(d.at.size(), least, most)); // after a mistake, something harmless
    if (hasRadius(*kind))
        d.radius = n.at("radius").numberIn(1, kLargestPixel);
    if (const auto every = n.find("every"))
        d.every = static_cast<int>(every->integerIn(1, kMostEvery));
    d.isThick = n.textOr("weight", "thin") == "thick";
    d.hides = n.booleanOr("hides", false);
    d.text = n.textOr("text", "");
    return d;
}

nlohmann::json toJson(const Drawing& d)
{
    nlohmann::json at = nlohmann::json::array();
    for (const auto& pin : d.at) {
        nlohmann::json p{{"x", pin.at.x}, {"y", pin.at.y}};
        if (pin.landmark)
            p["landmark"] = nameOf(*pin.landmark);
        at.push_back(std::move(p));
    }
    nlohmann::json lives;
    switch (d.lives.on) {
    case Lives::On::Stretch:
        lives = {{"from", d.lives.stretch.first.value}, {"to", d.lives.stretch.last.value}};
        break;
    case Lives::On::KeyPosition:
        lives = {{"keyPosition", d.lives.keyPosition}};
        break;
    case Lives::On::Repetition:
        lives = {{"repetition", true}};
    }
    nlohmann::json j{{"kind", wordOf(d.kind)}, {"at", std::move(at)}, {"lives", std::move(lives)}};
    if (hasRadius(d.kind))
        j["radius"] = d.radius;
    if (d.kind == DrawingKind::Strobe)
        j["every"] = d.every;
    if (d.isThick)
        j["weight"] = "thick";
    if (d.hides)
        j["hides"] = true;
    if (!d.text.empty())
        j["text"] = d.text;
    return j;
}

} // namespace kestrel
