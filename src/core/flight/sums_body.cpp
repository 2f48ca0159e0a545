// Twice the pull, and growth.

#include "core/flight/sum_tools.h"

#include <cmath>

namespace kestrel::sums {

namespace {

using Line = SumPicture::Line;

SumCard pull()
{
    SumCard card{"pull",
                 "Twice the pull",
                 "How much faster does a longer pull make it?",
                 "",
                 {{"ratio", "The way is longer by a factor of", "", 0.1, 10, 2, 0}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            return Values{{"speed_ratio", std::sqrt(get(i, "ratio"))}};
        };
        SumAnswer a;
        a.results = *withRanges(card, in, {{"speed_ratio", "", "Faster by a factor of"}}, exact);
        a.assumes = {"the same force over the whole way: its work is the energy of the motion"};
        a.sentence = "The speed is " + text(a.results[0].value) + " times as high.";
        const double ratio = get(in, "ratio"), got = a.results[0].value;
        a.claim = {"Twice the pull, twice the speed.",
                   std::abs(got / ratio - 1) < 0.02  ? ClaimVerdict::Holds
                   : std::abs(got / ratio - 1) < 0.1 ? ClaimVerdict::Partly
                                                     : ClaimVerdict::DoesNotHold,
                   text(ratio) + " times the way gives " + text(got) +
                       " times the speed: energy grows with the way, and speed with the root of energy."};
        SumPicture::Line line{Line::Kind::Path, {}, "speed"};
        for (double r = 0; r <= 4; r += 0.05)
            line.points.push_back({r, std::sqrt(r)});
        a.picture.lines = {lineOf({{0, 0}, {4, 4}}, Line::Kind::Other, "as claimed"), line};
        a.picture.marks = {{{ratio, got}, text(got)}};
        a.picture.acrossWords = "way";
        a.picture.upWords = "speed";
        a.picture.isTrue = false;
        a.caution = "A longer pull-back loads the shoulder more: strength and a licensed professional's advice come first.";
        return a;
    };
    return card;
}

SumCard growth()
{
    SumCard card{"growth",
                 "Growth",
                 "What does a taller body do to lengths, time and speed?",
                 "",
                 {{"height-before", "Height before", "m", 0.8, 2.3, 1.50, 0.005},
                  {"height-after", "Height after", "m", 0.8, 2.3, 1.58, 0.005},
                  {"length-before", "A length before, such as the stride", "m", 0.01, 4, 1.2, 0.02}},
                 {}};
    card.work = [card](const SumInput& in) -> Expected<SumAnswer> {
        const auto exact = [](const SumInput& i) -> Expected<Values> {
            const double r = get(i, "height-after") / get(i, "height-before");
            return Values{{"length_after", get(i, "length-before") * r},
                          {"length_ratio", r},
                          {"speed_ratio", r},
                          {"time_ratio", std::sqrt(r)},
                          {"same_length_share", 100 * get(i, "length-before") / get(i, "height-after")}};
        };
        SumAnswer a;
        a.results = *withRanges(card, in,
                                {{"length_after", "m", "The same length, grown along"},
                                 {"length_ratio", "", "Lengths times"},
                                 {"speed_ratio", "", "End of a limb at the same turning speed, times"},
                                 {"time_ratio", "", "A free swing takes, times"},
                                 {"same_length_share", "% of height", "The old length on the new body"}},
                                exact);
        a.assumes = {"the body grows alike everywhere, which the growth spurt does not quite do",
                     "angles do not change by growing"};
        a.sentence = "Grown along, it would be " + range(a.results[0]) + ".";
        const double before = 100 * get(in, "length-before") / get(in, "height-before"),
                     after = a.find("same_length_share")->value;
        const double lost = before - after;
        a.claim = {"The stride is as long as last year, so nothing has changed.",
                   std::abs(lost) < 1   ? ClaimVerdict::Holds
                   : std::abs(lost) < 3 ? ClaimVerdict::Partly
                                        : ClaimVerdict::DoesNotHold,
                   "The same length was " + text(before) + " % of the height and is " + text(after) +
                       " % now. Compare in % of height, and expect some awkward weeks after fast growth."};
        a.picture.lines = {lineOf({{0, 0}, {3, 0}}, Line::Kind::Ground),
                           lineOf({{1, 0}, {1, get(in, "height-before")}}, Line::Kind::Other, "before"),
                           lineOf({{2, 0}, {2, get(in, "height-after")}}, Line::Kind::Path, "after")};
        a.picture.upWords = "metres";
        a.picture.isTrue = false;
        return a;
    };
    return card;
}

} // namespace

std::vector<SumCard> bodyCards()
{
    return {pull(), growth()};
}

} // namespace kestrel::sums
