#include "training_film.h"

#include "core/base/error_sample.h"
#include "core/detect/detect.h"
#include "core/scene/smooth_marks.h"

#include <algorithm>
#include <cmath>

namespace kestrel::tools {

namespace {

constexpr double kRate = 60, kFault = 0.7;
constexpr double kTremble = 2, kWander = 4; // pixels: from picture to picture, and from tenth to tenth of a second
constexpr double kRoughWeight = 0.6;
constexpr double kMostCut = 0.1; // seconds; 0.2 of standing still before the first movement have to be left

/// What a network makes of a film, roughly: every mark trembles and wanders, and nobody has set any by hand.
Marking roughened(Marking m, const FrameClock& clock, std::uint32_t seed)
{
    const ErrorSample sample(seed + 7);
    std::map<Landmark, std::vector<Mark>> byLandmark;
    for (const auto& mark : m.marks)
        byLandmark[mark.landmark].push_back(mark);
    m.marks.clear();
    std::uint64_t number = 0;
    for (auto& [landmark, marks] : byLandmark) {
        ++number;
        for (auto& mark : marks) {
            const double tenth = static_cast<double>(mark.frame.value) / kRate * 10, whole = std::floor(tenth);
            const auto error = [&](std::uint64_t axis) {
                const auto knot = [&](double n) {
                    return sample.normal(ErrorSample::mix(number * 4 + axis, static_cast<std::uint64_t>(n)));
                };
                const double slow = std::lerp(knot(whole), knot(whole + 1), tenth - whole);
                return kWander * slow + kTremble * sample.normal(ErrorSample::mix(number * 4 + 2 + axis,
                                                                                  static_cast<std::uint64_t>(mark.frame.value)));
            };
            mark.at.x += error(0);
            mark.at.y += error(1);
            mark.sigma = std::hypot(kTremble, kWander);
        }
        std::sort(marks.begin(), marks.end(), [](const Mark& a, const Mark& b) { return a.frame < b.frame; });
        for (const auto& mark : smoothedMarks(marks, clock, kNetworkReach))
            m.marks.push_back(mark);
    }
    return m;
}

} // namespace

std::vector<TrainingFilm> trainingFilms(const sim::SimSkill& skill, const Pack& pack, Seen seen,
                                        const std::vector<std::uint32_t>& styles)
{
    std::vector<TrainingFilm> films;
    for (const auto& variant : skill.variants)
        for (std::size_t n = 0; n < styles.size(); ++n) {
            sim::SimulateOptions o;
            o.skill = skill.id;
            o.motion.variant = variant.id;
            o.motion.school = skill.schools[n % skill.schools.size()].id;
            o.motion.style = sim::fitStyle(o, pack, styles[n]);
            o.motion.seed = styles[n];
            o.hand = n % 2 == 0 ? Hand::Right : Hand::Left;
            o.frameRate = kRate;
            o.camera.view = seen == Seen::FromSide  ? (n % 4 == 3 ? View::SideBack : View::Side)
                            : seen == Seen::FromEnd ? (n % 4 == 3 ? View::Front : View::Rear)
                                                    : View::Overhead;
            std::vector<std::string> faults;
            for (const auto& f : skill.faults)
                if (f.isFor(variant.id))
                    faults.push_back(f.id);
            if (n % 2 == 1 && !faults.empty())
                o.motion.faults = {{faults[(n / 2) % faults.size()], kFault}};
            const auto s = sim::simulate(o);
            if (!s)
                continue;
            Marking m = s->truth;
            const auto events = m.events;
            m.events.clear();
            // films begin and end at any time before and after: no rule may go by that
            const ErrorSample sample(styles[n]);
            const double from = kMostCut * (1 + sample.even(1)) / 2 * kRate,
                         to = static_cast<double>(m.film.frames) - kMostCut * (1 + sample.even(2)) / 2 * kRate;
            std::erase_if(m.marks, [&](const Mark& mark) {
                return static_cast<double>(mark.frame.value) < from || static_cast<double>(mark.frame.value) > to;
            });
            const PreparedRepetition careful(m);
            std::map<std::string, double> truth;
            for (const auto& e : events)
                if (const auto t = careful.clock().timeOf(e.frame))
                    truth[e.keyPosition] = t->seconds;
            films.push_back({careful, truth, 1, 1});
            const FrameClock clock = careful.clock();
            films.push_back({PreparedRepetition(roughened(m, clock, styles[n]), clock), truth, kNetworkRoughness, kRoughWeight});
        }
    return films;
}

} // namespace kestrel::tools
