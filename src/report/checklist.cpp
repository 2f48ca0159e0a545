#include "report/checklist.h"

#include "core/judge/conditions.h"
#include "report/page_words.h"
#include "report/reading_still.h"

#include <algorithm>

namespace kestrel::report {

namespace {

constexpr std::size_t kMostStills = 4;

class ChecklistMaker {
public:
    ChecklistMaker(const Pack& pack, const Review& review, const PageFacts& facts, const FrameSource& frames, bool hasUnseen)
        : m_pack(pack), m_review(review), m_facts(facts), m_frames(frames), m_hasUnseen(hasUnseen),
          m_voice(facts.voice.value_or(voiceFor(review.athlete.age)))
    {
    }

    Checklist make()
    {
        m_list.title = m_facts.player.empty() ? "Checklist" : "Checklist for " + m_facts.player;
        m_list.subtitle = m_pack.name + (m_facts.date.empty() ? "" : " · filmed " + filmedOn(m_facts.date));
        m_list.stop = m_review.stop;
        m_list.caution = m_pack.caution;
        for (const auto& k : m_pack.keyPositions) {
            CheckGroup group{k.name, {}};
            for (const auto& fault : m_pack.faults)
                if (keyPositionOf(fault) == k.id)
                    addPoint(fault, group);
            if (!group.points.empty())
                m_list.groups.push_back(std::move(group));
        }
        return std::move(m_list);
    }

private:
    /// Where in the movement its first condition is looked at.
    std::string keyPositionOf(const Fault& fault) const
    {
        for (const auto& c : fault.conditions) {
            if (const Measure* m = m_pack.findMeasure(c.measure))
                return m->at;
            if (const Observation* o = m_pack.findObservation(c.measure))
                return o->at;
        }
        return {};
    }

    bool isLeftOut(const Fault& fault) const
    {
        return fault.teachable[ageGroupOf(m_review.athlete.age)] <= 0 ||
               std::find(m_review.next.begin(), m_review.next.end(), fault.id) != m_review.next.end();
    }

    const FaultFinding* findingOf(const Fault& fault) const
    {
        const auto it = std::find_if(m_review.faults.begin(), m_review.faults.end(),
                                     [&](const FaultFinding& f) { return f.fault == fault.id; });
        return it == m_review.faults.end() ? nullptr : &*it;
    }

    /// Off is to be worked on; on target or near it is right; everything else was not seen.
    CheckState stateOf(const Fault& fault) const
    {
        if (const FaultFinding* f = findingOf(fault); f && f->verdict == Verdict::Off)
            return CheckState::WorkOnIt;
        const auto isFine = [](Verdict v) { return v == Verdict::OnTarget || v == Verdict::Near; };
        for (const auto& c : fault.conditions) {
            const Reading* r = m_review.findReading(c.measure);
            // off to the other side is another fault's: of this one the film says that it is not there
            if (r && (isFine(r->verdict) || (r->verdict == Verdict::Off && !isBeyond(*r, c.beyond))))
                return CheckState::Right;
            for (const auto& o : m_review.observed)
                if (o.observation == c.measure && isFine(o.verdict))
                    return CheckState::Right;
        }
        return CheckState::NotSeen;
    }

    void addPoint(const Fault& fault, CheckGroup& group)
    {
        CheckPoint point;
        point.state = stateOf(fault);
        const bool isOff = point.state == CheckState::WorkOnIt;
        if (isLeftOut(fault) || (isOff && !m_list.stop.empty()) || (point.state == CheckState::NotSeen && !m_hasUnseen))
            return;
        const Cue& cue = m_review.oneThing && m_review.oneThing->fault == fault.id ? m_review.oneThing->cue : fault.cue;
        point.text = inVoice(cue, m_voice);
        // two faults may share a cue: the player reads it once, at its worst
        for (auto& other : group.points)
            if (other.text == point.text) {
                if (isOff)
                    other.state = point.state;
                return;
            }
        point.isTheOne = isOff && m_review.oneThing && m_review.oneThing->fault == fault.id;
        if (isOff && m_stills < kMostStills)
            if (const FaultFinding* f = findingOf(fault); f && !f->measures.empty())
                if (const Reading* r = m_review.findReading(f->measures.front())) {
                    point.still = readingStill(m_pack, *r, m_frames, m_voice != Voice::Child, m_list.warnings);
                    m_stills += point.still.image.isNull() ? 0 : 1;
                }
        group.points.push_back(std::move(point));
    }

    const Pack& m_pack;
    const Review& m_review;
    const PageFacts& m_facts;
    const FrameSource& m_frames;
    bool m_hasUnseen;
    Voice m_voice;
    std::size_t m_stills = 0;
    Checklist m_list;
};

} // namespace

const char* wordsOf(CheckState state)
{
    switch (state) {
    case CheckState::Right:
        return "right";
    case CheckState::WorkOnIt:
        return "work on it";
    case CheckState::NotSeen:
        return "not seen on this film";
    }
    return "";
}

Checklist makeChecklist(const Pack& pack, const Review& review, const PageFacts& facts, const FrameSource& frames, bool hasUnseen)
{
    return ChecklistMaker(pack, review, facts, frames, hasUnseen).make();
}

} // namespace kestrel::report
