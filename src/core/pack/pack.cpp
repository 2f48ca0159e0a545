#include "core/pack/pack.h"

#include "core/base/word_table.h"

#include <algorithm>

namespace kestrel {

namespace {

template <class T> const T* findById(const std::vector<T>& list, std::string_view id)
{
    const auto it = std::find_if(list.begin(), list.end(), [&](const T& x) { return x.id == id; });
    return it == list.end() ? nullptr : &*it;
}

constexpr WordRow<Evidence> kPlainEvidence[] = {
    {Evidence::Geometry, "follows from geometry"},
    {Evidence::Papers, "commonly reported in papers"},
    {Evidence::Taught, "commonly taught; schools differ"},
};
constexpr WordRow<Evidence> kEvidenceLetters[] = {{Evidence::Geometry, "G"}, {Evidence::Papers, "P"}, {Evidence::Taught, "T"}};

constexpr WordRow<DetectorKind> kDetectors[] = {
    {DetectorKind::Highest, "highest"}, {DetectorKind::Lowest, "lowest"},     {DetectorKind::Ahead, "ahead"},
    {DetectorKind::Behind, "behind"},   {DetectorKind::Fastest, "fastest"},   {DetectorKind::Still, "still"},
    {DetectorKind::Lands, "lands"},     {DetectorKind::Leaves, "leaves"},     {DetectorKind::ComeApart, "come_apart"},
    {DetectorKind::Closest, "closest"}, {DetectorKind::Farthest, "farthest"}, {DetectorKind::Crosses, "crosses"},
    {DetectorKind::Outward, "outward"}, {DetectorKind::Inward, "inward"},
};
constexpr WordRow<DetectorKind> kDetectorWords[] = {
    {DetectorKind::Highest, "highest"},
    {DetectorKind::Lowest, "lowest"},
    {DetectorKind::Ahead, "furthest ahead"},
    {DetectorKind::Behind, "furthest behind"},
    {DetectorKind::Fastest, "fastest"},
    {DetectorKind::Still, "first still"},
    {DetectorKind::Lands, "lands"},
    {DetectorKind::Leaves, "first moves"},
    {DetectorKind::ComeApart, "parts from the"},
    {DetectorKind::Closest, "closest to the"},
    {DetectorKind::Farthest, "farthest from the"},
    {DetectorKind::Crosses, "passes the"},
    {DetectorKind::Outward, "furthest out"},
    {DetectorKind::Inward, "furthest in"},
};
constexpr WordRow<Cost> kCosts[] = {
    {Cost::Speed, "speed"}, {Cost::Accuracy, "accuracy"}, {Cost::Load, "load"}, {Cost::Rules, "rules"}};

/// "knee.lead" as "lead knee".
std::string plainNameOf(const PointRole& role)
{
    switch (role.derived) {
    case DerivedPoint::MidShoulder:
        return "middle of the shoulders";
    case DerivedPoint::MidHip:
        return "middle of the hips";
    case DerivedPoint::MassCentre:
        return "mass centre";
    case DerivedPoint::None:
    case DerivedPoint::Head:
    case DerivedPoint::Sternum:
        break;
    }
    const std::string name = nameOf(role);
    const auto dot = name.find('.');
    if (dot == std::string::npos)
        return name;
    const std::string_view first(name.data(), dot), second = std::string_view(name).substr(dot + 1);
    std::string plain(role.side == SideRole::None ? first : second);
    plain += role.side == SideRole::None ? "'s " : " ";
    plain += role.side == SideRole::None ? second : first;
    return plain;
}

/// Between a detector's words and its second point.
std::string_view linkTo(DetectorKind k)
{
    switch (k) {
    case DetectorKind::Ahead:
        return " of the ";
    case DetectorKind::Behind:
        return " the ";
    case DetectorKind::Outward:
    case DetectorKind::Inward:
        return " from the ";
    default:
        return " ";
    }
}

constexpr WordRow<HandUse> kHandUses[] = {{HandUse::Throwing, "throwing"}, {HandUse::Batting, "batting"}};

} // namespace

const Detector* ownDetector(const KeyPosition& k, View view)
{
    const auto& own = view == View::Overhead ? k.fromAbove : k.fromEnd;
    return own && (view == View::Overhead || isFromEnd(view)) ? &*own : nullptr;
}

const KeyPosition* Pack::findKeyPosition(std::string_view key) const
{
    return findById(keyPositions, key);
}
const Measure* Pack::findMeasure(std::string_view key) const
{
    return findById(measures, key);
}
const Observation* Pack::findObservation(std::string_view key) const
{
    return findById(observations, key);
}
const Observation::Choice* Observation::findChoice(std::string_view key) const
{
    return findById(choices, key);
}
const Fault* Pack::findFault(std::string_view key) const
{
    return findById(faults, key);
}
const Drill* Pack::findDrill(std::string_view key) const
{
    return findById(drills, key);
}
const School* Pack::findSchool(std::string_view key) const
{
    return findById(schools, key);
}

const Band* bandFor(const Measure& measure, const std::string& school, std::optional<double> age, const std::string& variant)
{
    const Band* best = nullptr;
    int bestScore = -1;
    for (const auto& band : measure.bands) {
        if (!band.school.empty() && band.school != school)
            continue;
        if (!isForVariant(band.variants, variant) || (variant.empty() && !band.variants.empty()))
            continue;
        const bool aged = band.minAge || band.maxAge;
        if (aged && (!age || *age < band.minAge.value_or(0) || *age > band.maxAge.value_or(200)))
            continue;
        const int score = (band.variants.empty() ? 0 : 4) + (band.school.empty() ? 0 : 2) + (aged ? 1 : 0);
        if (score > bestScore) {
            best = &band;
            bestScore = score;
        }
    }
    return best;
}

std::vector<std::string> drillsFor(const Pack& pack, const Fault& fault, std::optional<double> age)
{
    std::vector<std::string> fitting;
    std::copy_if(fault.drills.begin(), fault.drills.end(), std::back_inserter(fitting), [&](const std::string& id) {
        const Drill* d = pack.findDrill(id);
        return d && d->isForAge(age);
    });
    return fitting.empty() ? fault.drills : fitting;
}

std::string Drill::kitWords() const
{
    std::string words;
    for (std::size_t i = 0; i < kit.size(); ++i)
        words += (i == 0 ? "" : i + 1 < kit.size() ? ", " : " and ") + kit[i];
    return words.empty() ? "nothing" : words;
}

std::string Drill::doseWords() const
{
    return dose + "; " + std::to_string(daysAWeek) + (daysAWeek == 1 ? " day" : " days") + " a week, about " +
           std::to_string(minutes) + (minutes == 1 ? " minute" : " minutes");
}

bool isForVariant(const std::vector<std::string>& variants, const std::string& variant)
{
    return variants.empty() || variant.empty() || std::find(variants.begin(), variants.end(), variant) != variants.end();
}

std::vector<Landmark> landmarksAt(const Pack& pack, std::string_view keyPosition, View view, Hand hand,
                                  const std::string& variant, MarkExtent extent)
{
    std::vector<Landmark> list;
    const auto add = [&](const Landmark& l) {
        if (std::find(list.begin(), list.end(), l) == list.end())
            list.push_back(l);
    };
    if (extent == MarkExtent::WholeBody) {
        for (const auto& l : landmarksFor(PointRole{DerivedPoint::Head, Part::Nose, SideRole::None, {}}, hand))
            add(l);
        for (const auto part : {Part::Shoulder, Part::Elbow, Part::Wrist, Part::Hip, Part::Knee, Part::Ankle, Part::Toe})
            for (const auto side : {BodySide::Left, BodySide::Right})
                add({part, side, {}});
    }
    for (const auto& m : pack.measures) {
        if (m.at != keyPosition && m.from != keyPosition)
            continue;
        if (std::find(m.views.begin(), m.views.end(), view) == m.views.end())
            continue;
        if (!isForVariant(m.variants, variant))
            continue;
        if (m.isReported && extent == MarkExtent::Measured)
            continue;
        for (const auto& role : m.points)
            for (const auto& l : landmarksFor(role, hand))
                if (!m.isReported || (l.reference.empty() && l.part != Part::Ball))
                    add(l);
    }
    std::sort(list.begin(), list.end());
    return list;
}

std::size_t ageGroupOf(std::optional<double> age)
{
    if (!age)
        return 2;
    return *age < 10 ? 0 : *age < 14 ? 1 : *age < 19 ? 2 : 3;
}

std::string_view wordOf(HandUse use)
{
    return wordIn(kHandUses, use);
}

std::optional<HandUse> findHandUse(std::string_view word)
{
    return findIn(kHandUses, word);
}

std::string_view wordOf(DetectorKind k)
{
    return wordIn(kDetectors, k);
}
std::optional<DetectorKind> findDetectorKind(std::string_view w)
{
    return findIn(kDetectors, w);
}
std::string sentenceOf(const Detector& d)
{
    std::string all = sentenceOf(static_cast<const DetectorRule&>(d));
    if (d.votes.empty())
        return all;
    for (const DetectorRule& other : d.votes)
        all += (&other == &d.votes.back() ? " and " : ", ") + sentenceOf(other);
    return (d.votes.size() > 1 ? "the middle one of " : "the middle of ") + all;
}

std::string sentenceOf(const DetectorRule& d)
{
    std::string text = plainNameOf(d.points.front());
    text += ' ';
    text += wordIn(kDetectorWords, d.kind);
    if (d.points.size() > 1) {
        text += linkTo(d.kind);
        text += plainNameOf(d.points[1]);
    }
    return text;
}
std::string_view wordOf(Cost c)
{
    return wordIn(kCosts, c);
}
std::optional<Cost> findCost(std::string_view w)
{
    return findIn(kCosts, w);
}

std::optional<Evidence> findEvidence(std::string_view w)
{
    return findIn(kEvidenceLetters, w);
}
std::string_view letterOf(Evidence e)
{
    return wordIn(kEvidenceLetters, e);
}
std::string_view plainWordsOf(Evidence e)
{
    return wordIn(kPlainEvidence, e);
}

const Cue& Fault::cueFor(std::string_view variant) const
{
    for (const auto& other : variantCues)
        if (std::find(other.variants.begin(), other.variants.end(), variant) != other.variants.end())
            return other.cue;
    return cue;
}

} // namespace kestrel
