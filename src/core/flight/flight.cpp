#include "core/flight/flight.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <tuple>

namespace kestrel {

namespace {

constexpr double kDegrees = 180 / std::numbers::pi;
constexpr double kSmallestStep = 1e-7, kLargestStep = 0.05; // seconds
constexpr double kFastest = 400;                            // metres a second: no ball flies faster

using Vector = std::array<double, 4>; // x z vx vz

Vector vectorOf(const FlightState& s)
{
    return {s.x, s.z, s.vx, s.vz};
}

Vector rateOf(const FlightModel& m, const Vector& y)
{
    const double vx = y[2], vz = y[3], v = std::hypot(vx, vz);
    const double area = std::numbers::pi * m.diameter * m.diameter / 4;
    const double press = m.mass > 0 ? 0.5 * m.density * area / m.mass : 0; // acceleration by drag: press cd v^2
    double ax = -press * m.drag * v * vx, az = -kGravity - press * m.drag * v * vz;
    if (m.hasLift && m.backspin != 0 && v > 1e-9) {
        const double surface = std::abs(m.backspin) / 60 * std::numbers::pi * m.diameter;
        const double s = surface / v, lift = s / (0.4 + 2.32 * s);
        const double up = m.backspin > 0 ? 1 : -1;
        ax += up * press * lift * v * -vz;
        az += up * press * lift * v * vx;
    }
    return {vx, vz, ax, az};
}

struct Step {
    Vector y;
    double error; // metres
};

/// One step of Dormand and Prince (1980), order 5 with the difference to order 4.
Step stepOf(const FlightModel& m, const Vector& y, double h)
{
    static constexpr double a[7][6] = {{},
                                       {1.0 / 5},
                                       {3.0 / 40, 9.0 / 40},
                                       {44.0 / 45, -56.0 / 15, 32.0 / 9},
                                       {19372.0 / 6561, -25360.0 / 2187, 64448.0 / 6561, -212.0 / 729},
                                       {9017.0 / 3168, -355.0 / 33, 46732.0 / 5247, 49.0 / 176, -5103.0 / 18656},
                                       {35.0 / 384, 0, 500.0 / 1113, 125.0 / 192, -2187.0 / 6784, 11.0 / 84}};
    static constexpr double e[7] = {71.0 / 57600, 0, -71.0 / 16695, 71.0 / 1920, -17253.0 / 339200, 22.0 / 525, -1.0 / 40};
    std::array<Vector, 7> k;
    Vector at = y;
    for (std::size_t i = 0; i < 7; ++i) {
        at = y;
        for (std::size_t j = 0; j < i; ++j)
            for (std::size_t n = 0; n < 4; ++n)
                at[n] += h * a[i][j] * k[j][n];
        k[i] = rateOf(m, at);
    }
    double wrong = 0;
    for (std::size_t n = 0; n < 2; ++n) {
        double sum = 0;
        for (std::size_t i = 0; i < 7; ++i)
            sum += e[i] * k[i][n];
        wrong = std::max(wrong, std::abs(h * sum));
    }
    return {at, wrong};
}

FlightState stateOf(double t, const Vector& y)
{
    return {t, y[0], y[1], y[2], y[3]};
}

/// How much higher than the target it passes; empty: it never gets that far.
std::optional<double> clearance(const FlightModel& m, double height, double speed, double angle, double distance, double target)
{
    const auto there = flyToDistance(m, leaving(height, speed, angle), distance);
    return there ? std::optional(there->z - target) : std::nullopt;
}

/// Where a function is least between two places, by golden section.
std::pair<double, double> lowestOf(const std::function<double(double)>& f, double low, double high)
{
    constexpr double kGolden = 0.6180339887498949, kNear = 1e-5;
    double a = high - kGolden * (high - low), b = low + kGolden * (high - low);
    double fa = f(a), fb = f(b);
    while (high - low > kNear) {
        if (fa > fb) {
            low = a;
            a = b;
            fa = fb;
            b = low + kGolden * (high - low);
            fb = f(b);
        } else {
            high = b;
            b = a;
            fb = fa;
            a = high - kGolden * (high - low);
            fa = f(a);
        }
    }
    const double x = (low + high) / 2;
    return {x, f(x)};
}

/// The angle that passes highest at the distance, and by how much.
std::pair<double, double> highest(const FlightModel& m, double height, double speed, double distance, double target)
{
    constexpr double kNever = -1e6;
    const auto at = [&](double angle) { return clearance(m, height, speed, angle, distance, target).value_or(kNever); };
    // a coarse look first: flat ends where nothing arrives would mislead the section
    double best = 0, bestValue = kNever;
    for (double angle = -80; angle <= 85; angle += 5)
        if (const double value = at(angle); value > bestValue)
            std::tie(best, bestValue) = std::pair(angle, value);
    const auto [angle, negative] = lowestOf([&](double a) { return -at(a); }, best - 5, std::min(89.0, best + 5));
    return {angle, -negative};
}

} // namespace

double FlightState::speed() const
{
    return std::hypot(vx, vz);
}
double FlightState::angle() const
{
    return std::atan2(vz, vx) * kDegrees;
}

FlightModel FlightModel::of(const FlightBall& b, double density, double backspin)
{
    return {b.mass, b.diameter, b.drag, density, backspin, b.hasLift};
}

double FlightModel::energy(const FlightState& s) const
{
    return mass * (s.speed() * s.speed() / 2 + kGravity * s.z);
}

FlightState leaving(double height, double speed, double angleDegrees)
{
    const double a = angleDegrees / kDegrees;
    return {0, 0, height, speed * std::cos(a), speed * std::sin(a)};
}

std::optional<FlightState> fly(const FlightModel& m, FlightState from, const std::function<double(const FlightState&)>& reached,
                               double mostSeconds, double lowest, std::vector<FlightState>* path, double tolerance)
{
    if (path)
        path->push_back(from);
    double t = from.t, h = 0.005, before = reached(from);
    Vector y = vectorOf(from);
    while (t - from.t < mostSeconds) {
        const Step step = stepOf(m, y, h);
        if (step.error > tolerance && h > kSmallestStep) {
            h = std::max(kSmallestStep, h * std::clamp(0.9 * std::pow(tolerance / step.error, 0.2), 0.1, 0.9));
            continue;
        }
        const FlightState next = stateOf(t + h, step.y);
        const double now = reached(next);
        if (std::isnan(now))
            return std::nullopt;
        if (before < 0 && now >= 0) {
            // the length of this last step at which it gets there: regula falsi that halves the end which stays (Illinois)
            double low = 0, high = h, atLow = before, atHigh = now;
            for (int i = 0, stayed = 0; i < 60 && high - low > 1e-15 && atHigh > 0; ++i) {
                const double middle = low + (high - low) * atLow / (atLow - atHigh);
                const double value = reached(stateOf(t + middle, stepOf(m, y, middle).y));
                if (std::abs(value) < 1e-13) {
                    high = middle;
                    break;
                }
                if (value < 0) {
                    low = middle;
                    atLow = value;
                    if (stayed++ > 0)
                        atHigh /= 2;
                } else {
                    high = middle;
                    atHigh = value;
                    if (stayed-- < 0)
                        atLow /= 2;
                }
            }
            const FlightState there = stateOf(t + high, stepOf(m, y, high).y);
            if (path)
                path->push_back(there);
            return there;
        }
        if (next.z < lowest || next.speed() > kFastest)
            return std::nullopt;
        y = step.y;
        t += h;
        before = now;
        if (path)
            path->push_back(next);
        h = std::min(kLargestStep, h * std::clamp(0.9 * std::pow(tolerance / std::max(step.error, 1e-300), 0.2), 0.2, 5.0));
    }
    return std::nullopt;
}

std::optional<FlightState> flyToDistance(const FlightModel& m, const FlightState& from, double x, std::vector<FlightState>* path)
{
    return fly(
        m, from, [x](const FlightState& s) { return s.x - x; }, 20, -50, path);
}

std::optional<FlightState> flyDownTo(const FlightModel& m, const FlightState& from, double z, std::vector<FlightState>* path)
{
    return fly(
        m, from, [z](const FlightState& s) { return s.vz > 0 ? std::min(-1e-9, z - s.z) : z - s.z; }, 20, -50, path);
}

std::optional<double> solveBetween(const std::function<std::optional<double>(double)>& f, double low, double high)
{
    auto fl = f(low), fh = f(high);
    if (!fl || !fh || (*fl > 0) == (*fh > 0))
        return fl && *fl == 0 ? std::optional(low) : fh && *fh == 0 ? std::optional(high) : std::nullopt;
    for (int i = 0; i < 100; ++i) {
        const double middle = (low + high) / 2;
        if (middle <= low || middle >= high)
            break;
        const auto fm = f(middle);
        if (!fm)
            return std::nullopt;
        if ((*fm > 0) == (*fl > 0))
            low = middle;
        else
            high = middle;
    }
    return (low + high) / 2;
}

std::optional<double> solveNear(const std::function<std::optional<double>(double)>& f, double a, double b, double low,
                                double high)
{
    auto fa = f(a), fb = f(b);
    for (int i = 0; i < 40 && fa && fb; ++i) {
        if (std::abs(*fb) < 1e-10)
            return b;
        const double slope = (*fb - *fa) / (b - a);
        if (!(std::abs(slope) > 1e-12))
            return std::nullopt;
        const double next = std::clamp(b - *fb / slope, low, high);
        if (std::abs(next - b) < 1e-11 * std::max(1.0, std::abs(b)))
            return std::abs(*fb) < 1e-5 ? std::optional(next) : std::nullopt;
        a = b;
        fa = fb;
        b = next;
        fb = f(b);
    }
    return std::nullopt;
}

std::optional<double> speedAtAngle(const FlightModel& m, double height, double angle, double distance, double targetHeight)
{
    const double dz = targetHeight - height, slope = std::tan(angle / kDegrees), cosine = std::cos(angle / kDegrees);
    const double room = distance * slope - dz;
    const bool isBent = m.density > 0;
    if (!(distance > 0) || (room <= 0 && !isBent))
        return std::nullopt;
    const double closed = distance / cosine * std::sqrt(kGravity / (2 * std::max(room, 0.01)));
    if (!isBent)
        return closed;
    const auto over = [&](double speed) -> std::optional<double> {
        return clearance(m, height, speed, angle, distance, targetHeight).value_or(-1e3);
    };
    return solveNear(over, closed, closed * 1.05, 1, kFastest);
}

std::optional<double> flatAngleTo(const FlightModel& m, double height, double speed, double distance, double targetHeight)
{
    if (!(speed > 0) || !(distance > 0))
        return std::nullopt;
    const double dz = targetHeight - height, k = kGravity * distance * distance / (2 * speed * speed);
    const double root = distance * distance - 4 * k * (k + dz); // of k tan^2 - d tan + k + dz
    if (m.density <= 0)
        return root < 0 ? std::nullopt : std::optional(std::atan2(2 * (k + dz), distance + std::sqrt(root)) * kDegrees);
    const auto at = [&](double angle) -> std::optional<double> {
        return clearance(m, height, speed, angle, distance, targetHeight).value_or(-1e6);
    };
    // from the closed form; where that goes astray, between straight down and the angle that passes highest
    if (root > 0) {
        const double start = std::atan2(2 * (k + dz), distance + std::sqrt(root)) * kDegrees;
        const auto found = solveNear(at, start, start + 0.5, -89, 89);
        if (found && at(*found + 0.01).value_or(0) > at(*found).value_or(0))
            return found;
    }
    const auto [top, over] = highest(m, height, speed, distance, targetHeight);
    if (over < 0)
        return std::nullopt;
    return solveBetween(at, -89, top);
}

std::optional<LeastSpeed> leastSpeedTo(const FlightModel& m, double height, double distance, double targetHeight)
{
    const double dz = targetHeight - height, straight = std::hypot(dz, distance);
    const double closed = 45 + std::atan2(dz, distance) * kDegrees / 2;
    if (m.density <= 0)
        return LeastSpeed{std::sqrt(kGravity * (dz + straight)), closed};
    // where the speed stops falling with the angle
    constexpr double kBeside = 0.1; // degrees
    const auto slope = [&](double angle) -> std::optional<double> {
        const auto below = speedAtAngle(m, height, angle - kBeside, distance, targetHeight);
        const auto above = speedAtAngle(m, height, angle + kBeside, distance, targetHeight);
        return below && above ? std::optional((*above - *below) / (2 * kBeside)) : std::nullopt;
    };
    const auto angle = solveNear(slope, closed, closed + 1, std::max(-85.0, closed - 25), std::min(88.0, closed + 25));
    const auto speed = angle ? speedAtAngle(m, height, *angle, distance, targetHeight) : std::nullopt;
    return speed ? std::optional(LeastSpeed{*speed, *angle}) : std::nullopt;
}

} // namespace kestrel
