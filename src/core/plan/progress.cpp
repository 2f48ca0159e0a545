#include "core/plan/progress.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdio>

namespace kestrel {

namespace {

constexpr double kFastGrowth = 0.07; // metres a year: the spurt

std::string fixed(double v, int digits)
{
    char text[32];
    std::snprintf(text, sizeof text, "%.*f", digits, v);
    return text;
}

} // namespace

Progress calcProgress(const Pack& pack, const std::string& measure, const std::vector<ProgressDay>& days)
{
    Progress p;
    p.measure = measure;
    const Measure* known = pack.findMeasure(measure);
    if (known)
        p.unit = known->unit;
    const ProgressDay* first = nullptr;
    for (const auto& day : days) {
        const DayChange alone = calcChange(pack, day.readings, day.readings, measure);
        const MeasureChange* m = alone.find(measure);
        if (!m || m->before == 0)
            continue;
        for (const auto& repetition : day.readings)
            for (const auto& r : repetition)
                if (r.measure == measure && hasValue(r.verdict)) {
                    p.unit = r.unit;
                    p.low = r.low;
                    p.high = r.high;
                }
        // a day against itself: twice the variance of its mean
        p.points.push_back({day.date, m->before, m->meanBefore, m->uncertainty / std::sqrt(2.0)});
        if (!first) {
            first = &day;
            continue;
        }
        const DayChange change = calcChange(pack, first->readings, day.readings, measure);
        const MeasureChange* c = change.find(measure);
        p.verdict = c ? c->verdict : ChangeVerdict::NotComparable;
        p.smallestReal = c && c->before > 1 && c->after > 1 ? c->smallestReal : 0;
        const bool isReal =
            p.verdict == ChangeVerdict::Better || p.verdict == ChangeVerdict::Worse || p.verdict == ChangeVerdict::Changed;
        if (!isReal)
            p.realSince.reset();
        else if (!p.realSince)
            p.realSince = day.date;
    }
    if (p.points.empty()) {
        p.words = "Not read on any filming day yet.";
        return p;
    }
    const auto count = p.points.size();
    p.words = std::to_string(count) + (count == 1 ? " day, " : " days, ") +
              (count == 1 ? withUnit(p.points.front().mean, p.unit)
                          : "from " + withUnit(p.points.front().mean, p.unit) + " to " + withUnit(p.points.back().mean, p.unit));
    if (p.realSince)
        p.words += ", " + std::string(plainWordsOf(p.verdict)) + " since " + textOf(*p.realSince);
    else if (count > 1)
        p.words += p.smallestReal > 0
                       ? ", no change that can be told from noise (" + differenceWithUnit(p.smallestReal, p.unit) + " would be)"
                       : ", too few repetitions to tell";
    return p;
}

std::optional<bool> cameOff(const std::string& outcome)
{
    std::string words;
    for (const char c : outcome)
        words += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    const auto isOneOf = [&](std::initializer_list<const char*> list) {
        return std::any_of(list.begin(), list.end(), [&](const char* w) { return words == w; });
    };
    if (isOneOf({"in", "made", "strike", "goal", "hit", "good", "winner", "ace", "on target"}))
        return true;
    if (isOneOf({"out", "missed", "miss", "ball", "wide", "net", "long", "short", "high", "low", "fault", "foul", "saved"}))
        return false;
    return std::nullopt;
}

std::string growthWords(const std::vector<HeightOn>& heights)
{
    if (heights.empty())
        return {};
    const HeightOn& last = heights.back();
    std::string words = fixed(last.metres, 2) + " m on " + textOf(last.date);
    // against the latest one that is at least a quarter of a year older: a ruler's error over weeks is no growth
    const auto before =
        std::find_if(heights.rbegin(), heights.rend(), [&](const HeightOn& h) { return daysBetween(h.date, last.date) >= 91; });
    if (before == heights.rend())
        return words;
    const double rate = (last.metres - before->metres) / (daysBetween(before->date, last.date) / 365.25);
    words += ", " + fixed(100 * rate, 1) + " cm a year since " + textOf(before->date);
    if (rate >= kFastGrowth)
        words += ": fast growth. Expect some awkward weeks, compare lengths in % of height, and go easy on jumps and throwing";
    return words;
}

Progress calcGrowth(const std::vector<HeightOn>& heights)
{
    constexpr double kTape = 0.5; // centimetres, one standard deviation of a height measured at home
    Progress p;
    p.measure = "height";
    p.unit = Unit::Centimetre;
    for (const auto& h : heights)
        p.points.push_back({h.date, 1, 100 * h.metres, kTape});
    p.words = growthWords(heights);
    return p;
}

std::string adherenceWords(const std::vector<Date>& planned, const Book& book, Date today)
{
    int due = 0, done = 0;
    for (const Date date : planned) {
        if (date > today)
            continue;
        ++due;
        const BookDay* day = book.find(date);
        done += day && !day->isEmpty();
    }
    return due == 0 ? std::string() : std::to_string(done) + " of " + std::to_string(due) + " planned days were practised";
}

} // namespace kestrel
