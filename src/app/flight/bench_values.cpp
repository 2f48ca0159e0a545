#include "app/flight/bench_values.h"

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

/// Which reading is which variable.
struct Tie {
    const char *card, *variable, *pack, *measure;
};
constexpr Tie kTies[] = {{"pitch_plane", "release-height", "overhand-pitch", "release_height"},
                         {"serve_window", "contact-height", "overhead-serve", "contact_height"},
                         {"serve_window", "contact-ahead", "overhead-serve", "contact_ahead"},
                         {"jump_shot", "release-height", "jump-shot", "release_height"},
                         {"jump_shot", "angle", "jump-shot", "release_angle"},
                         {"jump_shot", "angle", "jump-shot", "entry_angle"},
                         {"swing_match", "attack-angle", "bat-swing", "attack_angle"}};
constexpr double kRadar = 0.5; // metres a second, as radar guns say of themselves

/// In metres or degrees. Empty: it cannot be told in those.
std::optional<double> factorOf(Unit unit, std::optional<double> height)
{
    switch (unit) {
    case Unit::Degree:
    case Unit::Metre:
        return 1;
    case Unit::Centimetre:
        return 0.01;
    case Unit::PercentHeight:
        return height ? std::optional(*height / 100) : std::nullopt;
    default:
        return std::nullopt;
    }
}

/// The ball's way from its first mark to its last.
void addBallWay(std::map<std::string, BenchValue>& into, const Bench& bench)
{
    const Marking& m = bench.context.marking();
    const PreparedRepetition prepared(m,
                                      bench.player.isOpen() ? bench.player.clock() : evenClock(m.film.frames, m.clock.capture));
    std::vector<const Mark*> marks;
    for (const auto& mark : m.marks)
        if (mark.landmark == *findLandmark("ball"))
            marks.push_back(&mark);
    if (marks.size() < 2 || !prepared.scene().hasScale())
        return;
    const auto [first, last] =
        std::minmax_element(marks.begin(), marks.end(), [](const Mark* a, const Mark* b) { return a->frame < b->frame; });
    const double scale = prepared.scene().metresPerPixel();
    const auto pictures = static_cast<double>((*last)->frame.value - (*first)->frame.value);
    into["distance"] = {((*last)->at - (*first)->at).length() * scale, scale * std::hypot((*first)->sigma, (*last)->sigma),
                        QObject::tr("the ball's marks, by the scale")};
    into["frames"] = {pictures, 0, QObject::tr("the ball's marks")};
}

} // namespace

std::map<std::string, BenchValue> benchValues(const SumCard& card, const Bench& bench)
{
    std::map<std::string, BenchValue> values;
    const auto& context = bench.context;
    if (!context.isOpen())
        return values;
    const Marking& m = context.marking();
    for (const Tie& tie : kTies)
        if (card.id == tie.card && context.day().skill == tie.pack && std::string_view(tie.measure) != "entry_angle")
            if (const Reading* r = bench.review.findReading(tie.measure); r && r->value && !r->saysNothing())
                if (const auto factor = factorOf(r->unit, m.athlete.heightMetres)) {
                    const Measure* measure = context.pack()->findMeasure(tie.measure);
                    values[tie.variable] = {*factor * *r->value, *factor * r->uncertainty.value_or(0),
                                            QString::fromStdString(measure ? measure->technical : tie.measure)};
                }
    if (const auto counted = card.id == "spin" ? bench.spin.counted() : std::nullopt) {
        values["revolutions"] = {counted->turns, counted->sigma, QObject::tr("counted on the Bench")};
        values["frames"] = {static_cast<double>(counted->pictures()), 0, QObject::tr("counted on the Bench")};
    }
    if (card.id == "ball_speed")
        addBallWay(values, bench);
    for (const auto& v : card.variables) {
        if (v.id == "speed" && card.id != "frames_needed" && context.repetition().ballSpeed)
            values[v.id] = {*context.repetition().ballSpeed, kRadar, QObject::tr("the radar gun")};
        if (v.id == "capture-rate" && m.clock.capture > 0)
            values[v.id] = {m.clock.capture, 0, QObject::tr("the film's true rate")};
        if (v.id == "height-after" && m.athlete.heightMetres)
            values[v.id] = {*m.athlete.heightMetres, 0.005, QObject::tr("the height on the filming day")};
        if (v.id == "height-before" && context.athlete().heights.size() > 1)
            values[v.id] = {context.athlete().heights.front().metres, 0.005, QObject::tr("the first height that was noted")};
        if (v.id == "spread" || v.id == "change")
            if (const Reading* r = bench.review.findReading(bench.review.selectedReading()); r && r->spread) {
                const Measure* measure = context.pack() ? context.pack()->findMeasure(r->measure) : nullptr;
                if (v.id == "spread" && r->spread->sd > 0)
                    values[v.id] = {r->spread->sd, 0, QObject::tr("the chosen reading's spread over the day")};
                else if (v.id == "change" && measure && measure->margin > 0)
                    values[v.id] = {measure->margin, 0, QObject::tr("the chosen reading's margin")};
            }
    }
    std::erase_if(values, [&](const auto& v) {
        const SumVariable* variable = card.find(v.first);
        return !variable || !(v.second.value >= variable->low && v.second.value <= variable->high);
    });
    return values;
}

QString missingValues(const SumCard& card, const Bench& bench)
{
    if (!bench.context.isOpen())
        return {};
    QStringList missing;
    const Marking& m = bench.context.marking();
    for (const auto& v : card.variables)
        if (v.id == "capture-rate" && !(m.clock.capture > 0))
            missing << QObject::tr("the film's true rate is not known");
    if (card.id == "ball_speed" && !PreparedRepetition(m).scene().hasScale())
        missing << QObject::tr("the film has no scale: draw a known length on the Bench");
    for (const Tie& tie : kTies)
        if (card.id == tie.card && bench.context.day().skill == tie.pack && !benchValues(card, bench).count(tie.variable) &&
            std::string_view(tie.measure) != "entry_angle")
            missing << QObject::tr("\"%1\" is not read on this film")
                           .arg(QLatin1String(tie.measure).toString().replace(QLatin1Char('_'), QLatin1Char(' ')));
    return missing.isEmpty() ? QString() : QObject::tr("From the Bench: %1.").arg(missing.join(QStringLiteral("; ")));
}

std::string cardOf(const std::string& pack, const std::string& measure)
{
    for (const Tie& tie : kTies)
        if (pack == tie.pack && measure == tie.measure)
            return tie.card;
    return {};
}

} // namespace kestrel::app
