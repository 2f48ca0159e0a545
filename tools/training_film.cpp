#include "training_film.h"

#include "core/base/error_sample.h"
#include "core/detect/detect.h"
#include "core/scene/leg_scale.h"
#include "painted_film.h"

#include <algorithm>
#include <cmath>

namespace kestrel::tools {

namespace {

constexpr double kRate = 60, kFault = 0.7;
constexpr double kTremble = 2, kWander = 4;      // pixels: from picture to picture, and from tenth to tenth of a second
constexpr double kFilmShare = 0.5;               // of what careful films weigh together: there are far fewer painted ones
constexpr double kNear = 0.2, kNearlyAll = 0.95; // of standing height, and of the hips
constexpr double kMostCut = 0.1;                 // seconds; 0.2 of standing still before the first movement have to be left

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
        m.marks.insert(m.marks.end(), marks.begin(), marks.end());
    }
    return smoothedForDetection(std::move(m), clock);
}

sim::SimulateOptions filmOf(const sim::SimSkill& skill, const std::string& variant, const Pack& pack, Seen seen,
                            std::uint32_t style, std::size_t n)
{
    sim::SimulateOptions o;
    o.skill = skill.id;
    o.motion.variant = variant;
    o.motion.school = skill.schools[n % skill.schools.size()].id;
    o.motion.style = sim::fitStyle(o, pack, style);
    o.motion.seed = style;
    o.look = style;
    o.hand = n % 2 == 0 ? Hand::Right : Hand::Left;
    o.frameRate = kRate;
    o.camera.view = seen == Seen::FromSide  ? (n % 4 == 3 ? View::SideBack : View::Side)
                    : seen == Seen::FromEnd ? (n % 4 == 3 ? View::Front : View::Rear)
                                            : View::Overhead;
    std::vector<std::string> faults;
    for (const auto& f : skill.faults)
        if (f.isFor(variant))
            faults.push_back(f.id);
    if (n % 2 == 1 && !faults.empty())
        o.motion.faults = {{faults[(n / 2) % faults.size()], kFault}};
    return o;
}

/// Films begin and end at any time before and after: no rule may go by that.
Marking cutAnywhere(Marking m, std::uint64_t seed)
{
    const ErrorSample sample(static_cast<std::uint32_t>(seed));
    const double from = kMostCut * (1 + sample.even(1)) / 2 * kRate,
                 to = static_cast<double>(m.film.frames) - kMostCut * (1 + sample.even(2)) / 2 * kRate;
    std::erase_if(m.marks, [&](const Mark& mark) {
        return static_cast<double>(mark.frame.value) < from || static_cast<double>(mark.frame.value) > to;
    });
    return m;
}

TrainingFilm prepared(Marking m, const FrameClock& clock, Marked marked)
{
    std::map<std::string, double> truth;
    for (const auto& e : m.events)
        if (const auto t = clock.timeOf(e.frame))
            truth[e.keyPosition] = t->seconds;
    m.events.clear();
    return {PreparedRepetition(std::move(m), clock), truth, marked == Marked::Truly ? 1 : kNetworkRoughness, marked, 1};
}

/// Whether nearly all hips that the network marked lie where a hip is.
bool isOfThePlayer(const Marking& seen, const Marking& truth)
{
    const double near = kNear * standingHeight(truth.marks, View::Side).value_or(0); // from wherever: roughly
    std::map<FrameIndex, std::vector<ImagePoint>> real;
    for (const auto& m : truth.marks)
        if (m.landmark.part == Part::Hip)
            real[m.frame].push_back(m.at);
    double hips = 0, right = 0;
    for (const auto& m : seen.marks) {
        const auto there = m.landmark.part == Part::Hip ? real.find(m.frame) : real.end();
        if (there == real.end())
            continue;
        ++hips;
        right +=
            std::any_of(there->second.begin(), there->second.end(), [&](ImagePoint p) { return (p - m.at).length() < near; });
    }
    return hips > 0 && right >= kNearlyAll * hips;
}

} // namespace

std::vector<TrainingFilm> trainingFilms(const sim::SimSkill& skill, const Pack& pack, Seen seen,
                                        const std::vector<std::uint32_t>& styles, const Painted& painted)
{
    std::vector<TrainingFilm> films;
    std::vector<FilmToPaint> toPaint;
    std::vector<Marking> truths; // of those
    const std::size_t mostPainted = std::clamp<std::size_t>(painted.films / skill.variants.size(), 1, styles.size());
    for (std::size_t v = 0; v < skill.variants.size(); ++v)
        for (std::size_t n = 0; n < styles.size(); ++n) {
            const sim::SimulateOptions o = filmOf(skill, skill.variants[v].id, pack, seen, styles[n], n);
            const auto s = sim::simulate(o);
            if (!s)
                continue;
            const Marking cut = cutAnywhere(s->truth, styles[n]);
            const auto clock = PreparedRepetition(cut).clock();
            films.push_back(prepared(cut, clock, Marked::Truly));
            if (seen == Seen::FromAbove) // a network sees nothing there that is worth learning from
                films.push_back(prepared(roughened(cut, clock, styles[n]), clock, Marked::Roughly));
            else if (n / mostPainted == v % (styles.size() / mostPainted)) { // each variant of other people
                toPaint.push_back({o, &pack});
                truths.push_back(s->truth);
            }
        }
    const auto marked = networkMarkings(toPaint, painted.folder);
    const auto careful = static_cast<double>(films.size());
    const auto onFilm = std::count_if(marked.begin(), marked.end(), [](const auto& m) { return m.has_value(); });
    for (std::size_t n = 0; n < marked.size(); ++n) {
        if (!marked[n])
            continue;
        Marking cut = cutAnywhere(*marked[n], marked[n]->film.frames);
        const auto clock = PreparedRepetition(cut).clock();
        TrainingFilm film = prepared(smoothedForDetection(std::move(cut), clock), clock, Marked::ByNetwork);
        film.weight = kFilmShare * careful / static_cast<double>(onFilm);
        film.isOfThePlayer = isOfThePlayer(*marked[n], truths[n]);
        films.push_back(std::move(film));
    }
    return films;
}

} // namespace kestrel::tools
