#include "app/pair/model_side.h"

#include "sim/likeness.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QStandardPaths>

#include <nlohmann/json.hpp>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr double kLeastRate = 60, kMostRate = 120; // pictures a second: enough to step through, quickly painted
constexpr media::PixelSize kLying{960, 540}, kUpright{540, 960};

sim::SimulateOptions optionsFor(const Pack& pack, const std::string& school, const Marking& player)
{
    auto o = sim::optionsLike(player, pack.id, school);
    o.frameRate = std::clamp(player.clock.capture, kLeastRate, kMostRate);
    o.size = player.film.height > player.film.width ? kUpright : kLying;
    return o;
}

/// Where its film is kept: under a name that says everything it is made from.
QString filmFileOf(const sim::Simulated& s)
{
    const QByteArray made = QByteArray::fromStdString(sim::truthJson(s).dump());
    const QDir folder(QStandardPaths::writableLocation(QStandardPaths::CacheLocation) + QStringLiteral("/models"));
    folder.mkpath(QStringLiteral("."));
    return folder.filePath(QString::fromLatin1(QCryptographicHash::hash(made, QCryptographicHash::Sha256).toHex().left(24)) +
                           QStringLiteral(".mp4"));
}

} // namespace

Expected<PairSide> modelSide(const Pack& pack, const std::string& school, const Marking& player,
                             const std::function<void(int, int)>& progress, std::stop_token stop)
{
    auto s = sim::simulate(optionsFor(pack, school, player));
    if (!s)
        return tl::unexpected(s.error());
    const QString file = filmFileOf(*s);
    if (!QFile::exists(file)) {
        const QString part = file + QStringLiteral(".%1.part.mp4").arg(QCoreApplication::applicationPid());
        if (const auto saved = sim::saveClip(*s, part.toStdString(), progress, stop); !saved) {
            QFile::remove(part);
            return tl::unexpected(saved.error());
        }
        if (!QFile::rename(part, file))
            QFile::remove(part); // another window was quicker
    }
    PairSide side;
    side.title = "Model" + (player.variant.empty() ? std::string() : ", " + player.variant) +
                 (school.empty() ? std::string() : ", " + school);
    side.film.file = file.toStdString();
    side.film.marking = std::move(s->truth);
    side.film.clock = evenClock(side.film.marking.film.frames, side.film.marking.clock.capture);
    side.film.repetition = {FrameIndex(0), FrameIndex(side.film.marking.film.frames - 1)};
    side.prepared = std::make_shared<const PreparedRepetition>(side.film.marking, side.film.clock);
    side.isModel = true;
    return side;
}

} // namespace kestrel::app
