#include "core/compare/student.h"

#include <cmath>

namespace kestrel {

namespace {

/// Continued fraction of the incomplete beta function (modified Lentz).
double betaFraction(double a, double b, double x)
{
    constexpr double kTiny = 1e-300, kEnough = 1e-14;
    constexpr int kMost = 500;
    double c = 1, d = 1 - (a + b) * x / (a + 1);
    d = 1 / (std::abs(d) < kTiny ? kTiny : d);
    double h = d;
    const auto step = [&](double numerator) {
        d = 1 + numerator * d;
        d = 1 / (std::abs(d) < kTiny ? kTiny : d);
        c = 1 + numerator / c;
        c = std::abs(c) < kTiny ? kTiny : c;
        h *= d * c;
        return std::abs(d * c - 1);
    };
    for (int m = 1; m <= kMost; ++m) {
        step(m * (b - m) * x / ((a + 2 * m - 1) * (a + 2 * m)));
        if (step(-(a + m) * (a + b + m) * x / ((a + 2 * m) * (a + 2 * m + 1))) < kEnough)
            break;
    }
    return h;
}

double incompleteBeta(double a, double b, double x)
{
    if (x <= 0 || x >= 1)
        return x <= 0 ? 0 : 1;
    const double front = std::exp(std::lgamma(a + b) - std::lgamma(a) - std::lgamma(b) + a * std::log(x) + b * std::log(1 - x));
    return x < (a + 1) / (a + b + 2) ? front * betaFraction(a, b, x) / a : 1 - front * betaFraction(b, a, 1 - x) / b;
}

} // namespace

double studentTwoSided(double t, double freedom)
{
    return incompleteBeta(freedom / 2, 0.5, freedom / (freedom + t * t));
}

double studentQuantile(double probability, double freedom)
{
    double low = 0, high = 1;
    while (studentTwoSided(high, freedom) > probability && high < 1e9)
        high *= 2;
    for (int i = 0; i < 100; ++i) {
        const double middle = (low + high) / 2;
        (studentTwoSided(middle, freedom) > probability ? low : high) = middle;
    }
    return (low + high) / 2;
}

} // namespace kestrel
