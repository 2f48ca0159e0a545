#include "report/page.h"

#include "report/page_words.h"
#include "report/reading_still.h"

#include <algorithm>
#include <cctype>
#include <set>

namespace kestrel::report {

namespace {

constexpr std::size_t kMostStrengths = 2, kMostNotes = 2;
/// What belongs on a page for the family, most important first; schools and the like are the coach's.
constexpr RemarkKind kNotes[] = {RemarkKind::Rules, RemarkKind::Equipment, RemarkKind::Seen, RemarkKind::CanDoIt,
                                 RemarkKind::Growth};

class PageMaker {
public:
    PageMaker(const Pack& pack, const Review& review, const PageFacts& facts, const FrameSource& frames)
        : m_pack(pack), m_review(review), m_facts(facts), m_frames(frames)
    {
    }

    Page make()
    {
        m_page.voice = m_facts.voice.value_or(voiceFor(m_review.athlete.age));
        m_page.extra = m_facts.extra;
        m_page.title = m_facts.player.empty() ? "Your page" : "For " + m_facts.player;
        m_page.subtitle = m_pack.name;
        if (m_review.athlete.age)
            m_page.subtitle += " · " + std::to_string(static_cast<int>(*m_review.athlete.age)) + " years";
        if (!m_facts.date.empty())
            m_page.subtitle += " · filmed " + filmedOn(m_facts.date);
        addStrengths();
        addSince();
        addTask();
        addHonesty();
        addNotes();
        m_page.caution = m_pack.caution;
        m_page.filmNext = m_pack.filmNext;
        return std::move(m_page);
    }

private:
    void addStrengths()
    {
        for (const auto& s : m_review.strengths) {
            if (m_page.strengths.size() == kMostStrengths)
                break;
            const Reading* r = m_review.findReading(s.measure);
            m_page.strengths.push_back({s.text, r ? still(*r, 3.6) : Still{}});
        }
    }

    /// "Since your last page"; where pain stops everything there is nothing to go on with.
    void addSince()
    {
        if (!m_facts.followUp || !m_review.stop.empty())
            return;
        const FollowUp& f = *m_facts.followUp;
        const Fault* fault = m_pack.findFault(f.fault);
        m_page.since =
            (fault ? "“" + inVoice(fault->cue, m_page.voice) + "”: " : std::string()) + std::string(plainWordsOf(f.step)) + ".";
        if (m_page.voice != Voice::Child) // numbers are small print, and not for a child
            m_page.since += " " + f.reason;
    }

    void addTask()
    {
        const auto anyRead =
            std::any_of(m_review.readings.begin(), m_review.readings.end(), [](const Reading& r) { return hasValue(r.verdict); });
        m_page.stop = m_review.stop;
        if (!m_page.stop.empty())
            return;
        if (!m_review.oneThing) {
            m_page.noTask = anyRead ? "Nothing here is clearly off. Keep it like this, and film again in four weeks."
                                    : "Too little is marked on this film to say anything yet.";
            return;
        }
        const OneThing& thing = *m_review.oneThing;
        const Fault* fault = m_pack.findFault(thing.fault);
        PageTask task;
        task.cue = inVoice(thing.cue, m_page.voice);
        task.because = becauseOf(thing, fault);
        task.severity = std::string(plainWordsOf(thing.severity));
        const auto finding = std::find_if(m_review.faults.begin(), m_review.faults.end(),
                                          [&](const FaultFinding& f) { return f.fault == thing.fault; });
        if (finding != m_review.faults.end() && !finding->measures.empty())
            if (const Reading* r = m_review.findReading(finding->measures.front()))
                task.still = still(*r, 2.2);
        if (const Drill* drill = thing.drills.empty() ? nullptr : m_pack.findDrill(thing.drills.front()))
            task.drill = *drill;
        if (const Drill* other = thing.drills.size() < 2 ? nullptr : m_pack.findDrill(thing.drills[1]))
            task.otherDrill = "Or instead: " + other->name + ", " + other->dose + ".";
        // of every called fault, whether or not it is the one thing; reviews written before had no list of them
        std::vector<std::string> cautions{fault ? fault->caution : ""};
        for (const auto& c : m_review.cautions)
            cautions.push_back(c.text);
        cautions.push_back(task.drill.caution);
        std::set<std::string> said;
        for (const auto& c : cautions)
            if (!c.empty() && said.insert(c).second)
                task.caution += (task.caution.empty() ? "" : " ") + c;
        m_page.task = std::move(task);
        for (const auto& next : m_review.alsoNow) {
            std::string sentence = inVoice(next.cue, m_page.voice);
            if (const Drill* drill = next.drills.empty() ? nullptr : m_pack.findDrill(next.drills.front()))
                sentence += " Drill: " + drill->name + ", " + drill->dose + ".";
            m_page.also.push_back(std::move(sentence));
        }
        for (const auto& id : m_review.later)
            if (const Fault* f = m_pack.findFault(id))
                m_page.later += (m_page.later.empty() ? "" : "; ") + f->name;
    }

    /// In the player's words where the pack has them: "Your back knee bends too far, so your head drops."
    std::string becauseOf(const OneThing& thing, const Fault* fault) const
    {
        if (!fault || (fault->says.empty() && m_page.voice != Voice::Child))
            return thing.why;
        if (fault->says.empty())
            return fault->why;
        std::string sentence = fault->says;
        sentence[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(sentence[0])));
        for (const auto& finding : m_review.faults)
            if (finding.fault == thing.fault)
                for (const auto& id : finding.explains)
                    if (const Fault* effect = m_pack.findFault(id); effect && !effect->says.empty())
                        return sentence + ", so " + effect->says + ". " + fault->why;
        return sentence + ". " + fault->why;
    }

    const Remark* findRemark(RemarkKind kind) const
    {
        const auto it =
            std::find_if(m_review.remarks.begin(), m_review.remarks.end(), [kind](const Remark& r) { return r.kind == kind; });
        return it == m_review.remarks.end() ? nullptr : &*it;
    }

    void addHonesty()
    {
        const bool isTypical = m_review.repetitions > 1;
        const bool isCompared = std::any_of(m_review.readings.begin(), m_review.readings.end(),
                                            [](const Reading& r) { return r.spread.has_value(); });
        m_page.honesty =
            isTypical ? "This is the typical one of " + std::to_string(m_review.repetitions) + " repetitions" + onClips() + "."
                      : "This rests on one repetition. One repetition proves nothing: film three more before believing it.";
        if (const Remark* r = isCompared ? findRemark(RemarkKind::Habit) : nullptr) // how much it varies is for the coach
            m_page.honesty += " " + r->text;
    }

    /// " on 3 clips"; empty: all are on one.
    std::string onClips() const
    {
        const std::set<std::string> films(m_review.films.begin(), m_review.films.end());
        return films.size() > 1 ? " on " + std::to_string(films.size()) + " clips" : std::string();
    }

    void addNotes()
    {
        for (const auto kind : kNotes)
            if (const Remark* r = m_page.notes.size() < kMostNotes ? findRemark(kind) : nullptr)
                m_page.notes.push_back(r->text);
    }

    Still still(const Reading& r, double unit)
    {
        return readingStill(m_pack, r, m_frames, m_page.voice != Voice::Child, m_page.warnings, unit);
    }

    const Pack& m_pack;
    const Review& m_review;
    const PageFacts& m_facts;
    const FrameSource& m_frames;
    Page m_page;
};

} // namespace

Voice voiceFor(std::optional<double> age)
{
    constexpr double kLastChildAge = 11, kFirstAdultAge = 19;
    if (!age)
        return Voice::Teen;
    return *age < kLastChildAge ? Voice::Child : *age < kFirstAdultAge ? Voice::Teen : Voice::Adult;
}

const std::string& inVoice(const Cue& cue, Voice voice)
{
    return voice == Voice::Child ? cue.child : voice == Voice::Teen ? cue.teen : cue.adult;
}

Page makePage(const Pack& pack, const Review& review, const PageFacts& facts, const FrameSource& frames)
{
    return PageMaker(pack, review, facts, frames).make();
}

} // namespace kestrel::report
