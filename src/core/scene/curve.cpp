#include "core/scene/curve.h"

#include <algorithm>
#include <cmath>

namespace kestrel {

namespace {

/// The parabola fitted to a window of samples, at one instant, as weights of the samples: they follow from the instants alone,
/// so that windows of the same shape, which is nearly all of them, share them.
struct LocalFit {
    std::vector<double> value, slope; ///< a weight for each sample of the window; empty: too few samples
    double noise = 1;                 ///< standard deviation of the value by that of one sample

    static double sum(const std::vector<double>& weights, const Curve& c, std::size_t first)
    {
        double total = 0;
        for (std::size_t k = 0; k < weights.size(); ++k)
            total += weights[k] * c.values[first + k];
        return total;
    }
};

LocalFit fitAt(const Curve& c, std::size_t first, std::size_t last, double instant)
{
    LocalFit fit;
    const auto n = static_cast<double>(last - first);
    if (n < 3)
        return fit;
    // normal equations about the mean instant in units of the window, which keeps them well conditioned
    double mean = 0;
    for (std::size_t i = first; i < last; ++i)
        mean += c.seconds[i] / n;
    const double scale = std::max(c.seconds[last - 1] - c.seconds[first], 1e-9);
    double s2 = 0, s3 = 0, s4 = 0;
    for (std::size_t i = first; i < last; ++i) {
        const double t = (c.seconds[i] - mean) / scale, tt = t * t;
        s2 += tt;
        s3 += tt * t;
        s4 += tt * tt;
    }
    // y = a + b t + d (t^2 - s2 / n) with sum t = 0
    const double q2 = s4 - s2 * s2 / n;
    const double determinant = s2 * q2 - s3 * s3;
    if (std::abs(determinant) < 1e-12)
        return fit;
    const double at = (instant - mean) / scale, u = at * at - s2 / n;
    double squares = 0;
    for (std::size_t i = first; i < last; ++i) {
        const double t = (c.seconds[i] - mean) / scale, r = t * t - s2 / n;
        const double b = (t * q2 - s3 * r) / determinant, d = (s2 * r - s3 * t) / determinant;
        fit.value.push_back(1 / n + b * at + d * u);
        fit.slope.push_back((b + 2 * d * at) / scale);
        squares += fit.value.back() * fit.value.back();
    }
    fit.noise = std::sqrt(squares);
    return fit;
}

/// Gives the fit for one window after another, the last one again where the window has the same shape.
class Fits {
public:
    explicit Fits(const Curve& c) : m_curve(c) {}

    const LocalFit& at(std::size_t i, std::size_t first, std::size_t last)
    {
        if (!isLikeLast(i, first, last)) {
            m_fit = fitAt(m_curve, first, last, m_curve.seconds[i]);
            m_offsets.clear();
            for (std::size_t k = first; k < last; ++k)
                m_offsets.push_back(m_curve.seconds[k] - m_curve.seconds[i]);
        }
        return m_fit;
    }

private:
    bool isLikeLast(std::size_t i, std::size_t first, std::size_t last) const
    {
        if (m_offsets.size() != last - first)
            return false;
        for (std::size_t k = first; k < last; ++k)
            if (std::abs(m_curve.seconds[k] - m_curve.seconds[i] - m_offsets[k - first]) > 1e-7)
                return false;
        return true;
    }

    const Curve& m_curve;
    LocalFit m_fit;
    std::vector<double> m_offsets;
};

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
    Fits fits(c);
    eachWindow(c, reach, [&](std::size_t i, std::size_t first, std::size_t last) {
        if (const LocalFit& fit = fits.at(i, first, last); !fit.slope.empty())
            rate.add(c.seconds[i], LocalFit::sum(fit.slope, c, first));
    });
    return rate;
}

Curve smoothed(const Curve& c, double reach, std::vector<double>* noise)
{
    constexpr std::size_t kLeast = 5;
    Curve smooth;
    Fits fits(c);
    eachWindow(c, reach, [&](std::size_t i, std::size_t first, std::size_t last) {
        const LocalFit& fit = fits.at(i, first, last);
        const bool isFitted = last - first >= kLeast && !fit.value.empty();
        smooth.add(c.seconds[i], isFitted ? LocalFit::sum(fit.value, c, first) : c.values[i]);
        if (noise)
            noise->push_back(isFitted ? fit.noise : 1);
    });
    return smooth;
}

Curve lengthOf(const Curve& x, const Curve& y)
{
    Curve length{x.seconds, {}};
    for (std::size_t i = 0; i < x.values.size(); ++i)
        length.values.push_back(std::sqrt(x.values[i] * x.values[i] + y.values[i] * y.values[i]));
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
