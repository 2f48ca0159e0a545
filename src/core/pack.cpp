#include "core/pack.h"

#include "core/word_table.h"

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

} // namespace

const KeyPosition* Pack::findKeyPosition(std::string_view key) const
{
    return findById(keyPositions, key);
}
const Measure* Pack::findMeasure(std::string_view key) const
{
    return findById(measures, key);
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

const Band* bandFor(const Measure& measure, const std::string& school, std::optional<double> age)
{
    const Band* best = nullptr;
    int bestScore = -1;
    for (const auto& band : measure.bands) {
        if (!band.school.empty() && band.school != school)
            continue;
        const bool aged = band.minAge || band.maxAge;
        if (aged && (!age || *age < band.minAge.value_or(0) || *age > band.maxAge.value_or(200)))
            continue;
        const int score = (band.school.empty() ? 0 : 2) + (aged ? 1 : 0);
        if (score > bestScore) {
            best = &band;
            bestScore = score;
        }
    }
    return best;
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
        if (!m.variants.empty() && !variant.empty() &&
            std::find(m.variants.begin(), m.variants.end(), variant) == m.variants.end())
            continue;
        for (const auto& role : m.points)
            for (const auto& l : landmarksFor(role, hand))
                add(l);
    }
    std::sort(list.begin(), list.end());
    return list;
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

} // namespace kestrel
