#include "core/read/sequence.h"

#include "core/base/word_table.h"
#include "core/measure/shared.h"
#include "core/read/reading.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace kestrel {

namespace {

constexpr WordRow<Segment> kWords[] = {{Segment::Pelvis, "pelvis"},
                                       {Segment::Trunk, "trunk"},
                                       {Segment::UpperArm, "upper_arm"},
                                       {Segment::Forearm, "forearm"},
                                       {Segment::Implement, "implement"}};
constexpr WordRow<Segment> kPlainWords[] = {{Segment::Pelvis, "pelvis"},
                                            {Segment::Trunk, "trunk"},
                                            {Segment::UpperArm, "upper arm"},
                                            {Segment::Forearm, "forearm"},
                                            {Segment::Implement, "implement"}};
constexpr WordRow<Order> kOrders[] = {
    {Order::InOrder, "in_order"}, {Order::OutOfOrder, "out_of_order"}, {Order::TooCloseToCall, "too_close_to_call"}};

constexpr std::uint32_t kSequenceDraws = 10; // an interval for an instant needs fewer than a band's edge
constexpr std::size_t kLeastSamples = 5;

/// The near and the far end of each segment.
constexpr std::array<std::pair<const char*, const char*>, 5> kEnds{{{"hip.off", "hip.dom"},
                                                                    {"shoulder.off", "shoulder.dom"},
                                                                    {"shoulder.dom", "elbow.dom"},
                                                                    {"elbow.dom", "wrist.dom"},
                                                                    {"implement.grip", "implement.tip"}}};

/// A segment's ends made ready over the pack's span.
struct Traced {
    Segment segment;
    std::vector<PointPath> ends;
    FramePosition from, to;

    Curve turning(const PreparedRepetition& repetition, ErrorSample sample) const
    {
        return turningAlong(MeasureInput(repetition, ends, from, to).under(sample, 0, 0), 0, 1);
    }
};

std::vector<Traced> traced(const Pack& pack, const PreparedRepetition& repetition)
{
    std::vector<Traced> list;
    if (!pack.sequence)
        return list;
    const Event* from = findEvent(repetition.marking(), pack.sequence->from);
    const Event* to = findEvent(repetition.marking(), pack.sequence->to);
    if (!from || !to || !(from->frame < to->frame))
        return list;
    for (std::size_t i = 0; i < kEnds.size(); ++i) {
        Traced t{kWords[i].value, {}, from->frame, to->frame};
        for (const char* end : {kEnds[i].first, kEnds[i].second})
            t.ends.emplace_back(repetition, *findPointRole(end));
        if (t.turning(repetition, ErrorSample()).seconds.size() >= kLeastSamples)
            list.push_back(std::move(t));
    }
    if (list.size() < 2)
        list.clear();
    return list;
}

double deviation(const std::vector<double>& values)
{
    double mean = 0, squares = 0;
    for (const double v : values)
        mean += v / static_cast<double>(values.size());
    for (const double v : values)
        squares += (v - mean) * (v - mean);
    return values.size() < 2 ? 0 : std::sqrt(squares / static_cast<double>(values.size() - 1));
}

std::string milliseconds(double seconds)
{
    return withUnit(1000 * seconds, Unit::Millisecond);
}

/// Sets order and sentence. \param gapErrors  of the time from each peak to the next, one standard deviation
void describe(Sequence& s, const std::vector<double>& gapErrors)
{
    std::string names, gaps, doubtful, wrong;
    for (std::size_t i = 0; i < s.peaks.size(); ++i) {
        const std::string name(plainWordsOf(s.peaks[i].segment));
        names += (i == 0 ? "" : i + 1 == s.peaks.size() ? " and " : ", ") + name;
        if (i == 0)
            continue;
        const double gap = s.peaks[i].seconds - s.peaks[i - 1].seconds, reach = kWhisker * gapErrors[i - 1];
        gaps += (gaps.empty() ? "" : i + 1 == s.peaks.size() ? " and " : ", ") + milliseconds(gap);
        const std::string before(plainWordsOf(s.peaks[i - 1].segment));
        if (std::abs(gap) <= reach)
            doubtful += (doubtful.empty() ? "" : "; ") + before + " and " + name + " within ±" + milliseconds(reach);
        else if (gap < 0)
            wrong += (wrong.empty() ? "" : "; ") + name + " " + milliseconds(-gap) + " before the " + before;
    }
    const std::string seen = "As the " + plainWordsOf(s.view) + " view shows it, ";
    if (!wrong.empty()) {
        s.order = Order::OutOfOrder;
        s.sentence = seen + "a segment turns fastest too early: " + wrong + ".";
    } else if (!doubtful.empty()) {
        s.order = Order::TooCloseToCall;
        s.sentence = seen + "the order is too close to call: " + doubtful + ". More pictures per second would settle it.";
    } else {
        s.order = Order::InOrder;
        s.sentence = seen + names + " turn fastest one after another, " + gaps + " apart.";
    }
}

} // namespace

std::vector<SegmentCurve> segmentCurves(const Pack& pack, const PreparedRepetition& repetition)
{
    std::vector<SegmentCurve> curves;
    for (const auto& t : traced(pack, repetition))
        curves.push_back({t.segment, t.turning(repetition, ErrorSample())});
    return curves;
}

std::optional<Sequence> calcSequence(const Pack& pack, const PreparedRepetition& repetition)
{
    const auto list = traced(pack, repetition);
    if (list.empty())
        return std::nullopt;
    Sequence s;
    s.view = repetition.marking().scene.view;
    const double start = repetition.clock().timeOf(list.front().from)->seconds;
    std::vector<std::vector<double>> instants(list.size()); // per segment, by draw
    for (std::uint32_t n = 0; n <= kSequenceDraws; ++n)
        for (std::size_t i = 0; i < list.size(); ++i) {
            const auto peak = peakOf(list[i].turning(repetition, ErrorSample(n)));
            if (!peak)
                return std::nullopt;
            if (n == 0)
                s.peaks.push_back({list[i].segment, peak->seconds - start, 0, peak->value});
            else
                instants[i].push_back(peak->seconds);
        }
    // even spread of the true instant between two pictures
    const double betweenPictures = repetition.clock().meanInterval() / std::sqrt(12.0);
    std::vector<double> gapErrors;
    for (std::size_t i = 0; i < list.size(); ++i) {
        s.peaks[i].uncertainty = std::hypot(deviation(instants[i]), betweenPictures);
        if (i == 0)
            continue;
        std::vector<double> gaps;
        for (std::size_t k = 0; k < instants[i].size(); ++k)
            gaps.push_back(instants[i][k] - instants[i - 1][k]);
        gapErrors.push_back(std::hypot(deviation(gaps), std::sqrt(2.0) * betweenPictures));
    }
    describe(s, gapErrors);
    return s;
}

Curve calcCurve(const Measure& measure, const PreparedRepetition& repetition)
{
    Curve curve;
    const Marking& m = repetition.marking();
    if (std::find(measure.views.begin(), measure.views.end(), m.scene.view) == measure.views.end() || measure.points.empty())
        return curve;
    std::vector<PointPath> operands;
    std::int64_t first = m.film.frames, last = -1;
    for (const auto& role : measure.points)
        operands.emplace_back(repetition, role);
    for (const auto& mark : m.marks) {
        first = std::min(first, mark.frame.value);
        last = std::max(last, mark.frame.value);
    }
    const Event* start = measure.from.empty() ? nullptr : findEvent(m, measure.from);
    if (!measure.from.empty() && !start)
        return curve;
    if (start)
        first = std::max(first, static_cast<std::int64_t>(std::ceil(start->frame.value)));
    for (std::int64_t f = first; f <= last; ++f) {
        const FramePosition now{FrameIndex(f)};
        const MeasureInput in(repetition, operands, start ? start->frame : now, now);
        const auto value = measure.kind->value(in);
        const auto time = repetition.clock().timeOf(now);
        const auto number = value ? convert(*value, measure.unit, m.athlete.heightMetres) : std::nullopt;
        if (number && time && std::isfinite(*number))
            curve.add(time->seconds, *number);
    }
    return curve;
}

std::string_view wordOf(Segment s)
{
    return wordIn(kWords, s);
}
std::optional<Segment> findSegment(std::string_view w)
{
    return findIn(kWords, w);
}
std::string_view plainWordsOf(Segment s)
{
    return wordIn(kPlainWords, s);
}
std::string_view wordOf(Order o)
{
    return wordIn(kOrders, o);
}
std::optional<Order> findOrder(std::string_view w)
{
    return findIn(kOrders, w);
}

} // namespace kestrel
