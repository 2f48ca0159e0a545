#include "core/base/json_reader.h"
#include "core/base/word_table.h"
#include "core/judge/day_review.h"
#include "core/scene/marking.h"

#include <cmath>

namespace kestrel {

namespace {

using nlohmann::json;

constexpr const char* kFormat = "jolly-kestrel/review";
constexpr std::size_t kMostStrokes = 200, kMostPoints = 5000; // of one figure, of one stroke

constexpr WordRow<Stroke::Kind> kStrokeWords[] = {{Stroke::Kind::Segment, "segment"}, {Stroke::Kind::Guide, "guide"},
                                                  {Stroke::Kind::Arc, "arc"},         {Stroke::Kind::Dot, "dot"},
                                                  {Stroke::Kind::Faint, "faint"},     {Stroke::Kind::Circle, "circle"},
                                                  {Stroke::Kind::Arrow, "arrow"}};

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
    for (const auto& s : n.at("strokes").items(kMostStrokes)) {
        Stroke stroke;
        stroke.kind = s.at("kind")
                          .choice([](std::string_view w) { return findIn(kStrokeWords, w); }, choicesOf(kStrokeWords))
                          .value_or(Stroke::Kind::Segment);
        for (const auto& p : s.at("points").items(kMostPoints)) {
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
    if (r.spread)
        j["spread"] = {{"repetitions", r.spread->repetitions},
                       {"mean", finiteOrNull(r.spread->mean)},
                       {"sd", finiteOrNull(r.spread->sd)},
                       {"smallestRealChange", finiteOrNull(r.spread->smallestRealChange)}};
    if (r.isFromTwoViews)
        j["fromTwoViews"] = true;
    if (!r.figure.isEmpty())
        j["figure"] = figureJson(r.figure);
    if (r.figureOf > 0)
        j["figureOf"] = r.figureOf;
    return j;
}

Reading readReading(const JsonNode& n)
{
    Reading r;
    r.measure = n.at("measure").text();
    r.keyPosition = n.at("keyPosition").text();
    r.value = readOptional(n, "value");
    r.uncertainty = readOptional(n, "uncertainty");
    r.unit = n.at("unit").choice(findUnit, "a unit such as deg, cm, ms or ratio").value_or(Unit::Degree);
    const auto band = n.at("band");
    const auto ends = band.numbersOrNulls();
    if (ends.size() == 2) {
        r.low = ends[0];
        r.high = ends[1];
    } else {
        band.wrong("expected two numbers or nulls: low and high");
    }
    r.verdict = n.at("verdict").choice(findVerdict, "a verdict such as on_target or off").value_or(Verdict::NotMarked);
    if (hasValue(r.verdict) && (!r.value || !r.uncertainty))
        n.at("verdict").wrong("this verdict needs a value and its uncertainty");
    r.why = n.at("why").text();
    r.repetitions = static_cast<int>(n.numberOr("repetitions", 1));
    if (const auto s = n.find("spread"))
        r.spread = Spread{static_cast<int>(s->at("repetitions").number()), s->at("mean").number(), s->at("sd").number(),
                          s->at("smallestRealChange").number()};
    if (const auto two = n.find("fromTwoViews"))
        r.isFromTwoViews = two->boolean();
    if (const auto f = n.find("figure"))
        r.figure = readFigure(*f);
    if (const auto of = n.find("figureOf"))
        r.figureOf = static_cast<std::size_t>(of->numberIn(0, 1e6));
    return r;
}

json taskJson(const OneThing& t)
{
    return {{"fault", t.fault}, {"cue", cueJson(t.cue)}, {"drills", t.drills}, {"why", t.why}, {"severity", wordOf(t.severity)}};
}

OneThing readTask(const JsonNode& n)
{
    OneThing t{n.at("fault").text(), readCue(n.at("cue")), readTexts(n.at("drills")), n.at("why").text()};
    if (const auto severity = n.find("severity"))
        t.severity = severity->choice(findSeverity, "fix_this or stop_and_look").value_or(Severity::FixThis);
    return t;
}

json sequenceJson(const Sequence& s)
{
    json segments = json::array();
    for (const auto& p : s.peaks)
        segments.push_back({{"segment", wordOf(p.segment)},
                            {"peakSeconds", finiteOrNull(p.seconds)},
                            {"uncertaintySeconds", finiteOrNull(p.uncertainty)},
                            {"peakDegreesPerSecond", finiteOrNull(p.rate)}});
    return {{"view", wordOf(s.view)}, {"order", wordOf(s.order)}, {"sentence", s.sentence}, {"segments", segments}};
}

Sequence readSequence(const JsonNode& n)
{
    Sequence s;
    s.view = n.at("view").choice(findView, "side, side_back, front, rear, overhead or diagonal").value_or(View::Side);
    s.order = n.at("order").choice(findOrder, "in_order, out_of_order or too_close_to_call").value_or(Order::InOrder);
    s.sentence = n.at("sentence").text();
    for (const auto& p : n.at("segments").items())
        s.peaks.push_back(
            {p.at("segment").choice(findSegment, "pelvis, trunk, upper_arm, forearm or implement").value_or(Segment::Pelvis),
             p.at("peakSeconds").number(), p.at("uncertaintySeconds").number(), p.at("peakDegreesPerSecond").number()});
    return s;
}

json findingJson(const FaultFinding& f)
{
    return {
        {"id", f.fault},          {"verdict", wordOf(f.verdict)},   {"measures", f.measures},         {"causedBy", f.causedBy},
        {"explains", f.explains}, {"score", finiteOrNull(f.score)}, {"severity", wordOf(f.severity)}, {"shown", f.habit.shown},
        {"read", f.habit.read}};
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
    if (const auto severity = n.find("severity"))
        f.severity = severity->choice(findSeverity, "fine, could_be_better, fix_this or stop_and_look").value_or(Severity::Fine);
    f.habit = {static_cast<int>(n.numberOr("shown", 0)), static_cast<int>(n.numberOr("read", 0))};
    return f;
}

Review readReview(const JsonNode& n)
{
    Review r;
    r.pack = n.at("pack").text();
    r.school = n.textOr("school", "");
    if (const auto films = n.find("films"))
        r.films = readTexts(*films);
    else
        r.films = {n.textOr("film", "")}; // as written before a day was one review
    if (const auto pain = n.find("pain"))
        for (const auto& region : pain->items())
            r.pain.insert(region.choice(findBodyRegion, "a region such as elbow, back or knee").value_or(BodyRegion::Other));
    r.stop = sentenceAboutPain(r.pain);
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
        r.oneThing = readTask(*one);
    if (const auto also = n.find("alsoNow"))
        for (const auto& task : also->items())
            r.alsoNow.push_back(readTask(task));
    if (const auto next = n.find("next"))
        r.next = readTexts(*next);
    if (const auto remarks = n.find("remarks"))
        for (const auto& x : remarks->items())
            r.remarks.push_back(
                {x.at("kind").choice(findRemarkKind, "a kind of remark such as habit or school").value_or(RemarkKind::Habit),
                 x.at("text").text()});
    if (const auto cautions = n.find("cautions"))
        for (const auto& x : cautions->items())
            r.cautions.push_back({x.at("fault").text(), x.at("text").text()});
    if (const auto observed = n.find("observed"))
        for (const auto& x : observed->items())
            r.observed.push_back({x.at("observation").text(), x.at("choice").text(),
                                  x.at("verdict").choice(findVerdict, "on_target, near or off").value_or(Verdict::OnTarget)});
    if (const auto sequence = n.find("sequence"))
        r.sequence = readSequence(*sequence);
    r.repetitions = static_cast<int>(n.numberOr("repetitions", 1));
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

json toJson(const RepetitionReadings& r)
{
    json list = json::array();
    for (const auto& reading : r.readings) {
        json j = readingJson(reading);
        json& errors = j["errors"] = json::array();
        for (const float e : reading.errors)
            errors.push_back(finiteOrNull(e));
        list.push_back(std::move(j));
    }
    return {{"readings", list}, {"sequence", r.sequence ? sequenceJson(*r.sequence) : json()}};
}

std::optional<RepetitionReadings> parseReadings(const json& root)
{
    JsonProblems problems("library.db");
    const JsonNode node(root, "", problems);
    RepetitionReadings read;
    for (const auto& n : node.at("readings").items()) {
        read.readings.push_back(readReading(n));
        for (const auto& e : n.at("errors").numbersOrNulls())
            read.readings.back().errors.push_back(e ? static_cast<float>(*e) : std::nanf(""));
    }
    if (const auto sequence = node.find("sequence"))
        read.sequence = readSequence(*sequence);
    return problems.list().empty() ? std::optional(std::move(read)) : std::nullopt;
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
        one = taskJson(*r.oneThing);
    json also = json::array(), remarks = json::array(), observed = json::array();
    for (const auto& t : r.alsoNow)
        also.push_back(taskJson(t));
    for (const auto& x : r.remarks)
        remarks.push_back({{"kind", wordOf(x.kind)}, {"text", x.text}});
    json cautions = json::array();
    for (const auto& x : r.cautions)
        cautions.push_back({{"fault", x.fault}, {"text", x.text}});
    json pain = json::array();
    for (const auto region : r.pain)
        pain.push_back(wordOf(region));
    for (const auto& x : r.observed)
        observed.push_back({{"observation", x.observation}, {"choice", x.choice}, {"verdict", wordOf(x.verdict)}});
    return {{"format", kFormat},
            {"version", 1},
            {"pack", pack.id},
            {"school", r.school},
            {"film", r.films.empty() ? std::string() : r.films.front()},
            {"films", r.films},
            {"pain", pain},
            {"stop", r.stop},
            {"athlete",
             {{"hand", wordOf(r.athlete.hand)},
              {"heightMetres", finiteOrNull(r.athlete.heightMetres)},
              {"age", finiteOrNull(r.athlete.age)}}},
            {"readings", toJson(r.readings)},
            {"strengths", strengths},
            {"faults", faults},
            {"oneThing", one},
            {"alsoNow", also},
            {"later", r.later},
            {"next", r.next},
            {"remarks", remarks},
            {"cautions", cautions},
            {"observed", observed},
            {"sequence", r.sequence ? sequenceJson(*r.sequence) : json()},
            {"repetitions", r.repetitions},
            {"leaveAlone", r.leaveAlone}};
}

Expected<Review> loadReview(const std::string& file)
{
    return loadJson(file).and_then([&](const json& root) { return parseReview(root, file); });
}

Expected<Review> parseReview(const json& root, const std::string& file)
{
    if (auto e = checkFormat(root, kFormat, file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    Review review = readReview(JsonNode(root, "", problems));
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return review;
}

} // namespace kestrel
