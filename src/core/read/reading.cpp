#include "core/read/reading.h"

#include "core/measure/calibration.h"
#include "core/read/time_order.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace kestrel {

namespace {

constexpr std::uint64_t kEventKey = 0xe0e0;

/// Degrees: a whisker as long as this goes round, and no edge of a band surely lies outside it.
constexpr double kAnyDirection = 90;
constexpr double kAnyClockHour = 3; // the same on a clock face

std::string bandText(const Reading& r)
{
    if (r.low && r.high)
        return (r.unit == Unit::ClockHour ? withUnit(*r.low, r.unit) : shortNumber(*r.low)) + " to " + withUnit(*r.high, r.unit);
    return r.low ? "above " + withUnit(*r.low, r.unit) : "below " + withUnit(*r.high, r.unit);
}

/// The whisker is as long as everything the value could be. Rates are peaks of what is never below zero.
bool couldBeAnything(const Reading& r)
{
    const double reach = r.value && r.uncertainty ? kWhisker * *r.uncertainty : 0;
    switch (r.unit) {
    case Unit::Degree:
        return reach >= kAnyDirection;
    case Unit::ClockHour:
        return reach >= kAnyClockHour;
    case Unit::DegreePerSecond:
    case Unit::TurnPerSecond:
        return reach > 0 && reach >= std::abs(*r.value);
    default:
        return false;
    }
}

bool isDirection(const Reading& r)
{
    return r.unit == Unit::Degree || r.unit == Unit::ClockHour;
}

/// Of one that could be anything.
std::string sayingNothing(const Reading& r)
{
    return isDirection(r) ? withUnit(*r.value, r.unit) + " " + plusMinus(kWhisker * *r.uncertainty, r.unit) +
                                " could be any direction. Surer marks would settle it."
                          : "The marks are too unsure for a number here: it could be anything from nothing to " +
                                withUnit(*r.value + kWhisker * *r.uncertainty, r.unit) + ". Surer marks would settle it.";
}

/// What would settle a reading whose uncertainty lies across the band's edge.
std::string whatSettlesIt(const Reading& r)
{
    if (r.unit == Unit::Millisecond)
        return "A film with more frames per second would settle it.";
    return r.repetitions < 3 ? "More repetitions, or a camera square to the target line, would settle it."
                             : "A camera square to the target line would settle it.";
}

/// The instant of a key position and half the width of its doubt; empty: not placed.
struct Instant {
    FramePosition frame;
    double halfWidth = 0;
    std::uint64_t key = 0;
};

std::optional<Instant> findInstant(const Marking& m, const std::string& keyPosition)
{
    const Event* e = findEvent(m, keyPosition);
    if (!e)
        return std::nullopt;
    return Instant{e->frame, e->uncertaintyFrames, ErrorSample::mix(kEventKey, ErrorSample::keyOf(keyPosition))};
}

double difference(const Measure& measure, double a, double b)
{
    return measure.kind->wraps ? wrappedDegrees(a - b) : a - b;
}

/// 0 for fewer than two.
double rootMeanSquare(const std::vector<float>& errors)
{
    double squares = 0;
    int count = 0;
    for (const double e : errors)
        if (!std::isnan(e)) {
            squares += e * e;
            ++count;
        }
    return count < 2 ? 0 : std::sqrt(squares / count);
}

/// What one draw does to the mean of all: errors of the marks cancel, those of the camera stay.
std::vector<float> meanErrors(const std::vector<const Reading*>& readings)
{
    std::vector<float> mean = readings.front()->errors;
    for (std::size_t n = 0; n < mean.size(); ++n) {
        double sum = 0;
        int count = 0;
        for (const auto* r : readings)
            if (n < r->errors.size() && !std::isnan(r->errors[n])) {
                sum += r->errors[n];
                ++count;
            }
        mean[n] = static_cast<float>(count > 0 ? sum / count : std::nan(""));
    }
    return mean;
}

/// Where a measure begins and ends on one film.
struct Span {
    Instant from, to;
};

/// The draw of another camera's errors that goes with this one's: the two cameras err each for itself.
ErrorSample drawOfOther(ErrorSample sample)
{
    return sample.isBestEstimate() ? sample : ErrorSample(1 + (sample.number() - 1 + kErrorSamples / 2) % kErrorSamples);
}

class ReadingOfOne {
public:
    /// \param outOfOrder  key positions that are placed so
    ReadingOfOne(const Pack& pack, const Measure& measure, const PreparedRepetition& repetition, const ReadOptions& options,
                 const PreparedRepetition* fromSecondCamera, const std::vector<std::string>& outOfOrder)
        : m_pack(pack), m_measure(measure), m_repetition(repetition), m_fromSecondCamera(fromSecondCamera),
          m_outOfOrder(outOfOrder)
    {
        m_reading.measure = measure.id;
        m_reading.keyPosition = measure.at;
        m_reading.unit = measure.unit;
        const auto age = options.age ? options.age : repetition.marking().athlete.age;
        const std::string school = options.school.empty() && !pack.schools.empty() ? pack.schools.front().id : options.school;
        if (const Band* band = bandFor(measure, school, age, repetition.marking().variant)) {
            m_reading.low = band->low;
            m_reading.high = band->high;
        }
    }

    Reading calc() { return calcFromTwo() ? m_reading : calcFromOne(); }

private:
    Reading calcFromOne()
    {
        if (!isInView())
            return no(Verdict::NotFromThisView, "A " + plainWordsOf(m_repetition.marking().scene.view) +
                                                    " view cannot show this; film it from the " +
                                                    plainWordsOf(m_measure.views.front()) + otherWay() + ".");
        const auto span = spanOn(m_repetition);
        if (!span) {
            const bool hasEnd = findInstant(m_repetition.marking(), m_measure.at).has_value();
            return no(Verdict::NotMarked,
                      "Place " + positionName(hasEnd ? m_measure.from : m_measure.at) + " on the film to read this.");
        }
        for (const auto* id : {&m_measure.from, &m_measure.at})
            if (std::find(m_outOfOrder.begin(), m_outOfOrder.end(), *id) != m_outOfOrder.end())
                return no(Verdict::NotMarked,
                          positionName(*id) + " is placed out of the movement's order; put it right to read this.");
        const MeasureKind& kind = *m_measure.kind;
        const bool needsScale =
            kind.quantity == Quantity::Length || kind.quantity == Quantity::Speed || kind.quantity == Quantity::Bend;
        if (needsScale && !m_repetition.scene().hasScale())
            return no(Verdict::NotMarked, "Set the scale, a line of known length, to read this.");
        if (m_measure.unit == Unit::PercentHeight && !m_repetition.marking().athlete.heightMetres)
            return no(Verdict::NotMarked, "Enter the athlete's height to read this.");
        if (kind.quantity == Quantity::Time && isFilmTooSlow())
            return no(Verdict::TooFewFrames, tooSlowText(longestUsefulFrameMs()));
        if (m_measure.minRate > 0 && frameMs() > 1001 / m_measure.minRate)
            return no(Verdict::TooFewFrames, tooSlowText(1000 / m_measure.minRate));

        const Calibration calibration = calibrationOf(kind.id);
        const auto operands = pathsOn(m_repetition, *span, calibration.depth);
        const MeasureInput best(m_repetition, operands, span->from.frame, span->to.frame);
        const auto value = kind.value(best);
        if (!value)
            return no(value.error().verdict, value.error().why);
        const auto converted = inUnit(*value);
        if (!converted || !std::isfinite(*converted))
            return no(Verdict::NotMarked, "The marked points give no value here.");
        m_reading.value = *converted;
        m_reading.errors = calcErrors(
            [&](ErrorSample sample) {
                const auto v = kind.value(shifted(best, *span, sample));
                return v ? inUnit(*v) : std::nullopt;
            },
            calibration.spread);
        m_reading.figure.frame = span->to.frame;
        kind.figure(best, m_reading.figure);
        return judged();
    }

    /// False: the two films do not give it; the reading is as it was.
    bool calcFromTwo()
    {
        const auto* other =
            m_outOfOrder.empty() && (!m_fromSecondCamera || isInOrder(*m_fromSecondCamera)) ? m_fromSecondCamera : nullptr;
        const MeasureKind& kind = *m_measure.kind;
        if (!other || !kind.fromTwo || !seeTogether(m_repetition.marking().scene.view, other->marking().scene.view) ||
            !m_repetition.scene().hasScale() || !other->scene().hasScale())
            return false;
        const auto here = spanOn(m_repetition), there = spanOn(*other);
        if (!here || !there)
            return false;
        const Calibration calibration = calibrationFromTwo(kind.id);
        const auto operandsHere = pathsOn(m_repetition, *here, calibration.depth),
                   operandsThere = pathsOn(*other, *there, calibration.depth);
        const MeasureInput bestHere(m_repetition, operandsHere, here->from.frame, here->to.frame);
        const MeasureInput bestThere(*other, operandsThere, there->from.frame, there->to.frame);
        const bool isSideHere = isFromSide(m_repetition.marking().scene.view);
        const auto valueUnder = [&](ErrorSample sample) -> std::optional<double> {
            const MeasureInput a = shifted(bestHere, *here, sample), b = shifted(bestThere, *there, drawOfOther(sample));
            const auto v = kind.fromTwo({isSideHere ? a : b, isSideHere ? b : a, m_pack.leadIsDom()});
            return v ? inUnit(*v) : std::nullopt;
        };
        m_reading.value = valueUnder(ErrorSample{});
        if (!m_reading.value)
            return false;
        m_reading.isFromTwoViews = true;
        m_reading.errors = calcErrors(valueUnder, calibration.spread);
        m_reading.figure.frame = here->to.frame;
        kind.figure(bestHere, m_reading.figure);
        judged();
        return true;
    }

    /// With a verdict, once value and errors are there.
    Reading judged()
    {
        m_reading.uncertainty = rootMeanSquare(m_reading.errors);
        if (m_reading.figure.isEmpty())
            m_reading.figure = {}; // without strokes there is no picture to go to
        if (m_reading.low || m_reading.high) {
            judgeAgainstBand(m_reading, m_measure.margin);
        } else if (couldBeAnything(m_reading)) {
            m_reading.verdict = Verdict::TooCloseToCall;
            m_reading.why = sayingNothing(m_reading);
        } else {
            m_reading.verdict = Verdict::OnTarget;
            m_reading.why = withUnit(*m_reading.value, m_reading.unit) + ", reported only: there is no band to hold it against.";
        }
        return m_reading;
    }

    bool isInOrder(const PreparedRepetition& repetition) const
    {
        return findOutOfOrder(m_pack, repetition.marking().events).empty();
    }

    std::optional<Span> spanOn(const PreparedRepetition& repetition) const
    {
        const auto to = findInstant(repetition.marking(), m_measure.at);
        const auto from = m_measure.from.empty() ? to : findInstant(repetition.marking(), m_measure.from);
        return to && from ? std::optional(Span{*from, *to}) : std::nullopt;
    }

    std::vector<PointPath> pathsOn(const PreparedRepetition& repetition, const Span& span, double depth) const
    {
        std::vector<PointPath> operands;
        for (const auto& role : m_measure.points)
            operands.emplace_back(repetition, role, depth);
        for (auto& path : operands)
            m_measure.kind->when == When::Span ? path.smooth(span.from.frame, span.to.frame) : path.smoothAround(span.to.frame);
        return operands;
    }

    static MeasureInput shifted(const MeasureInput& best, const Span& span, ErrorSample sample)
    {
        return best.under(sample, span.from.halfWidth * sample.even(span.from.key), span.to.halfWidth * sample.even(span.to.key));
    }

    std::string otherWay() const { return m_measure.kind->fromTwo ? ", or from the side and from behind at once" : ""; }

    bool isInView() const
    {
        return std::find(m_measure.views.begin(), m_measure.views.end(), m_repetition.marking().scene.view) !=
               m_measure.views.end();
    }

    std::string positionName(const std::string& id) const
    {
        const KeyPosition* k = m_pack.findKeyPosition(id);
        return k ? "\"" + k->name + "\"" : id;
    }

    std::optional<double> inUnit(double base) const
    {
        return convert(base, m_measure.unit, m_repetition.marking().athlete.heightMetres);
    }

    /// A time can be judged when a frame lasts at most half the band.
    double longestUsefulFrameMs() const { return m_reading.low && m_reading.high ? (*m_reading.high - *m_reading.low) / 2 : 1e9; }
    double frameMs() const { return 1000 * m_repetition.clock().meanInterval(); }
    bool isFilmTooSlow() const { return frameMs() > longestUsefulFrameMs(); }
    std::string tooSlowText(double usefulFrameMs) const
    {
        const double needed = std::ceil(1000 / usefulFrameMs / 10 - 1e-9) * 10;
        return "One frame lasts " + withUnit(frameMs(), Unit::Millisecond) + "; film at " + shortNumber(needed) +
               " or more frames per second to read this.";
    }

    /// How far each draw lies from the best estimate: their spread, and what noise adds on one side only.
    template <class ValueUnder> std::vector<float> calcErrors(ValueUnder valueUnder, double spread) const
    {
        std::vector<float> errors;
        // Every second draw; of the kinds over a span, which may look at every frame, every fourth. Few draws are as good as
        // their scene errors: those of these have root mean squares within 12 % of 1 for yaw, roll, scale and trunk.
        const std::uint32_t step = m_measure.kind->when == When::Span && m_measure.kind->points > 0 ? 4 : 2;
        for (std::uint32_t n = step; n <= kErrorSamples; n += step) {
            const std::optional<double> u = valueUnder(ErrorSample(n));
            const bool isThere = u && std::isfinite(*u);
            errors.push_back(static_cast<float>(isThere ? spread * difference(m_measure, *u, *m_reading.value) : std::nan("")));
        }
        return errors;
    }

    Reading no(Verdict verdict, std::string why)
    {
        m_reading.verdict = verdict;
        m_reading.why = std::move(why);
        m_reading.value.reset();
        m_reading.uncertainty.reset();
        m_reading.figure = {};
        return m_reading;
    }

    const Pack& m_pack;
    const Measure& m_measure;
    const PreparedRepetition& m_repetition;
    const PreparedRepetition* m_fromSecondCamera;
    const std::vector<std::string>& m_outOfOrder;
    Reading m_reading;
};

/// The typical reading, and the one among them that is shown for it.
std::pair<Reading, const Reading*> typicalOf(const Measure& measure, const std::vector<const Reading*>& all)
{
    std::vector<const Reading*> valued;
    std::copy_if(all.begin(), all.end(), std::back_inserter(valued), [](const Reading* r) { return r->value.has_value(); });
    if (valued.size() < 2)
        return valued.empty() ? std::pair(*all.front(), all.front()) : std::pair(*valued.front(), valued.front());
    const double origin = *valued.front()->value; // an angle is taken the short way from here
    const auto from = [&](const Reading* r) { return difference(measure, *r->value, origin); };
    std::sort(valued.begin(), valued.end(), [&](const Reading* a, const Reading* b) { return from(a) < from(b); });
    const std::size_t half = valued.size() / 2;
    Reading typical = *valued[half];
    const Reading* const shown = valued[half];
    if (valued.size() % 2 == 0)
        typical.value = origin + (from(valued[half - 1]) + from(valued[half])) / 2;
    const double sd = calcSpread(measure, valued)->sd;
    typical.uncertainty = std::hypot(sd / std::sqrt(static_cast<double>(valued.size())), rootMeanSquare(meanErrors(valued)));
    typical.repetitions = static_cast<int>(valued.size());
    if (typical.low || typical.high)
        judgeAgainstBand(typical, measure.margin);
    return {typical, shown};
}

} // namespace

std::optional<Spread> calcSpread(const Measure& measure, const std::vector<const Reading*>& readings)
{
    std::vector<double> values;
    for (const auto* r : readings)
        if (r->value)
            values.push_back(values.empty() ? *r->value : values.front() + difference(measure, *r->value, values.front()));
    if (values.size() < 2)
        return std::nullopt;
    const auto n = static_cast<double>(values.size());
    Spread spread{static_cast<int>(values.size()), std::accumulate(values.begin(), values.end(), 0.0) / n, 0, 0};
    for (const double v : values)
        spread.sd += (v - spread.mean) * (v - spread.mean) / (n - 1);
    spread.sd = std::sqrt(spread.sd);
    spread.smallestRealChange = 1.96 * std::numbers::sqrt2 * spread.sd / std::sqrt(n);
    return spread;
}

void judgeAgainstBand(Reading& r, double margin)
{
    const double reach = kWhisker * *r.uncertainty;
    const auto isInside = [&](double v) { return (!r.low || v >= *r.low) && (!r.high || v <= *r.high); };
    const bool inside = isInside(*r.value);
    const bool bothInside = isInside(*r.value - reach) && isInside(*r.value + reach);
    const double gap = std::abs(r.beyondBand());
    if (isDirection(r) && couldBeAnything(r)) {
        r.verdict = Verdict::TooCloseToCall;
        r.why = sayingNothing(r);
    } else if (bothInside) {
        r.verdict = Verdict::OnTarget;
        r.why = withUnit(*r.value, r.unit) + " lies inside the band, " + bandText(r) + ".";
    } else if (!inside && gap > reach) {
        r.verdict = gap > margin ? Verdict::Off : Verdict::Near;
        r.why = withUnit(*r.value, r.unit) + " is " + differenceWithUnit(gap, r.unit) +
                (r.beyondBand() > 0 ? " above the band, " : " below the band, ") + bandText(r) + ".";
    } else {
        r.verdict = Verdict::TooCloseToCall;
        r.why = couldBeAnything(r) ? sayingNothing(r)
                                   : withUnit(*r.value, r.unit) + " " + plusMinus(reach, r.unit) +
                                         " lies across the edge of the band, " + bandText(r) + ". " + whatSettlesIt(r);
    }
    if (r.isFromTwoViews)
        r.why += " Read from two films of the repetition.";
}

bool Reading::saysNothing() const
{
    return verdict == Verdict::TooCloseToCall && couldBeAnything(*this);
}

double Reading::beyondBand() const
{
    if (!value)
        return 0;
    if (high && *value > *high)
        return *value - *high;
    if (low && *value < *low)
        return *value - *low;
    return 0;
}

bool seeTogether(View a, View b)
{
    return (isFromSide(a) && isFromEnd(b)) || (isFromEnd(a) && isFromSide(b));
}

std::vector<Reading> calcReadings(const Pack& pack, const PreparedRepetition& repetition, const ReadOptions& options,
                                  const PreparedRepetition* fromSecondCamera)
{
    std::vector<Reading> readings;
    const auto outOfOrder = findOutOfOrder(pack, repetition.marking().events);
    for (const auto& m : pack.measures)
        if (isForVariant(m.variants, repetition.marking().variant))
            readings.push_back(ReadingOfOne(pack, m, repetition, options, fromSecondCamera, outOfOrder).calc());
    return readings;
}

std::vector<Reading> calcTypical(const Pack& pack, const std::vector<std::vector<Reading>>& perRepetition)
{
    if (perRepetition.size() == 1)
        return perRepetition.front();
    std::vector<Reading> typical;
    for (const auto& m : pack.measures) {
        std::vector<const Reading*> all;
        std::vector<std::size_t> of; // which repetition each is of
        for (std::size_t n = 0; n < perRepetition.size(); ++n)
            for (const auto& r : perRepetition[n])
                if (r.measure == m.id) {
                    all.push_back(&r);
                    of.push_back(n);
                }
        if (all.empty())
            continue;
        const auto [reading, chosen] = typicalOf(m, all);
        typical.push_back(reading);
        typical.back().figureOf = of[static_cast<std::size_t>(std::find(all.begin(), all.end(), chosen) - all.begin())];
    }
    return typical;
}

} // namespace kestrel
