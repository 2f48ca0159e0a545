#pragma once

#include <optional>
#include <vector>

namespace kestrel {

/// A number over real time.
struct Curve {
    std::vector<double> seconds; ///< strictly rising
    std::vector<double> values;  ///< as many
    bool operator==(const Curve&) const = default;

    bool isEmpty() const { return seconds.empty(); }
    void add(double second, double value)
    {
        seconds.push_back(second);
        values.push_back(value);
    }
};

/// How far to either side of an instant its rate of change looks: four pictures at 240 a second.
inline constexpr double kRateReach = 0.017;

/// How far smoothing looks: a little wider, since what is smoothed moves less abruptly than what is timed.
inline constexpr double kSmoothReach = 0.025;

/// Rate of change per second, at the same instants.
///
/// At each instant a parabola is fitted by least squares to the samples within \p reach seconds to either side, and its
/// slope there is taken (for even intervals that is the filter of Savitzky and Golay, 1964). At least two samples to
/// either side are used where they lie within three times the reach, so that slow films have a rate as well. At the
/// ends the window is shifted inward: nothing is made up beyond them, and the error is larger.
/// Instants with fewer than three samples in reach are left out.
Curve rateOf(const Curve&, double reach = kRateReach);

/// The values of the same parabolas instead of their slopes: what is left when the marks' noise is taken out. Instants
/// with fewer than five samples in reach keep their value. \param noise  if given, receives for each instant the share of
/// one sample's standard deviation that is left
Curve smoothed(const Curve&, double reach = kSmoothReach, std::vector<double>* noise = nullptr);

/// Two curves over the same instants as one, such as a speed from its two components: hypot(x, y).
Curve lengthOf(const Curve& x, const Curve& y);

struct Peak {
    double seconds = 0, value = 0;
    bool operator==(const Peak&) const = default;
};

/// The largest value, refined by the parabola through it and its neighbours. Empty for an empty curve.
std::optional<Peak> peakOf(const Curve&);

} // namespace kestrel
