#include "report/pack_sheet.h"

#include "report/film_guide.h"

#include <algorithm>
#include <cmath>

namespace kestrel::report {

namespace {

/// A table cell must not end the cell.
std::string cell(std::string text)
{
    for (std::size_t i = 0; (i = text.find('|', i)) != std::string::npos; i += 2)
        text.insert(i, "\\");
    return text;
}

/// "under 10", "from 19", "10 to 13": whole years as people say them.
std::string ageWords(double low, double high)
{
    if (low <= 0)
        return "under " + exactNumber(std::floor(high) + 1);
    return high >= 99 ? "from " + exactNumber(low) : exactNumber(low) + " to " + exactNumber(std::floor(high));
}

template <class List, class Words> std::string joined(const List& list, Words words, const char* between = ", ")
{
    std::string text;
    for (const auto& e : list)
        text += (text.empty() ? "" : between) + words(e);
    return text;
}

/// In brackets, with a space before; nothing for what is for all.
std::string onlyFor(const std::vector<std::string>& variants)
{
    return variants.empty() ? "" : " (" + joined(variants, [](const auto& v) { return v; }) + ")";
}

std::string bandWords(const Pack& pack, const Measure& m, const Band& b)
{
    const auto words = [&](double v) { return m.unit == Unit::ClockHour ? withUnit(v, m.unit) : exactNumber(v); };
    std::string text = b.low && b.high ? words(*b.low) + " to " + words(*b.high)
                       : b.low         ? "above " + words(*b.low)
                                       : "below " + words(*b.high);
    text += suffixOf(m.unit);
    if (const School* school = b.school.empty() ? nullptr : pack.findSchool(b.school))
        text += " (" + school->name + ")";
    if (b.minAge || b.maxAge)
        text += " (age " + ageWords(b.minAge.value_or(0), b.maxAge.value_or(200)) + ")";
    else if (std::any_of(m.bands.begin(), m.bands.end(), [](const Band& other) { return other.minAge || other.maxAge; }))
        text += " (other ages)";
    return text + onlyFor(b.variants) + " " + std::string(letterOf(b.evidence)) + (b.of.empty() ? "" : ": " + b.of);
}

void addMeasures(std::string& page, const Pack& pack)
{
    page += "\n## Measures\n\nBands are G geometry, P commonly reported in papers, T commonly taught.\n\n"
            "| at | measure | what exactly | seen from | target |\n|---|---|---|---|---|\n";
    for (const auto& m : pack.measures) {
        const KeyPosition* from = m.from.empty() ? nullptr : pack.findKeyPosition(m.from);
        const std::string at = (from && m.from != m.at ? from->name + " to " : "") + pack.findKeyPosition(m.at)->name;
        const std::string name = m.name + onlyFor(m.variants);
        std::string what = m.technical;
        if (m.minRate > 0)
            what += "; needs " + exactNumber(m.minRate) + " pictures a second";
        if (!m.doubt.empty())
            what += ". *" + m.doubt + "*";
        page += "| " + cell(at) + " | " + cell(name) + " | " + cell(what) + " | " +
                joined(m.views, [](View v) { return viewWords(v); }) +
                (m.kind->fromTwo ? "; true from side and rear at once" : "") + " | " +
                (m.isReported ? std::string("reported, no band")
                              : cell(joined(
                                    m.bands, [&](const Band& b) { return bandWords(pack, m, b); }, "; "))) +
                " |\n";
    }
}

void addObservations(std::string& page, const Pack& pack)
{
    if (!pack.observations.empty())
        page += "\n## What only eyes can see\n\n";
    for (const auto& o : pack.observations)
        page +=
            "- **" + o.question + "** (at " + pack.findKeyPosition(o.at)->name + ")" + onlyFor(o.variants) + " " +
            joined(
                o.choices,
                [](const Observation::Choice& c) { return c.text + ": *" + std::string(plainWordsOf(c.verdict)) + "*"; }, "; ") +
            ".\n";
    if (pack.sequence)
        page += "\nThe order of pelvis, trunk, upper arm, forearm and implement is read from " +
                pack.findKeyPosition(pack.sequence->from)->name + " to " + pack.findKeyPosition(pack.sequence->to)->name + ".\n";
    for (const auto& e : pack.equipment)
        page += "\nTo age " + exactNumber(e.maxAge) + ": " + e.text + "\n";
}

std::string cueLine(const Cue& cue)
{
    return "Child: \"" + cue.child + "\" Teenager: \"" + cue.teen + "\" Adult: \"" + cue.adult + "\"";
}

void addFaults(std::string& page, const Pack& pack)
{
    page += "\n## Faults\n";
    for (const auto& f : pack.faults) {
        page += "\n### " + f.name + "\n\n" + f.why + "\n\n";
        page += "- Called when " +
                joined(
                    f.conditions,
                    [&](const FaultCondition& c) {
                        const char* side = c.beyond == Beyond::Below   ? " is below"
                                           : c.beyond == Beyond::Above ? " is above"
                                                                       : " is outside";
                        if (const Observation* o = pack.findObservation(c.measure))
                            return "the answer to *" + o->question + "* is off";
                        return "*" + pack.findMeasure(c.measure)->name + "*" + side + " its band";
                    },
                    " or ") +
                ".\n";
        if (!f.costs.empty())
            page += "- Costs: " + joined(f.costs, [](Cost c) { return std::string(wordOf(c)); }) + ".\n";
        page += "- Teachable: under 10 " + exactNumber(f.teachable[0]) + ", 10 to 13 " + exactNumber(f.teachable[1]) +
                ", 14 to 18 " + exactNumber(f.teachable[2]) + ", adult " + exactNumber(f.teachable[3]) + ".\n";
        if (!f.explains.empty())
            page += "- Leads to: " + joined(f.explains, [&](const auto& id) { return pack.findFault(id)->name; }) + ".\n";
        if (!f.caution.empty())
            page += "- **Caution.** " + f.caution + "\n";
        page += "- " + cueLine(f.cue) + "\n";
        for (const auto& other : f.variantCues)
            page += "- (" + joined(other.variants, [](const std::string& v) { return v; }) + ") " + cueLine(other.cue) + "\n";
        page += "- Drills: " + joined(f.drills, [&](const auto& id) { return pack.findDrill(id)->name; }) + ".\n";
    }
}

void addDrills(std::string& page, const Pack& pack)
{
    page += "\n## Drills\n";
    for (const auto& d : pack.drills) {
        page += "\n### " + d.name + "\n\n" + d.purpose + " " + d.setup + "\n\n";
        int number = 0;
        for (const auto& step : d.steps)
            page += std::to_string(++number) + ". " + step + "\n";
        page += "\n" + d.doseWords() + ". Ages: " + ageWords(d.minAge, d.maxAge) + ". Space: " + d.space +
                ". Kit: " + d.kitWords() + ". Feel: " + d.feel + " Avoid: " + d.mistakes + " Easier: " + d.easier +
                " Harder: " + d.harder + (d.caution.empty() ? "" : " **" + d.caution + "**") + "\n";
    }
}

} // namespace

std::string toMarkdown(const Pack& pack)
{
    std::string page = "# " + pack.name + "\n\n**" + pack.caution + "**\n\n" + pack.filmNext + "\n\n## Schools\n\n";
    for (const auto& s : pack.schools)
        page += "- **" + s.name + "**" + (s.note.empty() ? "" : ": " + s.note) + "\n";
    page += "\n## Filming\n\n";
    for (const auto& place : pack.filming)
        page += "- **Seen from the " + std::string(wordOf(place.view)) + "**. " + place.where + " " + place.height + " " +
                place.frame + "\n";
    if (!pack.knownLengths.empty())
        page += "\nA scale can be drawn along: " +
                joined(pack.knownLengths, [](const KnownLength& k) { return k.name + " (" + exactNumber(k.metres) + " m)"; }) +
                ".\n";
    page += "\n## Key positions\n\n";
    int number = 0;
    for (const auto& k : pack.keyPositions)
        page += std::to_string(++number) + ". **" + k.name + "**: " + k.recognise + "\n";
    addMeasures(page, pack);
    addObservations(page, pack);
    addFaults(page, pack);
    addDrills(page, pack);
    return page;
}

} // namespace kestrel::report
