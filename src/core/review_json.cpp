#include "core/json_reader.h"
#include "core/marking.h"
#include "core/review.h"
#include "core/word_table.h"

namespace kestrel {

namespace {

using nlohmann::json;

constexpr const char* kFormat = "jolly-kestrel/review";

constexpr WordRow<Stroke::Kind> kStrokeWords[] = {
    {Stroke::Kind::Segment, "segment"}, {Stroke::Kind::Guide, "guide"}, {Stroke::Kind::Arc, "arc"}, {Stroke::Kind::Dot, "dot"}};

json cueJson(const Cue& c)
{
    return {{"child", c.child}, {"teen", c.teen}, {"adult", c.adult}};
}

Cue readCue(const JsonNode& n)
{
    return {n.at("child").text(), n.at("teen").text(), n.at("adult").text()};
}

json figureJson(const Figure& f)
{
    json strokes = json::array();
    for (const auto& s : f.strokes) {
        json points = json::array();
        for (const auto& p : s.points)
            points.push_back({finiteOrNull(p.x), finiteOrNull(p.y)});
        strokes.push_back({{"kind", wordIn(kStrokeWords, s.kind)}, {"points", points}});
    }
    return {{"frame", f.frame.value}, {"strokes", strokes}};
}

Figure readFigure(const JsonNode& n)
{
    Figure f;
    f.frame = FramePosition(n.at("frame").number());
    for (const auto& s : n.at("strokes").items()) {
        Stroke stroke;
        stroke.kind = s.at("kind")
                          .choice([](std::string_view w) { return findIn(kStrokeWords, w); }, choicesOf(kStrokeWords))
                          .value_or(Stroke::Kind::Segment);
        for (const auto& p : s.at("points").items()) {
            const auto xy = p.items();
            if (xy.size() == 2)
                stroke.points.push_back({xy[0].number(), xy[1].number()});
            else
                p.wrong("expected two numbers: x and y");
        }
        f.strokes.push_back(std::move(stroke));
    }
    return f;
}

std::vector<std::string> readTexts(const JsonNode& n)
{
    std::vector<std::string> list;
    for (const auto& item : n.items())
        list.push_back(item.text());
    return list;
}

std::optional<double> readOptional(const JsonNode& n, const char* key)
{
    const auto node = n.find(key);
    return node ? std::optional(node->number()) : std::nullopt;
}

json readingJson(const Reading& r)
{
    json j{{"measure", r.measure},           {"keyPosition", r.keyPosition},
           {"value", finiteOrNull(r.value)}, {"uncertainty", finiteOrNull(r.uncertainty)},
           {"unit", wordOf(r.unit)},         {"band", {finiteOrNull(r.low), finiteOrNull(r.high)}},
           {"verdict", wordOf(r.verdict)},   {"why", r.why},
           {"repetitions", r.repetitions}};
    if (!r.figure.isEmpty())
        j["figure"] = figureJson(r.figure);
    return j;
}

Reading readReading(const JsonNode& n)
{
    Reading r;
    r.measure = n.at("measure").text();
    r.keyPosition = n.at("keyPosition").text();
    r.value = readOptional(n, "value");
    r.uncertainty = readOptional(n, "uncertainty");
    r.unit = n.at("unit").choice(findUnit, "deg, percent_height, m, cm, ms or ratio").value_or(Unit::Degree);
    const auto band = n.at("band");
    const auto ends = band.items();
    if (ends.size() == 2) {
        if (!ends[0].raw().is_null())
            r.low = ends[0].number();
        if (!ends[1].raw().is_null())
            r.high = ends[1].number();
    } else {
        band.wrong("expected two numbers or nulls: low and high");
    }
    r.verdict = n.at("verdict").choice(findVerdict, "a verdict such as on_target or off").value_or(Verdict::NotMarked);
    if (hasValue(r.verdict) && (!r.value || !r.uncertainty))
        n.at("verdict").wrong("this verdict needs a value and its uncertainty");
    r.why = n.at("why").text();
    r.repetitions = static_cast<int>(n.numberOr("repetitions", 1));
    if (const auto f = n.find("figure"))
        r.figure = readFigure(*f);
    return r;
}

json findingJson(const FaultFinding& f)
{
    return {{"id", f.fault},          {"verdict", wordOf(f.verdict)}, {"measures", f.measures},
            {"causedBy", f.causedBy}, {"explains", f.explains},       {"score", finiteOrNull(f.score)}};
}

FaultFinding readFinding(const JsonNode& n)
{
    FaultFinding f;
    f.fault = n.at("id").text();
    f.verdict = n.at("verdict").choice(findVerdict, "a verdict such as off or near").value_or(Verdict::Off);
    f.measures = readTexts(n.at("measures"));
    f.causedBy = readTexts(n.at("causedBy"));
    f.explains = readTexts(n.at("explains"));
    f.score = n.numberOr("score", 0);
    return f;
}

Review readReview(const JsonNode& n)
{
    Review r;
    r.pack = n.at("pack").text();
    r.school = n.textOr("school", "");
    r.filmFile = n.textOr("film", "");
    const auto athlete = n.at("athlete");
    r.athlete.hand = athlete.at("hand").choice(findHand, "right or left").value_or(Hand::Right);
    r.athlete.heightMetres = readOptional(athlete, "heightMetres");
    r.athlete.age = readOptional(athlete, "age");
    for (const auto& x : n.at("readings").items())
        r.readings.push_back(readReading(x));
    for (const auto& x : n.at("strengths").items())
        r.strengths.push_back({x.at("measure").text(), x.at("text").text()});
    for (const auto& x : n.at("faults").items())
        r.faults.push_back(readFinding(x));
    if (const auto one = n.find("oneThing"))
        r.oneThing =
            OneThing{one->at("fault").text(), readCue(one->at("cue")), readTexts(one->at("drills")), one->at("why").text()};
    r.later = readTexts(n.at("later"));
    r.leaveAlone = readTexts(n.at("leaveAlone"));
    return r;
}

} // namespace

json toJson(const std::vector<Reading>& readings)
{
    json list = json::array();
    for (const auto& r : readings)
        list.push_back(readingJson(r));
    return list;
}

json toJson(const Review& r, const Pack& pack)
{
    json strengths = json::array(), faults = json::array();
    for (const auto& s : r.strengths)
        strengths.push_back({{"measure", s.measure}, {"text", s.text}});
    for (const auto& f : r.faults)
        faults.push_back(findingJson(f));
    json one;
    if (r.oneThing)
        one = {{"fault", r.oneThing->fault},
               {"cue", cueJson(r.oneThing->cue)},
               {"drills", r.oneThing->drills},
               {"why", r.oneThing->why}};
    return {{"format", kFormat},
            {"version", 1},
            {"pack", pack.id},
            {"school", r.school},
            {"film", r.filmFile},
            {"athlete",
             {{"hand", wordOf(r.athlete.hand)},
              {"heightMetres", finiteOrNull(r.athlete.heightMetres)},
              {"age", finiteOrNull(r.athlete.age)}}},
            {"readings", toJson(r.readings)},
            {"strengths", strengths},
            {"faults", faults},
            {"oneThing", one},
            {"later", r.later},
            {"leaveAlone", r.leaveAlone}};
}

Expected<Review> loadReview(const std::string& file)
{
    const auto root = loadJson(file);
    if (!root)
        return tl::unexpected(root.error());
    if (auto e = checkFormat(*root, kFormat, file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    Review review = readReview(JsonNode(*root, "", problems));
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return review;
}

} // namespace kestrel
