#include "core/pack/film_support.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel {

namespace {

constexpr double kMarkError = 1.5;      // pixels; what a careful click is worth
constexpr double kForearmShare = 0.146; // of standing height
constexpr double kTrustedError = 5;     // degrees; beyond it angles of the arm say little
constexpr double kRateSlack = 0.98;     // 29.97 counts as 30, 239.7 as 240

std::string whole(double v)
{
    return std::to_string(std::llround(v));
}

/// "a, b and c"
std::string listOf(const std::vector<std::string>& words)
{
    std::string text;
    for (std::size_t i = 0; i < words.size(); ++i)
        text += (i == 0 ? "" : i + 1 == words.size() ? " and " : ", ") + words[i];
    return text;
}

double rateFor(const KeyPosition& k)
{
    return k.holdsMs > 0 ? 1000 / k.holdsMs : 0;
}

} // namespace

std::optional<double> forearmError(double athletePixels)
{
    if (athletePixels <= 0)
        return std::nullopt;
    return std::atan(std::numbers::sqrt2 * kMarkError / (kForearmShare * athletePixels)) * 180 / std::numbers::pi;
}

double neededRate(const Pack& pack)
{
    double most = 0;
    for (const auto& k : pack.keyPositions)
        most = std::max(most, rateFor(k));
    return most;
}

FilmSupport calcFilmSupport(const Pack& pack, const FilmQuality& film)
{
    FilmSupport support;
    const auto isFastEnough = [&](double needed) { return film.captureRate >= kRateSlack * needed; };
    std::vector<std::string> lost;
    for (const auto& k : pack.keyPositions) {
        const double needed = rateFor(k);
        support.keyPositions.push_back({k.id, k.name, needed, isFastEnough(needed)});
        if (!support.keyPositions.back().isShown)
            lost.push_back(k.name);
    }
    int outOfView = 0;
    for (const auto& m : pack.measures) {
        MeasureSupport s{m.id, m.name, true, {}};
        if (std::find(m.views.begin(), m.views.end(), film.view) == m.views.end()) {
            ++outOfView;
            s = {m.id, m.name, false, "This view cannot show it."};
        } else if (!isFastEnough(m.minRate)) {
            s = {m.id, m.name, false, "It needs " + whole(m.minRate) + " pictures a second."};
        } else {
            for (const auto& k : support.keyPositions)
                if (!k.isShown && (k.keyPosition == m.at || k.keyPosition == m.from))
                    s = {m.id, m.name, false,
                         k.name + " may lie between two pictures; it needs " + whole(k.neededRate) + " pictures a second."};
        }
        support.measures.push_back(s);
    }
    const auto readable =
        std::count_if(support.measures.begin(), support.measures.end(), [](const auto& m) { return m.isReadable; });
    if (!lost.empty()) {
        const double most = neededRate(pack);
        support.consequences.push_back("At " + whole(film.captureRate) + " pictures a second " + listOf(lost) +
                                       (lost.size() == 1 ? " lasts" : " last") +
                                       " less than the gap between two pictures and may not be seen. Film at " + whole(most) +
                                       " pictures a second for " + (lost.size() == 1 ? "it." : "them."));
    } else {
        support.consequences.push_back("Every key position can be found on this film.");
    }
    const auto tooFast = static_cast<std::ptrdiff_t>(pack.measures.size()) - readable - outOfView;
    support.consequences.push_back(
        "This film can show " + std::to_string(readable) + " of " + std::to_string(pack.measures.size()) + " readings" +
        (tooFast > 0 ? "; more pictures a second would show " + std::to_string(tooFast) + " more" : "") +
        (outOfView > 0 ? "; another view would show " + std::to_string(outOfView) + (tooFast > 0 ? "" : " more") : "") + ".");
    if (const auto error = forearmError(film.athletePixels); error && *error > kTrustedError)
        support.consequences.push_back("The athlete is only about " + whole(film.athletePixels) +
                                       " pixels high: a point marked a little off turns the forearm by " + whole(*error) +
                                       " degrees. Go closer, so that the body fills the picture.");
    return support;
}

} // namespace kestrel
