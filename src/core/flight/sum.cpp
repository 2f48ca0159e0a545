#include "core/flight/sum.h"

#include "core/base/word_table.h"
#include "core/flight/sum_tools.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace kestrel {

namespace {

constexpr WordRow<ClaimVerdict> kVerdicts[] = {
    {ClaimVerdict::Holds, "holds"}, {ClaimVerdict::Partly, "partly"}, {ClaimVerdict::DoesNotHold, "does_not_hold"}};
constexpr WordRow<ClaimVerdict> kPlain[] = {
    {ClaimVerdict::Holds, "holds"}, {ClaimVerdict::Partly, "partly"}, {ClaimVerdict::DoesNotHold, "does not hold"}};
constexpr const char* kOrder[] = {
    "pitch_plane", "flight_time", "release_further", "swing_match",   "serve_window", "step_in", "lean_back",
    "jump_shot",   "spin",        "ball_speed",      "frames_needed", "pull",         "growth",  "repetitions_needed"};

/// The n-th number of the sequence of that base, in (0, 1): fills the space more evenly than chance.
double halton(int n, int base)
{
    double f = 1, r = 0;
    for (; n > 0; n /= base) {
        f /= base;
        r += f * (n % base);
    }
    return r;
}

/// Normal deviate of a probability (Acklam's rational approximation, to 1e-9 of it).
double normal(double p)
{
    static constexpr double a[] = {-3.969683028665376e+01, 2.209460984245205e+02,  -2.759285104469687e+02,
                                   1.383577518672690e+02,  -3.066479806614716e+01, 2.506628277459239e+00};
    static constexpr double b[] = {-5.447609879822406e+01, 1.615858368580409e+02, -1.556989798598866e+02, 6.680131188771972e+01,
                                   -1.328068155288572e+01};
    static constexpr double c[] = {-7.784894002430293e-03, -3.223964580411365e-01, -2.400758277161838e+00,
                                   -2.549732539343734e+00, 4.374664141464968e+00,  2.938163982698783e+00};
    static constexpr double d[] = {7.784695709041462e-03, 3.224671290700398e-01, 2.445134137142996e+00, 3.754408661907416e+00};
    constexpr double kTail = 0.02425;
    if (p > 1 - kTail)
        return -normal(1 - p);
    if (p < kTail) {
        const double q = std::sqrt(-2 * std::log(p));
        return (((((c[0] * q + c[1]) * q + c[2]) * q + c[3]) * q + c[4]) * q + c[5]) /
               ((((d[0] * q + d[1]) * q + d[2]) * q + d[3]) * q + 1);
    }
    const double q = p - 0.5, r = q * q;
    return (((((a[0] * r + a[1]) * r + a[2]) * r + a[3]) * r + a[4]) * r + a[5]) * q /
           (((((b[0] * r + b[1]) * r + b[2]) * r + b[3]) * r + b[4]) * r + 1);
}

} // namespace

std::string_view wordOf(ClaimVerdict v)
{
    return wordIn(kVerdicts, v);
}
std::string_view plainWordsOf(ClaimVerdict v)
{
    return wordIn(kPlain, v);
}

const SumResult* SumAnswer::find(std::string_view name) const
{
    const auto it = std::find_if(results.begin(), results.end(), [&](const SumResult& r) { return r.name == name; });
    return it == results.end() ? nullptr : &*it;
}

const SumVariable* SumCard::find(std::string_view variable) const
{
    const auto it = std::find_if(variables.begin(), variables.end(), [&](const SumVariable& v) { return v.id == variable; });
    return it == variables.end() ? nullptr : &*it;
}

const std::vector<SumCard>& sumCards()
{
    static const std::vector<SumCard> all = [] {
        std::vector<SumCard> cards;
        for (auto part : {sums::pitchingCards(), sums::courtCards(), sums::filmCards(), sums::bodyCards()})
            cards.insert(cards.end(), part.begin(), part.end());
        const auto place = [](const SumCard& c) {
            return std::find(std::begin(kOrder), std::end(kOrder), c.id) - std::begin(kOrder);
        };
        std::sort(cards.begin(), cards.end(), [&](const SumCard& a, const SumCard& b) { return place(a) < place(b); });
        return cards;
    }();
    return all;
}

const SumCard* findSumCard(std::string_view id)
{
    for (const auto& c : sumCards())
        if (c.id == id)
            return &c;
    return nullptr;
}

Expected<SumAnswer> workOut(const SumCard& card, SumInput input)
{
    for (const auto& [id, value] : input.values) {
        const SumVariable* v = card.find(id);
        if (!v)
            return fail(ErrorCode::BadArgument, "The sum \"" + card.id + "\" has no number \"" + id + "\".");
        if (!std::isfinite(value) || value < v->low || value > v->high)
            return fail(ErrorCode::BadArgument, v->words + " lies between " + sums::text(v->low) + " and " + sums::text(v->high) +
                                                    " " + v->unit + "; " + (std::isfinite(value) ? sums::text(value) : "that") +
                                                    " does not.");
    }
    for (const auto& v : card.variables)
        input.values.emplace(v.id, v.usual);
    if (card.ball.empty())
        return card.work(input);
    if (!input.ball) {
        const auto ball = findBall(card.ball);
        if (!ball)
            return tl::unexpected(ball.error());
        input.ball = *ball;
    }
    return card.work(input);
}

namespace sums {

double sigmaOf(const SumInput& input, const SumVariable& v)
{
    const auto own = input.sigmas.find(v.id);
    return own == input.sigmas.end() ? v.sigma : own->second;
}

double get(const SumInput& input, const char* variable)
{
    return input.values.at(variable);
}

std::string text(double v)
{
    if (v == 0 || !std::isfinite(v))
        return v == 0 ? "0" : "?";
    const double size = std::abs(v);
    const int digits = size >= 100 ? 0 : size >= 10 ? 1 : size >= 1 ? 2 : 3;
    char words[40];
    std::snprintf(words, sizeof words, "%.*f", digits, v);
    std::string s(words);
    if (s.find('.') != std::string::npos) {
        while (s.back() == '0')
            s.pop_back();
        if (s.back() == '.')
            s.pop_back();
    }
    return s == "-0" ? "0" : s;
}

std::string range(const SumResult& r)
{
    const std::string low = text(r.low), high = text(r.high);
    return (low == high ? low : low + " to " + high) + (r.unit.empty() ? "" : " " + r.unit);
}

FlightModel model(const SumInput& input, double backspin)
{
    return FlightModel::of(*input.ball, input.hasAir ? airDensity(input.celsius, input.altitude) : 0, backspin);
}

Expected<std::vector<SumResult>> withRanges(const SumCard& card, const SumInput& input, const std::vector<ResultName>& names,
                                            const std::function<Expected<Values>(const SumInput&)>& exact, int samples)
{
    const auto middle = exact(input);
    if (!middle)
        return tl::unexpected(middle.error());
    std::map<std::string, std::vector<double>> spread;
    static constexpr int kBases[] = {2, 3, 5, 7, 11, 13, 17, 19};
    for (int n = 1; n <= samples; ++n) {
        SumInput moved = input;
        std::size_t base = 0;
        if (moved.ball && input.hasAir) {
            const double u = halton(n, kBases[base++]);
            moved.ball->drag = moved.ball->dragLow + u * (moved.ball->dragHigh - moved.ball->dragLow);
        }
        for (const auto& v : card.variables) {
            const double sigma = sigmaOf(input, v);
            if (sigma <= 0 || base >= std::size(kBases))
                continue;
            double& value = moved.values[v.id];
            value = std::clamp(value + sigma * normal(halton(n, kBases[base++])), v.low, v.high);
        }
        if (const auto values = exact(moved))
            for (const auto& [name, value] : *values)
                if (std::isfinite(value))
                    spread[name].push_back(value);
    }
    std::vector<SumResult> results;
    for (const auto& [name, value] : *middle) {
        const auto known = std::find_if(names.begin(), names.end(), [&, n = name](const ResultName& r) { return n == r.name; });
        SumResult r{
            name, value, value, value, known == names.end() ? "" : known->unit, known == names.end() ? name : known->words};
        if (auto& all = spread[name]; !all.empty()) {
            std::sort(all.begin(), all.end());
            const auto at = [&](double share) {
                return all[static_cast<std::size_t>(share * static_cast<double>(all.size() - 1) + 0.5)];
            };
            r.low = std::min(value, at(0.05));
            r.high = std::max(value, at(0.95));
        }
        results.push_back(std::move(r));
    }
    return results;
}

std::vector<std::string> assumptions(const SumInput& input)
{
    std::vector<std::string> said;
    if (input.ball) {
        const auto& b = *input.ball;
        said.push_back(b.name + ": " + text(b.mass) + " kg, " + text(1000 * b.diameter) + " mm, drag coefficient " +
                       text(b.drag) + " (papers " + text(b.dragLow) + " to " + text(b.dragHigh) + ")");
        said.push_back(input.hasAir ? "air of " + text(airDensity(input.celsius, input.altitude)) + " kg/m3 (" +
                                          text(input.celsius) + " degrees, " + text(input.altitude) + " m above the sea)"
                                    : "no air");
    }
    said.emplace_back("gravity 9.80665 m/s2");
    return said;
}

SumPicture::Line lineOf(const std::vector<FlightState>& states, SumPicture::Line::Kind kind, std::string label)
{
    SumPicture::Line line{kind, {}, std::move(label)};
    for (const auto& s : states)
        line.points.push_back({s.x, s.z});
    return line;
}

SumPicture::Line lineOf(std::initializer_list<SumPicture::Point> points, SumPicture::Line::Kind kind, std::string label)
{
    return {kind, points, std::move(label)};
}

} // namespace sums

} // namespace kestrel
