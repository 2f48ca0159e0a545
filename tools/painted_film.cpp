#include "painted_film.h"

#include "core/scene/marking_json.h"
#include "painted.h"

#include <QDir>
#include <QString>

#include <atomic>
#include <future>

namespace kestrel::tools {

namespace {

constexpr std::size_t kAtOnce = 2;

std::string nameOf(const sim::SimulateOptions& o)
{
    std::string name = o.skill + "_" + o.motion.variant + "_" + o.motion.school + "_" + std::string(wordOf(o.camera.view)) + "_" +
                       std::to_string(o.motion.seed);
    for (const auto& [fault, amount] : o.motion.faults)
        name += "_" + fault;
    return name;
}

std::optional<Marking> paintedMarking(const FilmToPaint& wanted, const std::string& folder)
{
    const std::string name = folder + "/" + nameOf(wanted.options), file = name + ".json";
    if (auto kept = loadMarking(file))
        return std::move(*kept);
    const std::string clip = name + ".mp4";
    const auto film = bench::markedFilm(wanted.options, *wanted.pack, clip, vision::BodyNetwork::Usual);
    QFile::remove(QString::fromStdString(clip));
    if (!film || film->seen == 0)
        return std::nullopt;
    Marking m = film->truth.truth;
    m.marks = film->marks;
    if (const auto saved = saveMarking(m, file); !saved)
        std::cerr << saved.error().text() << "\n";
    return m;
}

} // namespace

std::vector<std::optional<Marking>> networkMarkings(const std::vector<FilmToPaint>& wanted, const std::string& folder)
{
    QDir().mkpath(QString::fromStdString(folder));
    std::vector<std::optional<Marking>> made(wanted.size());
    std::atomic<std::size_t> next = 0;
    const auto work = [&] {
        for (std::size_t n = next++; n < wanted.size(); n = next++)
            made[n] = paintedMarking(wanted[n], folder);
    };
    std::vector<std::future<void>> workers;
    for (std::size_t n = 0; n < kAtOnce; ++n)
        workers.push_back(std::async(std::launch::async, work));
    for (auto& w : workers)
        w.get();
    return made;
}

} // namespace kestrel::tools
