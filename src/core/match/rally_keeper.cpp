#include "core/match/rally_keeper.h"

#include <algorithm>
#include <utility>

namespace kestrel {

namespace {

constexpr double kLead = 1.5; // seconds before the first key: a person is late

template <class Word> const Word* findKey(const std::vector<Word>& words, const std::string& key)
{
    const auto it = std::find_if(words.begin(), words.end(), [&](const Word& w) { return w.key == key; });
    return it == words.end() ? nullptr : &*it;
}

} // namespace

bool RallyKeeper::press(const std::string& key, double seconds)
{
    if (const auto* serve = findKey(m_sport.serves, key))
        m_inHand.serve = serve->id;
    else if (const auto* stroke = findKey(m_sport.strokes, key))
        m_inHand.strokes.push_back(stroke->id);
    else if (const auto* ending = findKey(m_sport.endings, key))
        m_inHand.how = ending->id;
    else
        return false;
    if (!m_inHand.from && !m_corrected)
        m_inHand.from = std::max(0.0, seconds - kLead);
    return true;
}

void RallyKeeper::toggleAttacking()
{
    m_inHand.attacking = !m_inHand.attacking.value_or(false);
}

void RallyKeeper::toggleMoved()
{
    m_inHand.moved = !m_inHand.moved.value_or(false);
}

bool RallyKeeper::takeBack()
{
    if (!m_inHand.how.empty())
        m_inHand.how.clear();
    else if (!m_inHand.strokes.empty())
        m_inHand.strokes.pop_back();
    else if (!m_inHand.serve.empty())
        m_inHand.serve.clear();
    else
        return false;
    return true;
}

void RallyKeeper::correct(std::size_t rally, const Rally& r)
{
    m_corrected = rally;
    m_inHand = r;
}

void RallyKeeper::letGo()
{
    m_corrected.reset();
    m_inHand = {};
}

Rally RallyKeeper::finish(const std::string& won, double seconds)
{
    Rally done = std::exchange(m_inHand, {});
    done.won = won;
    if (!m_corrected) {
        if (!done.from)
            done.from = std::max(0.0, seconds - kLead);
        done.to = std::max(seconds, *done.from);
    }
    m_corrected.reset();
    return done;
}

} // namespace kestrel
