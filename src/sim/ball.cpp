#include "sim/ball.h"

#include "core/base/word_table.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>

namespace kestrel::sim {

namespace {

constexpr double kGravity = 9.81, kAirDensity = 1.2;
constexpr double kWrittenFor = 1.62; // metres tall: the athlete the velocities are written for
constexpr double kStep = 0.001;      // seconds, of the flight's integration

// Sizes and masses after the rules of the games; drag coefficients as commonly reported for these speeds.
constexpr std::array kFacts{
    BallFacts{"baseball", 0.0365, 0.145, 0.35},
    BallFacts{"softball", 0.0485, 0.188, 0.35},
    BallFacts{"tennis-ball", 0.0335, 0.058, 0.55},
    BallFacts{"squash-ball", 0.0200, 0.024, 0.50},
    BallFacts{"table-tennis-ball", 0.020, 0.0027, 0.50},
    BallFacts{"basketball", 0.116, 0.567, 0.50},
    BallFacts{"puck", 0.038, 0.165, 0.60},
};

constexpr WordRow<BallPlace> kPlaces[]{{BallPlace::DomHand, "dom"},
                                       {BallPlace::OffHand, "off"},
                                       {BallPlace::BothHands, "both"},
                                       {BallPlace::Face, "face"},
                                       {BallPlace::Blade, "blade"}};

} // namespace

const BallFacts& factsOf(BallKind kind)
{
    return kFacts[static_cast<std::size_t>(kind)];
}

std::optional<BallKind> findBallKind(const std::string& word)
{
    for (std::size_t i = 0; i < kFacts.size(); ++i)
        if (word == kFacts[i].name)
            return static_cast<BallKind>(i);
    return std::nullopt;
}

std::optional<BallPlace> findBallPlace(const std::string& word)
{
    return findIn(kPlaces, word);
}

BallPath::BallPath(BallKind kind, std::vector<BallStage> stages, const Build& build, std::function<Skeleton(double)> bodyAt,
                   const std::function<double(const std::string&)>& secondsOf)
    : m_kind(kind), m_build(build)
{
    double from = -std::numeric_limits<double>::infinity();
    Vec3 start(0, 0, 0);
    for (auto& stage : stages) {
        Stretch s{stage, from, std::numeric_limits<double>::infinity(), start, start};
        s.stage.velocity *= build.person.heightMetres / kWrittenFor;
        if (build.isMirrored()) {
            s.stage.velocity.z() *= -1;
            s.stage.spin.x() *= -1;
            s.stage.spin.y() *= -1;
        }
        if (!stage.until.empty()) {
            s.to = secondsOf(stage.until);
            s.end = placeOn(bodyAt(s.to), stage.place);
        }
        from = s.to;
        start = s.end;
        m_stretches.push_back(std::move(s));
    }
}

Vec3 BallPath::placeOn(const Skeleton& body, BallPlace place) const
{
    const double r = factsOf(m_kind).radius;
    const BodySide dom = m_build.domSide();
    const auto inHand = [&](BodySide side) {
        const Vec3 wrist = body.at(Part::Wrist, side), grip = body.at(Part::Hand, side);
        return Vec3(grip + (grip - wrist).normalized() * std::max(0.02, 0.9 * r));
    };
    switch (place) {
    case BallPlace::DomHand:
        return inHand(dom);
    case BallPlace::OffHand:
        return inHand(opposite(dom));
    case BallPlace::BothHands:
        return (inHand(dom) + inHand(opposite(dom))) / 2;
    case BallPlace::Face:
        return body.implement ? Vec3(body.implement->sweetSpot + body.implement->face * r) : inHand(dom);
    case BallPlace::Blade: {
        Vec3 p = body.implement ? Vec3(body.implement->tip + body.implement->face * (0.6 * r)) : inHand(dom);
        p.y() = 0.013; // a puck lies flat
        return p;
    }
    }
    return inHand(dom);
}

/// Leaves with a velocity; lift after Stepanek's coefficient for spinning balls, 1 / (2 + v / (omega r)).
BallPath::Place BallPath::flown(const Stretch& s, double seconds) const
{
    const BallFacts& facts = factsOf(m_kind);
    const double push = kAirDensity * std::numbers::pi * facts.radius * facts.radius / (2 * facts.mass);
    const double surface = s.stage.spin.norm() * facts.radius;
    Vec3 p = s.start, v = s.stage.velocity;
    for (double left = seconds - s.from; left > 0 && p.y() > 0; left -= kStep) {
        const double dt = std::min(left, kStep), speed = v.norm();
        Vec3 a = Vec3(0, -kGravity, 0) - v * (push * facts.drag * speed);
        if (surface > 1e-6 && speed > 1e-6) {
            const Vec3 lift = s.stage.spin.cross(v);
            if (lift.norm() > 1e-9)
                a += lift.normalized() * (push * speed * speed / (2 + speed / surface));
        }
        p += v * dt + a * (dt * dt / 2);
        v += a * dt;
    }
    return {p, s.stage.spin * (seconds - s.from), p.y() > 0};
}

BallPath::Place BallPath::at(double seconds, const Skeleton& body) const
{
    const auto it = std::find_if(m_stretches.begin(), m_stretches.end(), [&](const Stretch& s) { return seconds <= s.to; });
    const Stretch& s = it == m_stretches.end() ? m_stretches.back() : *it;
    const double radius = factsOf(m_kind).radius;
    const Vec3 turned = s.stage.spin * (std::isfinite(s.from) ? seconds - s.from : seconds - s.to);
    switch (s.stage.kind) {
    case BallStage::Kind::Held:
        return {placeOn(body, s.stage.place), {0, 0, 0}, true};
    case BallStage::Kind::Meets: {
        const double whole = s.to - s.from, t = seconds - s.from;
        const Vec3 v = (s.end - s.start) / whole + Vec3(0, kGravity * whole / 2, 0);
        return {s.start + v * t - Vec3(0, kGravity * t * t / 2, 0), turned, true};
    }
    case BallStage::Kind::Comes: {
        const double t = seconds - s.to;
        Vec3 p = s.end + s.stage.velocity * t - Vec3(0, kGravity * t * t / 2, 0);
        p.y() = radius + std::abs(p.y() - radius); // it came up from a bounce
        return {p, turned, true};
    }
    case BallStage::Kind::Rolls: {
        Vec3 p = s.end + s.stage.velocity * (seconds - s.to);
        p.y() = std::max(radius, s.end.y() + (p.y() - s.end.y()));
        return {p, turned, true};
    }
    case BallStage::Kind::Flies:
        return flown(s, seconds);
    }
    return {};
}

} // namespace kestrel::sim
