#include "report/walk.h"

#include "core/base/json_reader.h"
#include "core/scene/drawing_json.h"
#include "report/page_words.h"

#include <algorithm>
#include <limits>

namespace kestrel::report {

namespace {

constexpr double kSecondsAWord = 0.42, kSettle = 1.2, kShortest = 2.5;
constexpr double kMovementSpeed = 0.25;
constexpr std::size_t kMostGood = 2;

class Proposal {
public:
    Proposal(const Pack& pack, const Review& review, const PageFacts& facts, const std::vector<Marking>& markings,
             const std::vector<FrameRange>& repetitions)
        : m_pack(pack), m_review(review), m_facts(facts), m_markings(markings), m_repetitions(repetitions),
          m_voice(facts.voice.value_or(voiceFor(review.athlete.age)))
    {
    }

    WalkScript make()
    {
        m_script.title = (m_facts.player.empty() ? m_pack.name : m_facts.player + ": " + m_pack.name) +
                         (m_facts.date.empty() ? "" : ", " + filmedOn(m_facts.date));
        if (m_markings.empty())
            return m_script;
        addMovement();
        addGood();
        if (!m_review.stop.empty())
            add(m_last, m_review.stop);
        else if (m_review.oneThing)
            addTask(*m_review.oneThing);
        else
            add(m_last, "Nothing here is clearly off. Keep it like this.");
        add(m_last, m_review.oneThing && m_review.stop.empty() ? caution(m_review.oneThing->fault) : m_pack.filmNext);
        return m_script;
    }

private:
    /// From the first key position to the last, or all of it.
    FrameRange movementOf(std::size_t repetition) const
    {
        FrameRange whole = m_repetitions[repetition];
        const auto& events = m_markings[repetition].events;
        if (events.size() < 2)
            return whole;
        const auto byFrame = [](const Event& a, const Event& b) { return a.frame < b.frame; };
        const auto [first, last] = std::minmax_element(events.begin(), events.end(), byFrame);
        return {std::max(whole.first, first->frame.nearest()), std::min(whole.last, last->frame.nearest())};
    }

    /// The film on which the most is seen of what is talked about.
    std::size_t shownRepetition() const
    {
        const Reading* r = readingOfTask();
        return r ? std::min(r->figureOf, m_markings.size() - 1) : 0;
    }

    const Reading* readingOfTask() const
    {
        if (!m_review.oneThing)
            return nullptr;
        for (const auto& f : m_review.faults)
            if (f.fault == m_review.oneThing->fault && !f.measures.empty())
                return m_review.findReading(f.measures.front());
        return nullptr;
    }

    void add(const WalkStop& like, const std::string& text)
    {
        if (text.empty())
            return;
        m_script.stops.push_back(like);
        m_script.stops.back().text = text;
        m_last = m_script.stops.back();
        m_last.measure.clear();
        m_last.frames.first = m_last.frames.last; // after a stretch its end stands
    }

    WalkStop at(const Reading& r) const
    {
        const FrameIndex frame = r.figure.frame.nearest();
        return {std::min(r.figureOf, m_markings.size() - 1), {frame, frame}, kMovementSpeed, {}, r.measure, {}, {}, {}};
    }

    void addMovement()
    {
        const std::size_t n = shownRepetition();
        add({n, movementOf(n), kMovementSpeed, {}, {}, {}, {}, {}}, m_voice == Voice::Child
                                                                        ? "This is you, slowly. Watch the whole movement once."
                                                                        : "The whole movement once, at a quarter of its speed.");
    }

    void addGood()
    {
        std::size_t said = 0;
        for (const auto& s : m_review.strengths) {
            const Reading* r = m_review.findReading(s.measure);
            if (said < kMostGood && r && !r->figure.isEmpty()) {
                add(at(*r), "Already good: " + s.text);
                ++said;
            }
        }
    }

    void addTask(const OneThing& thing)
    {
        const Fault* fault = m_pack.findFault(thing.fault);
        const Reading* r = readingOfTask();
        if (r && !r->figure.isEmpty()) {
            const WalkStop here = at(*r);
            const auto position = movementOf(here.repetition);
            if (here.frames.first > position.first) // into the picture, so that it is seen how it comes about
                add({here.repetition, {position.first, here.frames.first}, kMovementSpeed / 2, {}, {}, {}, {}},
                    "Now watch what happens until here.");
            add(here, fault && !fault->says.empty() ? sentence(fault->says) + " " + fault->why : thing.why);
        } else {
            add(m_last, fault && !fault->says.empty() ? sentence(fault->says) + " " + fault->why : thing.why);
        }
        add(m_last, inVoice(thing.cue, m_voice));
        if (const Drill* drill = thing.drills.empty() ? nullptr : m_pack.findDrill(thing.drills.front()))
            add(m_last, "Practise: " + drill->name + ", " + drill->doseWords() + ". " + drill->feel);
    }

    /// The fault's own where there is one, else the pack's, else how to film next time.
    std::string caution(const std::string& fault) const
    {
        for (const auto& c : m_review.cautions)
            if (c.fault == fault)
                return c.text;
        return m_pack.caution.empty() ? m_pack.filmNext : m_pack.caution;
    }

    static std::string sentence(std::string clause)
    {
        clause.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(clause.front())));
        return clause + ".";
    }

    const Pack& m_pack;
    const Review& m_review;
    const PageFacts& m_facts;
    const std::vector<Marking>& m_markings;
    const std::vector<FrameRange>& m_repetitions;
    Voice m_voice;
    WalkStop m_last; // where the talk stands
    WalkScript m_script;
};

WalkStop readStop(const JsonNode& n)
{
    constexpr std::int64_t kLastFrame = 10'000'000;
    WalkStop stop;
    if (const auto r = n.find("repetition"))
        stop.repetition = static_cast<std::size_t>(r->integerIn(0, 1000));
    stop.frames.first = FrameIndex(n.at("from").integerIn(0, kLastFrame));
    stop.frames.last = stop.frames.first;
    if (const auto to = n.find("to")) {
        stop.frames.last = FrameIndex(to->integerIn(0, kLastFrame));
        if (stop.frames.last < stop.frames.first)
            to->wrong("the stretch ends before it begins");
    }
    if (const auto speed = n.find("speed"))
        stop.speed = speed->numberIn(kSlowestWalk, kFastestWalk);
    stop.text = n.textOr("text", "");
    stop.measure = n.textOr("measure", "");
    stop.voice = n.textOr("voice", "");
    stop.picture = n.textOr("picture", "");
    if (const auto drawings = n.find("drawings"))
        for (const auto& d : drawings->items(kMostDrawings))
            if (const auto drawing = readDrawing(d, kLastFrame))
                stop.drawings.push_back(*drawing);
    return stop;
}

constexpr const char* kFormat = "jolly-kestrel/walk";

} // namespace

WalkScript proposeWalk(const Pack& pack, const Review& review, const PageFacts& facts, const std::vector<Marking>& markings,
                       const std::vector<FrameRange>& repetitions)
{
    return Proposal(pack, review, facts, markings, repetitions).make();
}

double readingSeconds(const std::string& text)
{
    if (text.empty())
        return 0;
    const auto words = 1 + std::count(text.begin(), text.end(), ' ');
    return std::max(kShortest, kSettle + kSecondsAWord * static_cast<double>(words));
}

nlohmann::json toJson(const WalkScript& script)
{
    nlohmann::json stops = nlohmann::json::array();
    for (const auto& s : script.stops) {
        nlohmann::json j{{"repetition", s.repetition}, {"from", s.frames.first.value}, {"text", s.text}};
        if (s.isStretch()) {
            j["to"] = s.frames.last.value;
            j["speed"] = s.speed;
        }
        if (!s.measure.empty())
            j["measure"] = s.measure;
        if (!s.voice.empty())
            j["voice"] = s.voice;
        if (s.isPicture())
            j["picture"] = s.picture;
        for (const auto& d : s.drawings)
            j["drawings"].push_back(toJson(d));
        stops.push_back(std::move(j));
    }
    return {{"format", kFormat}, {"version", 1}, {"title", script.title}, {"stops", std::move(stops)}};
}

Expected<WalkScript> parseWalk(const nlohmann::json& root, const std::string& file)
{
    if (auto e = checkFormat(root, kFormat, file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    const JsonNode node(root, "", problems);
    WalkScript script;
    script.title = node.textOr("title", "");
    for (const auto& stop : node.at("stops").items(kMostStops))
        script.stops.push_back(readStop(stop));
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return script;
}

Expected<WalkScript> loadWalk(const std::string& file)
{
    return loadJson(file).and_then([&](const nlohmann::json& root) { return parseWalk(root, file); });
}

} // namespace kestrel::report
