#include "core/measure/verdict.h"

#include "core/base/word_table.h"

namespace kestrel {

namespace {

constexpr WordRow<Verdict> kWords[] = {
    {Verdict::OnTarget, "on_target"},
    {Verdict::Near, "near"},
    {Verdict::Off, "off"},
    {Verdict::TooCloseToCall, "too_close_to_call"},
    {Verdict::NotFromThisView, "not_from_this_view"},
    {Verdict::NotMarked, "not_marked"},
    {Verdict::TooFewFrames, "too_few_frames"},
};
constexpr WordRow<Verdict> kPlainWords[] = {
    {Verdict::OnTarget, "on target"},
    {Verdict::Near, "near"},
    {Verdict::Off, "off"},
    {Verdict::TooCloseToCall, "too close to call"},
    {Verdict::NotFromThisView, "not from this view"},
    {Verdict::NotMarked, "not marked"},
    {Verdict::TooFewFrames, "too few frames"},
};

} // namespace

std::string_view wordOf(Verdict v)
{
    return wordIn(kWords, v);
}
std::optional<Verdict> findVerdict(std::string_view w)
{
    return findIn(kWords, w);
}
std::string_view plainWordsOf(Verdict v)
{
    return wordIn(kPlainWords, v);
}

} // namespace kestrel
