#include "core/scene/marking.h"

#include "core/base/word_table.h"

#include <algorithm>

namespace kestrel {

namespace {

constexpr WordRow<View> kViews[] = {
    {View::Side, "side"}, {View::SideBack, "side_back"}, {View::Front, "front"},
    {View::Rear, "rear"}, {View::Overhead, "overhead"},  {View::Diagonal, "diagonal"},
};
constexpr WordRow<TargetDirection> kDirections[] = {
    {TargetDirection::Left, "left"},
    {TargetDirection::Right, "right"},
    {TargetDirection::Away, "away"},
    {TargetDirection::Toward, "toward"},
};
constexpr WordRow<Source> kSources[] = {
    {Source::Coach, "coach"},
    {Source::Tracked, "tracked"},
    {Source::Network, "network"},
    {Source::Simulated, "simulated"},
};
constexpr WordRow<Hand> kHands[] = {{Hand::Right, "right"}, {Hand::Left, "left"}};

template <class List, class Same, class Item> bool replaceOrAdd(List& list, Same same, const Item& item)
{
    const auto it = std::find_if(list.begin(), list.end(), same);
    if (it == list.end()) {
        list.push_back(item);
        return true;
    }
    if (it->source == Source::Coach && item.source != Source::Coach)
        return false;
    *it = item;
    return true;
}

} // namespace

const Event* findEvent(const Marking& m, std::string_view keyPosition)
{
    const auto it = std::find_if(m.events.begin(), m.events.end(), [&](const Event& e) { return e.keyPosition == keyPosition; });
    return it == m.events.end() ? nullptr : &*it;
}

const Mark* findMark(const Marking& m, FrameIndex frame, const Landmark& landmark)
{
    const auto it =
        std::find_if(m.marks.begin(), m.marks.end(), [&](const Mark& k) { return k.frame == frame && k.landmark == landmark; });
    return it == m.marks.end() ? nullptr : &*it;
}

bool setEvent(Marking& m, const Event& e)
{
    return replaceOrAdd(
        m.events, [&](const Event& x) { return x.keyPosition == e.keyPosition; }, e);
}

bool setMark(Marking& m, const Mark& k)
{
    return replaceOrAdd(
        m.marks, [&](const Mark& x) { return x.frame == k.frame && x.landmark == k.landmark; }, k);
}

std::string_view wordOf(View v)
{
    return wordIn(kViews, v);
}
std::string plainWordsOf(View v)
{
    std::string word(wordOf(v));
    std::replace(word.begin(), word.end(), '_', ' ');
    return word;
}
std::string_view wordOf(TargetDirection d)
{
    return wordIn(kDirections, d);
}
std::string_view wordOf(Source s)
{
    return wordIn(kSources, s);
}
std::string_view wordOf(Hand h)
{
    return wordIn(kHands, h);
}
std::optional<View> findView(std::string_view w)
{
    return findIn(kViews, w);
}
std::optional<TargetDirection> findTargetDirection(std::string_view w)
{
    return findIn(kDirections, w);
}
std::optional<Source> findSource(std::string_view w)
{
    return findIn(kSources, w);
}
std::optional<Hand> findHand(std::string_view w)
{
    return findIn(kHands, w);
}

TargetDirection usualTargetDirection(View view, Hand hand, bool leadIsDom)
{
    const bool right = (hand == Hand::Right) != leadIsDom;
    switch (view) {
    case View::Side:
    case View::Diagonal:
    case View::Overhead:
        return right ? TargetDirection::Right : TargetDirection::Left;
    case View::SideBack:
        return right ? TargetDirection::Left : TargetDirection::Right;
    case View::Rear:
        return TargetDirection::Away;
    case View::Front:
        return TargetDirection::Toward;
    }
    return TargetDirection::Right;
}

} // namespace kestrel
