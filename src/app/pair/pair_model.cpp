#include "app/pair/pair_model.h"

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr int kTickMs = 16;

/// Between two landmarks of both sides of the body; empty: not marked there.
std::optional<ImagePoint> middle(const PairSide& side, const char* role, FrameIndex frame)
{
    return PointPath(*side.prepared, *findPointRole(role)).imageAt(FramePosition(frame));
}

/// Pixels of the film that somebody stands high: by the scale, else by the trunk.
std::optional<double> standingPixels(const PairSide& side, FrameIndex frame)
{
    const auto& m = side.film.marking;
    if (side.prepared->scene().hasScale() && m.athlete.heightMetres)
        return *m.athlete.heightMetres / side.prepared->scene().metresPerPixel();
    constexpr double kTrunkShare = 0.30; // of standing height, from the hips to the shoulders
    const auto hip = middle(side, "midHip", frame), shoulder = middle(side, "midShoulder", frame);
    return hip && shoulder ? std::optional((*shoulder - *hip).length() / kTrunkShare) : std::nullopt;
}

} // namespace

PairModel::PairModel(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace)
{
    m_tick.setInterval(kTickMs);
    connect(&m_tick, &QTimer::timeout, this, &PairModel::onTick);
    for (auto& player : m_players) {
        connect(&player, &FilmPlayer::message, this, &PairModel::message);
        connect(&player, &FilmPlayer::opened, this, [this] { follow(); });
    }
}

void PairModel::close()
{
    m_work.stop();
    m_isGathering = false;
    setPlaying(false);
    for (std::size_t n = 0; n < 2; ++n) {
        m_players[n].close();
        m_sides[n].reset();
    }
    m_lineUp.reset();
    m_pack = nullptr;
    emit changed();
}

void PairModel::open(store::RepetitionId a, store::RepetitionId b)
{
    close();
    m_isGathering = true;
    emit changed();
    m_work = Background::run(
        this,
        [openLibrary = m_workspace.library().again(true), ids = std::array{a, b},
         packs = m_workspace.packs()](std::stop_token) -> Expected<Gathered> {
            auto library = openLibrary();
            if (!library)
                return tl::unexpected(library.error());
            Gathered g;
            std::array<std::string, 2> skills;
            std::array<std::vector<Reading>, 2> readings;
            std::array<std::string, 2> films;
            for (std::size_t n = 0; n < 2; ++n) {
                auto film = filmOf(*library, ids[n]);
                if (!film)
                    return tl::unexpected(film.error());
                const auto row = library->repetitions().find(ids[n]);
                const auto clip = row.and_then([&](const store::RepetitionRow& r) { return library->clips().find(r.clip); });
                const auto day = clip.and_then([&](const store::Clip& c) { return library->days().find(c.day); });
                const auto athlete =
                    day.and_then([&](const store::FilmingDay& d) { return library->athletes().find(d.athlete); });
                if (!athlete)
                    return tl::unexpected(athlete.error());
                skills[n] = day->skill;
                films[n] = film->file;
                PairSide& side = g.sides[n];
                side.title = athlete->name + ", " + day->date + (row->name.empty() ? "" : ", " + row->name);
                side.film = std::move(*film);
                side.prepared = std::make_shared<const PreparedRepetition>(side.film.marking, side.film.clock);
            }
            if (skills[0] != skills[1])
                return fail(ErrorCode::BadArgument, "Only films of one skill can be compared.");
            const auto pack = std::find_if(packs.begin(), packs.end(), [&](const Pack& p) { return p.id == skills[0]; });
            if (pack == packs.end())
                return fail(ErrorCode::NotFound, "There is no pack for this skill.");
            g.pack = *pack;
            for (std::size_t n = 0; n < 2; ++n)
                readings[n] = calcReadings(g.pack, *g.sides[n].prepared, {});
            const Marking &ma = g.sides[0].film.marking, &mb = g.sides[1].film.marking;
            g.differences = calcDifferences(g.pack, readings[0], readings[1], films[0] == films[1]);
            g.tempo = calcTempo(g.pack, ma, g.sides[0].film.clock, mb, g.sides[1].film.clock);
            g.unfair = unfairness(ma, mb);
            return g;
        },
        [this](Expected<Gathered> g) {
            m_isGathering = false;
            if (g)
                return apply(std::move(*g));
            emit message(QString::fromStdString(g.error().text()));
            emit changed();
        });
}

void PairModel::apply(Gathered g)
{
    m_ownPack = std::move(g.pack);
    m_pack = &*m_ownPack;
    m_differences = std::move(g.differences);
    m_tempo = std::move(g.tempo);
    m_unfair = std::move(g.unfair);
    m_offset = 0;
    for (std::size_t n = 0; n < 2; ++n) {
        m_sides[n] = std::move(g.sides[n]);
        const auto& film = m_sides[n]->film;
        m_players[n].open(QString::fromStdString(film.file), film.knownIndex, film.marking.film.frames, film.marking.clock);
    }
    const auto common = commonPositions();
    m_at = common.empty() ? std::string() : common.front()->id;
    for (const auto* k : common)
        if (k->id == m_pack->zero)
            m_at = k->id;
    setLinedUpAt(m_at);
    emit changed();
}

std::vector<const KeyPosition*> PairModel::commonPositions() const
{
    std::vector<const KeyPosition*> common;
    if (isOpen())
        for (const auto& k : m_pack->keyPositions)
            if (findEvent(m_sides[0]->film.marking, k.id) && findEvent(m_sides[1]->film.marking, k.id))
                common.push_back(&k);
    return common;
}

void PairModel::setLinedUpAt(const std::string& keyPosition)
{
    m_at = keyPosition;
    if (!isOpen())
        return;
    m_lineUp.emplace(m_sides[0]->film.marking, m_sides[0]->film.clock, m_sides[1]->film.marking, m_sides[1]->film.clock, *m_pack,
                     m_at, m_by);
    m_offset = 0;
    goTo(keyPosition);
}

void PairModel::setBy(LineUp::By by)
{
    m_by = by;
    if (!isOpen())
        return;
    m_lineUp.emplace(m_sides[0]->film.marking, m_sides[0]->film.clock, m_sides[1]->film.marking, m_sides[1]->film.clock, *m_pack,
                     m_at, m_by);
    follow();
}

void PairModel::nudge(double pictures)
{
    m_offset += pictures;
    follow();
}

void PairModel::goTo(const std::string& keyPosition)
{
    const Event* e = isOpen() ? findEvent(m_sides[0]->film.marking, keyPosition) : nullptr;
    setFrame(e ? e->frame.nearest() : isOpen() ? m_sides[0]->film.repetition.first : FrameIndex(0));
}

void PairModel::setFrame(FrameIndex ofFirst)
{
    if (!isOpen())
        return;
    m_players[0].setFrame(ofFirst);
    follow();
}

void PairModel::follow()
{
    if (!isOpen() || !m_lineUp)
        return;
    m_players[1].setFrame(m_lineUp->ofB(FramePosition(m_players[0].frame()), m_offset).nearest());
    emit frameChanged();
}

void PairModel::setSpeed(double speed)
{
    m_speed = speed;
    if (isPlaying()) {
        setPlaying(false);
        setPlaying(true);
    }
}

void PairModel::setPlaying(bool play)
{
    if (play == isPlaying() || (play && !isOpen()))
        return;
    if (play) {
        const auto now = m_sides[0]->film.clock.timeOf(m_players[0].frame());
        m_startSeconds = now ? now->seconds : 0;
        m_since.start();
        m_tick.start();
    } else {
        m_tick.stop();
    }
    emit playingChanged();
}

/// Both by one clock: the sides cannot drift apart.
void PairModel::onTick()
{
    const auto& clock = m_sides[0]->film.clock;
    const double now = m_startSeconds + m_speed * static_cast<double>(m_since.elapsed()) / 1000;
    const FrameIndex frame = clock.frameAt(RealTime{now});
    const FrameIndex last = m_sides[0]->film.repetition.last;
    if (frame >= last) { // round again
        const auto first = clock.timeOf(m_sides[0]->film.repetition.first);
        m_startSeconds = first ? first->seconds : 0;
        m_since.start();
    }
    if (frame != m_players[0].frame())
        setFrame(std::min(frame, last));
}

bool PairModel::areMirrored() const
{
    return isOpen() && m_sides[0]->film.marking.athlete.hand != m_sides[1]->film.marking.athlete.hand;
}

std::optional<QTransform> PairModel::secondToFirst() const
{
    if (!isOpen())
        return std::nullopt;
    const FrameIndex a = m_players[0].frame(), b = m_players[1].frame();
    const auto hipA = middle(*m_sides[0], "midHip", a), hipB = middle(*m_sides[1], "midHip", b);
    const auto highA = standingPixels(*m_sides[0], a), highB = standingPixels(*m_sides[1], b);
    if (!hipA || !hipB || !highA || !highB || *highB <= 0)
        return std::nullopt;
    const double scale = *highA / *highB;
    QTransform t;
    t.translate(hipA->x, hipA->y);
    t.scale(areMirrored() ? -scale : scale, scale);
    t.translate(-hipB->x, -hipB->y);
    return t;
}

} // namespace kestrel::app
