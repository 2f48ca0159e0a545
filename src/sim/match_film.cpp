#include "sim/match_film.h"

#include "media/film_writer.h"
#include "sim/film_maker.h"

#include <QImage>

#include <algorithm>
#include <cmath>
#include <memory>
#include <random>

namespace kestrel::sim {

namespace {

constexpr double kOthersStroke = 0.7; // seconds until the ball is back
constexpr int kMostRallies = 500;

/// One of hers: the whole motion of a variant.
struct Stroke {
    std::string name; ///< in the match's words
    Simulated made;
    std::unique_ptr<FilmMaker> maker;
    double from = 0, to = 0; ///< instants of the motion, seconds
};

Expected<Stroke> strokeOf(const std::string& name, const std::string& variant, const MatchFilmOptions& o)
{
    SimulateOptions s;
    s.skill = "table-tennis-topspin";
    s.motion.variant = variant;
    s.frameRate = 120;
    s.size = o.size;
    auto made = simulate(s);
    if (!made)
        return tl::unexpected(made.error());
    Stroke stroke{name, std::move(*made), nullptr, 0, 0};
    stroke.from = stroke.made.instants.front();
    stroke.to = stroke.made.instants.back();
    return stroke;
}

} // namespace

Expected<MatchLog> saveMatchFilm(const MatchFilmOptions& o, const std::string& file, const std::function<void(double)>& progress,
                                 std::stop_token stop)
{
    if (o.rallies < 1 || o.rallies > kMostRallies || o.size.width < 64 || o.size.height < 64 ||
        !(o.frameRate >= 5 && o.frameRate <= 120))
        return fail(ErrorCode::BadArgument,
                    "A match film has 1 to 500 rallies, 64 pixels at least and 5 to 120 pictures a second.", file);
    std::vector<Stroke> strokes;
    const auto skill = loadSimSkill("table-tennis-topspin");
    if (!skill)
        return tl::unexpected(skill.error());
    for (const auto& v : skill->variants) {
        auto stroke = strokeOf(v.id.find("backhand") != std::string::npos ? "backhand" : "forehand", v.id, o);
        if (!stroke)
            return tl::unexpected(stroke.error());
        strokes.push_back(std::move(*stroke));
    }
    for (auto& s : strokes) // once they stay where they are
        s.maker = std::make_unique<FilmMaker>(s.made);

    MatchLog log;
    log.sport = "table-tennis";
    log.bestOf = 3;
    log.players = {"Mira", "Joost"};
    log.firstServer = "Mira";
    log.film = file;
    // what happens when, first
    struct Part {
        double from, to;
        std::size_t stroke;
    };
    std::vector<Part> parts;
    std::mt19937 random(o.seed);
    const auto uniform = [&](double a, double b) { return std::uniform_real_distribution<>(a, b)(random); };
    double now = uniform(1.5, 3);
    for (int n = 0; n < o.rallies; ++n) {
        Rally r;
        r.from = now;
        const int count = 1 + static_cast<int>(random() % 4);
        std::size_t last = 0;
        for (int k = 0; k < count; ++k) {
            last = random() % strokes.size();
            const double takes = strokes[last].to - strokes[last].from;
            parts.push_back({now, now + takes, last});
            r.strokes.push_back(strokes[last].name);
            now += takes + (k + 1 < count ? kOthersStroke : 0);
        }
        r.to = now;
        const bool isWon = uniform(0, 1) < (strokes[last].name == "backhand" ? 0.25 : 0.65); // her weaker side
        r.won = log.players[isWon ? 0 : 1];
        r.how = isWon ? "winner" : random() % 2 ? "error_net" : "error_long";
        r.serve = random() % 2 ? "backspin_short" : "topspin";
        log.rallies.push_back(std::move(r));
        now += uniform(3, 6); // the ball is fetched
    }
    const double whole = now;

    media::FilmWriterSettings settings;
    settings.size = {o.size.width / 2 * 2, o.size.height / 2 * 2};
    settings.frameRate = o.frameRate;
    auto writer = media::FilmWriter::open(file, settings);
    if (!writer)
        return tl::unexpected(writer.error());
    const int pictures = static_cast<int>(whole * o.frameRate);
    std::size_t part = 0;
    std::size_t shown = 0; // whose body stands there
    int idle = -1;
    QImage image;
    for (int n = 0; n < pictures; ++n) {
        if (stop.stop_requested())
            return fail(ErrorCode::Cancelled, "Stopped; no film was written.", file);
        const double t = n / o.frameRate;
        while (part < parts.size() && t >= parts[part].to)
            ++part;
        if (part < parts.size() && t >= parts[part].from) {
            shown = parts[part].stroke;
            image = strokes[shown].maker->moment(strokes[shown].from + (t - parts[part].from));
            idle = -1;
        } else if (const int step = static_cast<int>(t * 2); step != idle) { // she breathes and shifts a little
            idle = step;
            image = strokes[shown].maker->moment(strokes[shown].from + 0.015 * (1 + std::sin(step * 1.7)));
        }
        const QImage bits = image.convertToFormat(QImage::Format_RGB32);
        if (auto done = writer->write(bits.constBits(), static_cast<int>(bits.bytesPerLine()), MediaTime::fromSeconds(t)); !done)
            return tl::unexpected(done.error());
        if (progress)
            progress((n + 1.0) / pictures);
    }
    if (auto done = writer->finish(); !done)
        return tl::unexpected(done.error());
    return log;
}

} // namespace kestrel::sim
