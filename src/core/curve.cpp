#include "core/curve.h"

#include <algorithm>
#include <cmath>

namespace kestrel {

namespace {

/// The parabola fitted to samples [first, last), at one instant.
struct LocalFit {
    double value = 0, slope = 0;
    double noise = 1; ///< standard deviation of the value by that of one sample
};

/// Empty: too few samples.
std::optional<LocalFit> fitAt(const Curve& c, std::size_t first, std::size_t last, double instant)
{
    const auto n = static_cast<double>(last - first);
    if (n < 3)
        return std::nullopt;
    // normal equations about the mean instant in units of the window, which keeps them well conditioned
    double mean = 0;
    for (std::size_t i = first; i < last; ++i)
        mean += c.seconds[i] / n;
    const double scale = std::max(c.seconds[last - 1] - c.seconds[first], 1e-9);
    double s2 = 0, s3 = 0, s4 = 0, y0 = 0, y1 = 0, y2 = 0;
    for (std::size_t i = first; i < last; ++i) {
        const double t = (c.seconds[i] - mean) / scale, y = c.values[i], tt = t * t;
        s2 += tt;
        s3 += tt * t;
        s4 += tt * tt;
        y0 += y;
        y1 += t * y;
        y2 += tt * y;
    }
    // y = a + b t + d (t^2 - s2 / n) with sum t = 0
    const double q2 = s4 - s2 * s2 / n, r2 = y2 - s2 * y0 / n;
    const double determinant = s2 * q2 - s3 * s3;
    if (std::abs(determinant) < 1e-12)
        return std::nullopt;
    const double b = (y1 * q2 - s3 * r2) / determinant, d = (s2 * r2 - s3 * y1) / determinant;
    const double t = (instant - mean) / scale, u = t * t - s2 / n;
    return LocalFit{y0 / n + b * t + d * u, (b + 2 * d * t) / scale,
                    std::sqrt(1 / n + (t * t * q2 - 2 * t * u * s3 + u * u * s2) / determinant)};
}

/// Calls with each sample and the window that belongs to it.
template <class Visit> void eachWindow(const Curve& c, double reach, Visit visit)
{
    constexpr std::size_t kEachSide = 2, kLeastWindow = 2 * kEachSide + 1;
    const std::size_t n = c.seconds.size();
    for (std::size_t i = 0; i < n; ++i) {
        const double now = c.seconds[i];
        const auto belongs = [&](std::size_t j) {
            const double away = std::abs(c.seconds[j] - now);
            const std::size_t steps = j > i ? j - i : i - j;
            return away <= reach + 1e-9 || (steps <= kEachSide && away <= 3 * reach + 1e-9);
        };
        std::size_t first = i, last = i + 1;
        while (first > 0 && belongs(first - 1))
            --first;
        while (last < n && belongs(last))
            ++last;
        // at the ends the window is shifted inward instead of cut
        const auto isWelcome = [&](double width) {
            return width <= 2 * reach + 1e-9 || (last - first < kLeastWindow && width <= 6 * reach + 1e-9);
        };
        while (first == 0 && last < n && isWelcome(c.seconds[last] - c.seconds[first]))
            ++last;
        while (last == n && first > 0 && isWelcome(c.seconds[last - 1] - c.seconds[first - 1]))
            --first;
        visit(i, first, last);
    }
}

} // namespace

Curve rateOf(const Curve& c, double reach)
{
    Curve rate;
    eachWindow(c, reach, [&](std::size_t i, std::size_t first, std::size_t last) {
        if (const auto fit = fitAt(c, first, last, c.seconds[i]))
            rate.add(c.seconds[i], fit->slope);
    });
    return rate;
}

Curve smoothed(const Curve& c, double reach, std::vector<double>* noise)
{
    constexpr std::size_t kLeast = 5;
    Curve smooth;
    eachWindow(c, reach, [&](std::size_t i, std::size_t first, std::size_t last) {
        const auto fit = last - first >= kLeast ? fitAt(c, first, last, c.seconds[i]) : std::nullopt;
        smooth.add(c.seconds[i], fit ? fit->value : c.values[i]);
        if (noise)
            noise->push_back(fit ? fit->noise : 1);
    });
    return smooth;
}

Curve lengthOf(const Curve& x, const Curve& y)
{
    Curve length{x.seconds, {}};
    for (std::size_t i = 0; i < x.values.size(); ++i)
        length.values.push_back(std::hypot(x.values[i], y.values[i]));
    return length;
}

std::optional<Peak> peakOf(const Curve& c)
{
    if (c.isEmpty())
        return std::nullopt;
    const auto i = static_cast<std::size_t>(std::max_element(c.values.begin(), c.values.end()) - c.values.begin());
    const Peak top{c.seconds[i], c.values[i]};
    if (i == 0 || i + 1 == c.values.size())
        return top;
    const double left = c.seconds[i - 1] - top.seconds, right = c.seconds[i + 1] - top.seconds;
    const double dl = c.values[i - 1] - top.value, dr = c.values[i + 1] - top.value;
    // y = a t^2 + b t through the three
    const double a = (dl / left - dr / right) / (left - right);
    const double b = dl / left - a * left;
    if (a >= 0)
        return top;
    const double t = -b / (2 * a);
    return Peak{top.seconds + t, top.value + a * t * t + b * t};
}

} // namespace kestrel
