#include "core/base/error_sample.h"
#include "core/base/json_reader.h"
#include "core/base/word_table.h"
#include "core/pack/drill_json.h"
#include "core/pack/pack.h"
#include "core/pack/pack_folder.h"

#include <algorithm>
#include <map>
#include <set>

namespace kestrel {

namespace {

constexpr WordRow<Beyond> kBeyond[] = {{Beyond::Below, "below"}, {Beyond::Above, "above"}, {Beyond::Either, "either"}};
constexpr WordRow<RepairStage> kStages[] = {{RepairStage::Base, "base"},
                                            {RepairStage::Eyes, "eyes"},
                                            {RepairStage::Legs, "legs"},
                                            {RepairStage::Trunk, "trunk"},
                                            {RepairStage::Arm, "arm"}};
constexpr WordRow<SideRole> kLeadSides[] = {{SideRole::Off, "off"}, {SideRole::Dom, "dom"}};
constexpr WordRow<Verdict> kObservationVerdicts[] = {
    {Verdict::OnTarget, "on_target"}, {Verdict::Near, "near"}, {Verdict::Off, "off"}};
constexpr WordRow<Grip> kGrips[] = {{Grip::Together, "together"}, {Grip::Dominant, "dominant"}, {Grip::Apart, "apart"}};
constexpr int kMostCueWords = 12;
constexpr std::size_t kMostEntries = 1000; // in one list of a pack; ours have some thirty

template <class E, std::size_t N> E readWord(const JsonNode& node, const WordRow<E> (&rows)[N], E fallback)
{
    return node.choice([&](std::string_view w) { return findIn(rows, w); }, choicesOf(rows)).value_or(fallback);
}

bool isPlainId(const std::string& id)
{
    return std::all_of(id.begin(), id.end(),
                       [](char c) { return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '-' || c == '_'; });
}

/// Reads one pack and checks every reference inside it.
class PackReader {
public:
    /// \param drills  a file of drills that packs refer to by id; empty: there is none
    /// \param detectors  a file of what finds the key positions of each skill; likewise
    PackReader(const nlohmann::json& root, const std::optional<nlohmann::json>& drills,
               const std::optional<nlohmann::json>& detectors, JsonProblems& problems)
        : m_node(root, "", problems)
    {
        if (detectors)
            m_detectors = JsonNode(*detectors, "detectors.json#", problems).at("skills");
        if (!drills)
            return;
        const JsonNode file(*drills, "drills.json#", problems);
        m_kit = file.textsOf("kit");
        for (const auto& d : file.at("drills").items())
            m_sharedDrills.emplace(d.textOr("id", ""), d);
    }

    Pack read()
    {
        m_pack.id = m_node.at("id").words();
        if (!isPlainId(m_pack.id)) // a coach's own version is stored under it
            m_node.at("id").wrong("found \"" + m_pack.id + "\", expected small letters, digits, - and _ only");
        m_pack.name = m_node.at("name").words();
        if (const auto lead = m_node.find("leadSide"))
            m_pack.leadSide = readWord(*lead, kLeadSides, SideRole::Off);
        if (const auto words = m_node.find("armWords")) {
            m_pack.domWord = words->at("dom").words();
            m_pack.offWord = words->at("off").words();
        }
        if (const auto hand = m_node.find("hand"))
            m_pack.handUse = hand->choice(findHandUse, "throwing or batting").value_or(HandUse::Throwing);
        if (const auto counts = m_node.find("counts")) {
            static constexpr std::string_view kCounted[] = {"pitch", "throw", "serve", "swing", "shot", "stroke"};
            m_pack.counts = counts->text();
            if (std::find(std::begin(kCounted), std::end(kCounted), m_pack.counts) == std::end(kCounted))
                counts->wrong("found \"" + m_pack.counts + "\", expected pitch, throw, serve, swing, shot or stroke");
        }
        m_pack.variants = m_node.textsOf("variants");
        m_pack.caution = m_node.at("caution").words();
        m_pack.filmNext = m_node.at("filmNext").words();
        readList("schools", m_pack.schools, [this](const JsonNode& n) { return readSchool(n); });
        if (const auto filming = m_node.find("filming"))
            for (const auto& place : filming->items())
                m_pack.filming.push_back(readFilmingPlace(place));
        if (const auto lengths = m_node.find("knownLengths"))
            for (const auto& n : lengths->items())
                m_pack.knownLengths.push_back({n.at("name").words(), n.at("metres").numberIn(0.02, 100)});
        readList("keyPositions", m_pack.keyPositions, [this](const JsonNode& n) { return readKeyPosition(n); });
        readOrder();
        readDetectors();
        readList("measures", m_pack.measures, [this](const JsonNode& n) { return readMeasure(n); });
        if (m_node.find("observations"))
            readList("observations", m_pack.observations, [this](const JsonNode& n) { return readObservation(n); });
        if (const auto sequence = m_node.find("sequence"))
            m_pack.sequence = SequenceSpan{readKeyPositionId(sequence->at("from")), readKeyPositionId(sequence->at("to"))};
        if (const auto held = m_node.find("implement"))
            m_pack.implement = readImplement(*held);
        if (const auto ball = m_node.find("ball"))
            m_pack.ballDiameter = ball->at("diameter").numberIn(0.01, 0.5);
        if (const auto equipment = m_node.find("equipment"))
            for (const auto& n : equipment->items())
                m_pack.equipment.push_back({n.at("maxAge").numberIn(2, 110), n.at("text").words()});
        readList("drills", m_pack.drills, [this](const JsonNode& n) { return readDrill(n); });
        collectFaultIds();
        readList("faults", m_pack.faults, [this](const JsonNode& n) { return readFault(n); });
        checkCauseLinks();
        checkCausesComeFirst();
        checkThatAllLeadsSomewhere();
        return std::move(m_pack);
    }

private:
    HeldImplement readImplement(const JsonNode& node)
    {
        HeldImplement held{node.at("reach").numberIn(0.05, 1), node.at("behind").numberIn(0, 0.5)};
        if (const auto grip = node.find("grip"))
            held.grip = readWord(*grip, kGrips, held.grip);
        if (const auto halfWidth = node.find("halfWidth"))
            held.halfWidth = halfWidth->numberIn(0.01, 0.3);
        return held;
    }

    template <class T, class Read> void readList(const std::string& key, std::vector<T>& into, Read read)
    {
        std::set<std::string> ids;
        const auto list = m_node.at(key);
        const auto items = list.items();
        if (items.empty() && list.raw().is_array())
            list.wrong("found an empty array, expected at least one entry");
        if (items.size() > kMostEntries) {
            list.wrong("found more than " + std::to_string(kMostEntries) + " entries");
            return;
        }
        for (const auto& item : items) {
            T value = read(item);
            if (!value.id.empty() && !ids.insert(value.id).second)
                (item.raw().is_object() ? item.at("id") : item).wrong("the id \"" + value.id + "\" is given twice");
            into.push_back(std::move(value));
        }
    }

    /// Once every key position is known.
    void readOrder()
    {
        if (const auto zero = m_node.find("zero"))
            m_pack.zero = readKeyPositionId(*zero);
        const auto items = m_node.at("keyPositions").items();
        for (std::size_t i = 0; i < items.size() && i < m_pack.keyPositions.size(); ++i)
            if (const auto list = items[i].find("anyOrderWith"))
                for (const auto& n : list->items())
                    m_pack.keyPositions[i].anyOrderWith.push_back(readKeyPositionId(n));
    }

    /// Once every key position is known, since a detector may look between two others. A pack that says nothing about how its key
    /// positions are found is found by the rules of detectors.json.
    void readDetectors()
    {
        const auto items = m_node.at("keyPositions").items();
        const bool hasOwn =
            std::any_of(items.begin(), items.end(), [](const JsonNode& n) { return n.find("detector").has_value(); });
        const auto shared = hasOwn || !m_detectors ? std::nullopt : m_detectors->find(m_pack.id);
        if (const auto pace = (shared ? *shared : m_node).find("pace"))
            m_pack.pace = SequenceSpan{readKeyPositionId(pace->at("from")), readKeyPositionId(pace->at("to"))};
        for (std::size_t i = 0; i < items.size() && i < m_pack.keyPositions.size(); ++i)
            if (!shared)
                readDetectorsOf(m_pack.keyPositions[i], items[i]);
            else if (const auto n = shared->at("keyPositions").find(m_pack.keyPositions[i].id))
                readDetectorsOf(m_pack.keyPositions[i], *n);
    }

    void readDetectorsOf(KeyPosition& k, const JsonNode& node)
    {
        if (const auto n = node.find("detector"))
            k.detector = readDetector(*n);
        if (const auto n = node.find("otherwise")) {
            if (!k.detector)
                n->wrong("there is no detector that this could stand in for");
            k.fallback = readDetector(*n);
        }
        for (const auto& [name, detector] : {std::pair{"fromEnd", &k.fromEnd}, std::pair{"fromAbove", &k.fromAbove}})
            if (const auto n = node.find(name)) {
                if (!k.detector)
                    n->wrong("there is no detector instead of which this could be asked");
                *detector = readDetector(*n);
            }
    }

    Detector readDetector(const JsonNode& n)
    {
        Detector d{readSign(n)};
        if (const auto also = n.find("also"))
            for (const auto& sign : also->items()) {
                if (const auto more = sign.find("also"))
                    more->wrong("a further sign has none of its own");
                d.votes.push_back(readSign(sign));
            }
        return d;
    }

    DetectorRule readSign(const JsonNode& n)
    {
        DetectorRule d;
        d.kind = n.at("kind")
                     .choice(findDetectorKind, "a detector such as highest, lowest, fastest, lands, closest or crosses")
                     .value_or(DetectorKind::Highest);
        const auto points = n.at("points");
        for (const auto& p : points.items())
            d.points.push_back(
                p.choice(findPointRole, "a point such as knee.lead, wrist.dom, midHip or head").value_or(PointRole{}));
        const auto [least, most] = pointCountOf(d.kind);
        if (d.points.size() < least || d.points.size() > most) {
            points.wrong("found " + std::to_string(d.points.size()) + " points, this detector needs " + std::to_string(least) +
                         (most > least ? " or " + std::to_string(most) : ""));
            d.points.resize(least);
        }
        if (const auto after = n.find("after"))
            d.after = readKeyPositionId(*after);
        if (const auto before = n.find("before"))
            d.before = readKeyPositionId(*before);
        if (const auto within = n.find("withinMs")) {
            d.withinMs = within->numberIn(1, 10'000);
            if (d.after.empty())
                within->wrong("it counts from the key position that \"after\" names, and none is named");
        }
        if (const auto share = n.find("delayShare"))
            d.delayShare = share->numberIn(-5, 5);
        if (const auto delay = n.find("delayMs"))
            d.delayMs = delay->numberIn(-1000, 1000);
        if (const auto doubt = n.find("doubtMs"))
            d.toleranceMs = doubt->numberIn(1, 1000);
        if (const auto share = n.find("filmDelayShare"))
            d.filmDelayShare = share->numberIn(-5, 5);
        if (const auto doubt = n.find("filmDoubtMs"))
            d.filmToleranceMs = doubt->numberIn(1, 1000);
        return d;
    }

    /// Those of the pack that something is for.
    std::vector<std::string> readVariants(const JsonNode& n)
    {
        std::vector<std::string> variants = n.textsOf("variants");
        for (const auto& v : variants)
            if (std::find(m_pack.variants.begin(), m_pack.variants.end(), v) == m_pack.variants.end())
                n.at("variants").wrong("there is no variant \"" + v + "\"");
        return variants;
    }

    Observation readObservation(const JsonNode& n)
    {
        Observation o;
        o.id = n.at("id").words();
        if (m_pack.findMeasure(o.id))
            n.at("id").wrong("the id \"" + o.id + "\" is already that of a measure");
        o.question = n.at("question").words();
        o.at = readKeyPositionId(n.at("at"));
        if (n.find("views"))
            o.views = readViewList(n.at("views"));
        o.variants = readVariants(n);
        const auto choices = n.at("choices");
        std::set<std::string> ids;
        for (const auto& c : choices.items()) {
            o.choices.push_back({c.at("id").words(), c.at("text").words(),
                                 readWord(c.at("verdict"), kObservationVerdicts, Verdict::OnTarget), c.textOr("says", "")});
            if (!ids.insert(o.choices.back().id).second)
                c.at("id").wrong("the id \"" + o.choices.back().id + "\" is given twice");
        }
        if (o.choices.size() < 2 && choices.raw().is_array())
            choices.wrong("expected at least two choices");
        return o;
    }

    School readSchool(const JsonNode& n) { return {n.at("id").words(), n.at("name").words(), n.textOr("note", "")}; }

    FilmingPlace readFilmingPlace(const JsonNode& n)
    {
        return {n.at("view").choice(findView, "side, side_back, front, rear, overhead or diagonal").value_or(View::Side),
                n.at("where").words(), n.at("height").words(), n.at("frame").words()};
    }

    KeyPosition readKeyPosition(const JsonNode& n)
    {
        KeyPosition k{n.at("id").words(), n.at("name").words(), n.at("recognise").words(), 0};
        if (const auto holds = n.find("holdsMs"))
            k.holdsMs = holds->numberIn(0.5, 10'000);
        return k;
    }

    std::string readKeyPositionId(const JsonNode& n)
    {
        const std::string id = n.text();
        if (n.raw().is_string() && !m_pack.findKeyPosition(id))
            n.wrong("there is no key position \"" + id + "\"");
        return id;
    }

    Band readBand(const JsonNode& n, const std::vector<Band>& earlier)
    {
        Band b;
        if (const auto v = n.find("low"))
            b.low = v->number();
        if (const auto v = n.find("high"))
            b.high = v->number();
        if (n.raw().is_object() && !b.low && !b.high)
            n.wrong("the band has neither low nor high");
        if (b.low && b.high && *b.low >= *b.high)
            n.wrong("the band is empty: low is not below high");
        b.evidence = n.at("evidence").choice(findEvidence, "G, P or T").value_or(Evidence::Taught);
        if (const auto s = n.find("school")) {
            b.school = s->text();
            if (!m_pack.findSchool(b.school))
                s->wrong("there is no school \"" + b.school + "\"");
        }
        if (const auto ages = n.find("ages")) {
            const auto items = ages->items();
            if (items.size() == 2) {
                b.minAge = items[0].numberIn(0, 120);
                b.maxAge = items[1].numberIn(0, 120);
                if (*b.minAge > *b.maxAge)
                    ages->wrong("the first age is above the second");
            } else {
                ages->wrong("expected two ages");
            }
        }
        b.variants = readVariants(n);
        b.of = n.textOr("of", "");
        for (const auto& e : earlier)
            if (e.school == b.school && e.minAge == b.minAge && e.maxAge == b.maxAge && e.variants == b.variants)
                n.wrong("there is already a band for this school, these ages and these variants");
        return b;
    }

    void readKindAndPoints(const JsonNode& n, Measure& m)
    {
        const auto kindNode = n.at("kind");
        m.kind = findMeasureKind(kindNode.text());
        if (!m.kind && kindNode.raw().is_string())
            kindNode.wrong("there is no kind of measure \"" + kindNode.text() + "\"");
        if (const auto points = n.find("points"))
            for (const auto& p : points->items()) {
                const auto role = p.choice(findPointRole, "a point such as knee.lead, wrist.dom, midHip or head");
                m.points.push_back(withoutLead(role.value_or(PointRole{}), m_pack.leadSide));
            }
        if (!m.kind)
            return;
        if (static_cast<int>(m.points.size()) != m.kind->points)
            n.at("points").wrong("found " + std::to_string(m.points.size()) + " points, the kind " + std::string(m.kind->id) +
                                 " needs " + std::to_string(m.kind->points));
        if (quantityOf(m.unit) != m.kind->quantity)
            n.at("unit").wrong("the kind " + std::string(m.kind->id) + " is not measured in \"" + std::string(wordOf(m.unit)) +
                               "\"");
        if (m.kind->when == When::Span)
            m.from = readKeyPositionId(n.at("from"));
        else if (const auto from = n.find("from"))
            from->wrong("the kind " + std::string(m.kind->id) + " is read at one key position");
    }

    static std::vector<View> readViewList(const JsonNode& node)
    {
        std::vector<View> views;
        for (const auto& item : node.items())
            if (const auto view = item.choice(findView, "side, side_back, front, rear, overhead or diagonal"))
                views.push_back(*view);
        return views;
    }

    void readViews(const JsonNode& n, Measure& m)
    {
        const auto node = n.at("views");
        for (const auto& item : node.items()) {
            const auto view = item.choice(findView, "side, side_back, front, rear, overhead or diagonal");
            if (!view)
                continue;
            if (m.kind && std::find(m.kind->views.begin(), m.kind->views.end(), *view) == m.kind->views.end())
                item.wrong("the kind " + std::string(m.kind->id) + " cannot be read in that view");
            m.views.push_back(*view);
        }
        if (m.views.empty() && node.raw().is_array())
            node.wrong("expected at least one view");
    }

    Measure readMeasure(const JsonNode& n)
    {
        Measure m;
        m.id = n.at("id").words();
        m.name = n.at("name").words();
        m.technical = n.at("technical").words();
        m.unit = n.at("unit")
                     .choice(findUnit, "deg, percent_height, m, cm, ms, ratio, clock, m_per_s, deg_per_s, turns_per_s or per_m")
                     .value_or(Unit::Degree);
        m.at = readKeyPositionId(n.at("at"));
        readKindAndPoints(n, m);
        readViews(n, m);
        m.variants = readVariants(n);
        m.isReported = n.booleanOr("report", false);
        if (m.isReported) {
            if (n.find("bands"))
                n.at("report").wrong("a measure that is only reported has no bands");
        } else {
            const auto bands = n.at("bands");
            for (const auto& item : bands.items())
                m.bands.push_back(readBand(item, m.bands));
            if (m.bands.empty() && bands.raw().is_array())
                bands.wrong("expected at least one band");
        }
        if (const auto rate = n.find("minRate"))
            m.minRate = rate->numberIn(1, 10'000);
        m.margin = m.isReported ? 0 : n.at("margin").numberIn(0, 1e6);
        m.praise = n.textOr("praise", "");
        m.unjudged = n.textOr("unjudged", "");
        m.doubt = n.textOr("doubt", "");
        return m;
    }

    void collectFaultIds()
    {
        if (const auto faults = m_node.find("faults"))
            for (const auto& f : faults->items())
                m_faultIds.insert(f.textOr("id", ""));
    }

    std::string readCueLine(const JsonNode& n)
    {
        const std::string t = n.words();
        const auto words = 1 + std::count(t.begin(), t.end(), ' ');
        if (words > kMostCueWords)
            n.wrong("the cue has " + std::to_string(words) + " words, at most " + std::to_string(kMostCueWords) +
                    " are remembered");
        return t;
    }

    Cue readCue(const JsonNode& n) { return {readCueLine(n.at("child")), readCueLine(n.at("teen")), readCueLine(n.at("adult"))}; }

    Fault readFault(const JsonNode& n)
    {
        Fault f;
        f.id = n.at("id").words();
        f.name = n.at("name").words();
        f.why = n.at("why").words();
        const auto conditions = n.at("conditions");
        for (const auto& c : conditions.items()) {
            const auto measure = c.at("measure");
            if (measure.raw().is_string() && !m_pack.findMeasure(measure.text()) && !m_pack.findObservation(measure.text()))
                measure.wrong("there is no measure or observation \"" + measure.text() + "\"");
            f.conditions.push_back({measure.text(), readWord(c.at("beyond"), kBeyond, Beyond::Either)});
        }
        if (f.conditions.empty() && conditions.raw().is_array())
            conditions.wrong("expected at least one condition");
        if (const auto explains = n.find("explains"))
            for (const auto& item : explains->items()) {
                if (item.raw().is_string() && !m_faultIds.count(item.text()))
                    item.wrong("there is no fault \"" + item.text() + "\"");
                f.explains.push_back(item.text());
            }
        f.risk = n.at("risk").numberIn(1, 2);
        const auto teachable = n.at("teachable").items();
        if (teachable.size() != f.teachable.size())
            n.at("teachable").wrong("expected four numbers: under 10, 10-13, 14-18, adult");
        else
            for (std::size_t i = 0; i < teachable.size(); ++i)
                f.teachable[i] = teachable[i].numberIn(0, 1);
        if (const auto costs = n.find("costs"))
            for (const auto& c : costs->items())
                if (const auto cost = c.choice(findCost, "speed, accuracy, load or rules"))
                    f.costs.push_back(*cost);
        f.stage = readWord(n.at("stage"), kStages, RepairStage::Legs);
        f.caution = n.textOr("caution", "");
        f.says = n.textOr("says", "");
        f.cue = readCue(n.at("cue"));
        if (const auto others = n.find("cueByVariant"))
            for (const auto& other : others->items())
                f.variantCues.push_back({readVariants(other), readCue(other.at("cue"))});
        const auto drills = n.at("drills");
        for (const auto& d : drills.items()) {
            if (d.raw().is_string() && !m_pack.findDrill(d.text()))
                d.wrong("there is no drill \"" + d.text() + "\"");
            f.drills.push_back(d.text());
        }
        if (f.drills.empty() && drills.raw().is_array())
            drills.wrong("expected at least one drill");
        return f;
    }

    /// Written out, or the id of one that several packs share.
    Drill readDrill(const JsonNode& node)
    {
        const auto shared = node.raw().is_string() ? m_sharedDrills.find(node.text()) : m_sharedDrills.end();
        if (node.raw().is_string() && shared == m_sharedDrills.end()) {
            node.wrong("there is no drill \"" + node.text() + "\" in drills.json beside the pack");
            return {};
        }
        const JsonNode& n = shared == m_sharedDrills.end() ? node : shared->second;
        return kestrel::readDrill(n, m_kit);
    }

    /// A fault that explains itself through others would never end. Each fault is walked once.
    void checkCauseLinks()
    {
        enum class State { New, Open, Done };
        std::map<std::string, State> state;
        const auto faults = m_node.find("faults");
        const std::function<bool(const Fault&)> closesLoop = [&](const Fault& f) {
            state[f.id] = State::Open;
            for (const auto& next : f.explains) {
                const Fault* other = m_pack.findFault(next);
                if (!other || state[next] == State::Done)
                    continue;
                if (state[next] == State::Open || closesLoop(*other))
                    return true;
            }
            state[f.id] = State::Done;
            return false;
        };
        for (std::size_t i = 0; i < m_pack.faults.size(); ++i)
            if (state[m_pack.faults[i].id] == State::New && closesLoop(m_pack.faults[i])) {
                faults->items()[i].at("explains").wrong("the cause links of \"" + m_pack.faults[i].id + "\" run in a circle");
                return;
            }
    }

    /// The first and the last key position at which a fault can be seen, by their order; empty: nothing in it has one.
    std::optional<std::pair<std::size_t, std::size_t>> timeOf(const Fault& f) const
    {
        std::optional<std::pair<std::size_t, std::size_t>> span;
        for (const auto& c : f.conditions) {
            const Measure* m = m_pack.findMeasure(c.measure);
            const Observation* o = m ? nullptr : m_pack.findObservation(c.measure);
            const std::string& at = m ? m->at : o ? o->at : std::string();
            for (std::size_t i = 0; i < m_pack.keyPositions.size(); ++i)
                if (m_pack.keyPositions[i].id == at)
                    span = {std::min(span ? span->first : i, i), std::max(span ? span->second : i, i)};
        }
        return span;
    }

    /// A verdict with which nothing is done is not worth asking for.
    void checkThatAllLeadsSomewhere()
    {
        std::set<std::string> judged;
        for (const auto& f : m_pack.faults)
            for (const auto& c : f.conditions)
                judged.insert(c.measure);
        const auto nodes = [this](const char* list) {
            return m_node.find(list) ? m_node.at(list).items() : std::vector<JsonNode>{};
        };
        const auto measures = nodes("measures"), observations = nodes("observations");
        for (std::size_t i = 0; i < m_pack.measures.size() && i < measures.size(); ++i) {
            const Measure& m = m_pack.measures[i];
            if (!m.isReported && m.praise.empty() && m.unjudged.empty() && judged.count(m.id) == 0)
                measures[i].wrong("the measure \"" + m.id +
                                  "\" has a band and leads nowhere: name it in a fault, praise it, or say in "
                                  "\"unjudged\" why not");
        }
        for (std::size_t i = 0; i < m_pack.observations.size() && i < observations.size(); ++i) {
            const Observation& o = m_pack.observations[i];
            const bool says = std::any_of(o.choices.begin(), o.choices.end(), [](const auto& c) { return !c.says.empty(); });
            if (!says && judged.count(o.id) == 0)
                observations[i].wrong("the observation \"" + o.id +
                                      "\" leads nowhere: name it in a fault, or let a choice say something");
        }
    }

    /// What is seen later cannot lead to what was seen before.
    void checkCausesComeFirst()
    {
        const auto faults = m_node.find("faults");
        const auto nodes = faults ? faults->items() : std::vector<JsonNode>{};
        for (std::size_t i = 0; i < m_pack.faults.size() && i < nodes.size(); ++i)
            for (std::size_t n = 0; n < m_pack.faults[i].explains.size(); ++n) {
                const Fault* effect = m_pack.findFault(m_pack.faults[i].explains[n]);
                const auto cause = timeOf(m_pack.faults[i]), then = effect ? timeOf(*effect) : std::nullopt;
                if (cause && then && cause->first > then->second)
                    nodes[i]
                        .at("explains")
                        .items()[n]
                        .wrong("\"" + effect->id + "\" is seen before \"" + m_pack.faults[i].id + "\": a cause comes first");
            }
    }

    JsonNode m_node;
    std::map<std::string, JsonNode> m_sharedDrills;
    std::optional<JsonNode> m_detectors;
    std::vector<std::string> m_kit; // the words for what drills need
    Pack m_pack;
    std::set<std::string> m_faultIds;
};

struct PackAndProblems {
    Pack pack;
    std::vector<Error> problems;
};

PackAndProblems readPack(const nlohmann::json& root, const std::string& file)
{
    if (auto e = checkFormat(root, "jolly-kestrel/pack", file))
        return {{}, {*e}};
    const auto drills = loadBesidePack("drills", file), detectors = loadBesidePack("detectors", file);
    for (const auto* shared : {&drills, &detectors})
        if (!*shared)
            return {{}, {shared->error()}};
    JsonProblems problems(file);
    Pack pack = PackReader(root, *drills, *detectors, problems).read();
    pack.file = file;
    pack.digest = ErrorSample::keyOf(root.dump());
    return {std::move(pack), problems.list()};
}

} // namespace

std::vector<Error> checkPack(const nlohmann::json& root, const std::string& file)
{
    return readPack(root, file).problems;
}

Expected<Pack> parsePack(const nlohmann::json& root, const std::string& file)
{
    auto result = readPack(root, file);
    if (!result.problems.empty())
        return tl::unexpected(result.problems.front());
    return std::move(result.pack);
}

Expected<Pack> loadPack(const std::string& file)
{
    return loadJson(file).and_then([&](const nlohmann::json& root) { return parsePack(root, file); });
}

} // namespace kestrel
