#include "core/judge/pain.h"

#include "core/base/word_table.h"

namespace kestrel {

namespace {

constexpr WordRow<BodyRegion> kRegions[] = {
    {BodyRegion::Neck, "neck"},   {BodyRegion::Shoulder, "shoulder"}, {BodyRegion::Elbow, "elbow"},
    {BodyRegion::Wrist, "wrist"}, {BodyRegion::Back, "back"},         {BodyRegion::Hip, "hip"},
    {BodyRegion::Knee, "knee"},   {BodyRegion::Ankle, "ankle"},       {BodyRegion::Other, "other"}};

} // namespace

std::string_view wordOf(BodyRegion r)
{
    return wordIn(kRegions, r);
}

std::optional<BodyRegion> findBodyRegion(std::string_view word)
{
    return findIn(kRegions, word);
}

std::string wordsOf(const std::set<BodyRegion>& regions)
{
    std::string words;
    for (const auto r : regions)
        words += (words.empty() ? "" : ", ") + std::string(wordOf(r));
    return words;
}

std::set<BodyRegion> findBodyRegions(std::string_view words)
{
    std::set<BodyRegion> regions;
    std::string word;
    const auto end = [&] {
        if (!word.empty())
            regions.insert(findBodyRegion(word).value_or(BodyRegion::Other));
        word.clear();
    };
    for (const char c : words) {
        if (c == ',' || c == ' ')
            end();
        else
            word += c;
    }
    end();
    return regions;
}

std::string sentenceAboutPain(const std::set<BodyRegion>& regions)
{
    if (regions.empty())
        return {};
    std::string where;
    std::size_t n = 0;
    for (const auto r : regions) {
        ++n;
        where += (n == 1 ? "" : n == regions.size() ? " and " : ", ");
        where += r == BodyRegion::Other ? "another place" : "the " + std::string(wordOf(r));
    }
    return "Pain in " + where +
           " is noted: stop, and see a licensed clinician before playing on. This film gives no "
           "cue and no drill; what it shows is kept.";
}

} // namespace kestrel
