#include "app/pair/pair_model.h"

#include "app/pair/model_side.h"
#include "app/shell/face_hiding.h"

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr int kTickMs = 4; // how late a step may be that both could have taken

} // namespace

PairModel::PairModel(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace)
{
    m_tick.setTimerType(Qt::PreciseTimer);
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

Expected<PairModel::Of> PairModel::sideOf(const store::Library& library, store::RepetitionId id)
{
    auto film = filmOf(library, id);
    if (!film)
        return tl::unexpected(film.error());
    const auto row = library.repetitions().find(id);
    const auto clip = row.and_then([&](const store::RepetitionRow& r) { return library.clips().find(r.clip); });
    const auto day = clip.and_then([&](const store::Clip& c) { return library.days().find(c.day); });
    const auto athlete = day.and_then([&](const store::FilmingDay& d) { return library.athletes().find(d.athlete); });
    if (!athlete)
        return tl::unexpected(athlete.error());
    Of of;
    of.skill = day->skill;
    of.school = day->school;
    of.side.title = athlete->name + ", " + day->date + (row->name.empty() ? "" : ", " + row->name);
    of.side.film = std::move(*film);
    of.side.hidesFaces = hidesFaces(*athlete, of.side.film.marking.athlete.age);
    of.side.prepared = std::make_shared<const PreparedRepetition>(of.side.film.marking, of.side.film.clock);
    return of;
}

Expected<Pack> PairModel::packOf(const std::vector<Pack>& packs, const std::string& skill)
{
    const auto pack = std::find_if(packs.begin(), packs.end(), [&](const Pack& p) { return p.id == skill; });
    if (pack == packs.end())
        return fail(ErrorCode::NotFound, "There is no pack for this skill.");
    return *pack;
}

PairModel::Gathered PairModel::compared(Pack pack, PairSide a, PairSide b)
{
    Gathered g{std::move(pack), {std::move(a), std::move(b)}, {}, {}, {}, {}, {}};
    for (std::size_t n = 0; n < 2; ++n) {
        g.readings[n] = calcReadings(g.pack, *g.sides[n].prepared, {});
        g.sequences[n] = calcSequence(g.pack, *g.sides[n].prepared);
    }
    const auto &fa = g.sides[0].film, &fb = g.sides[1].film;
    g.differences = calcDifferences(g.pack, g.readings[0], g.readings[1], fa.file == fb.file);
    g.tempo = calcTempo(g.pack, fa.marking, fa.clock, fb.marking, fb.clock);
    g.unfair = unfairness(fa.marking, fb.marking);
    return g;
}

void PairModel::open(store::RepetitionId a, store::RepetitionId b)
{
    m_first = a;
    gather([ids = std::array{a, b}](const store::Library& library, const std::vector<Pack>& packs,
                                    std::stop_token) -> Expected<Gathered> {
        std::array<Of, 2> sides;
        for (std::size_t n = 0; n < 2; ++n) {
            auto side = sideOf(library, ids[n]);
            if (!side)
                return tl::unexpected(side.error());
            sides[n] = std::move(*side);
        }
        if (sides[0].skill != sides[1].skill)
            return fail(ErrorCode::BadArgument, "Only films of one skill can be compared.");
        return packOf(packs, sides[0].skill).map([&](Pack pack) {
            return compared(std::move(pack), std::move(sides[0].side), std::move(sides[1].side));
        });
    });
}

void PairModel::openModel(store::RepetitionId a)
{
    m_first = a;
    gather([a, percent = m_modelPercent](const store::Library& library, const std::vector<Pack>& packs,
                                         std::stop_token stop) -> Expected<Gathered> {
        auto side = sideOf(library, a);
        if (!side)
            return tl::unexpected(side.error());
        auto pack = packOf(packs, side->skill);
        if (!pack)
            return tl::unexpected(pack.error());
        auto model = modelSide(
            *pack, side->school, side->side.film.marking, [&](int done, int all) { *percent = 100 * done / std::max(1, all); },
            stop);
        *percent = -1;
        if (!model)
            return tl::unexpected(model.error());
        Gathered g = compared(std::move(*pack), std::move(side->side), std::move(*model));
        g.unfair.emplace_back("The model is a picture of this pack's bands at the player's height, not a person to copy.");
        return g;
    });
}

void PairModel::gather(Gatherer gatherer)
{
    close();
    m_isGathering = true;
    emit changed();
    m_work = Background::run(
        this,
        [openLibrary = m_workspace.library().again(true), packs = m_workspace.packs(),
         gatherer = std::move(gatherer)](std::stop_token stop) -> Expected<Gathered> {
            return openLibrary().and_then([&](const store::Library& library) { return gatherer(library, packs, stop); });
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
    m_sequences = std::move(g.sequences);
    m_readings = std::move(g.readings);
    m_chosen.clear();
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
        const bool isBackward = m_isBackward;
        setPlaying(false);
        setPlaying(true, isBackward);
    }
}

void PairModel::setPlaying(bool play, bool isBackward)
{
    if ((play == isPlaying() && isBackward == m_isBackward) || (play && !isOpen()))
        return;
    m_isBackward = isBackward;
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

/// Both by one clock: the sides cannot drift apart. At the end of the repetition it goes round again.
void PairModel::onTick()
{
    if (m_players[0].isWaiting() || m_players[1].isWaiting())
        return; // the clock goes on: what one of them cannot show in time is left out on both
    const auto& clock = m_sides[0]->film.clock;
    const FrameRange whole = m_sides[0]->film.repetition;
    const double gone = m_speed * static_cast<double>(m_since.elapsed()) / 1000;
    const FrameIndex frame = clock.frameAt(RealTime{m_startSeconds + (m_isBackward ? -gone : gone)});
    if (m_isBackward ? frame <= whole.first : frame >= whole.last) {
        const auto from = clock.timeOf(m_isBackward ? whole.last : whole.first);
        m_startSeconds = from ? from->seconds : 0;
        m_since.start();
    }
    if (frame != m_players[0].frame())
        setFrame(std::clamp(frame, whole.first, whole.last));
}

bool PairModel::areMirrored() const
{
    return isOpen() && kestrel::app::areMirrored(*m_sides[0], *m_sides[1]);
}

std::optional<QTransform> PairModel::secondToFirst() const
{
    if (!isOpen())
        return std::nullopt;
    return kestrel::app::secondToFirst(*m_sides[0], m_players[0].frame(), *m_sides[1], m_players[1].frame(), m_anchor);
}

void PairModel::setAnchor(const std::string& role)
{
    m_anchor = role;
    emit frameChanged();
}

void PairModel::choose(const std::string& measure)
{
    m_chosen = m_chosen == measure ? std::string() : measure;
    for (const auto& d : m_differences)
        if (d.measure == m_chosen)
            goTo(d.keyPosition);
    emit chosenChanged();
    emit frameChanged();
}

const Reading* PairModel::chosenReading(std::size_t n) const
{
    const auto& all = m_readings[n];
    const auto it = std::find_if(all.begin(), all.end(), [this](const Reading& r) { return r.measure == m_chosen; });
    return it == all.end() || it->figure.isEmpty() ? nullptr : &*it;
}

} // namespace kestrel::app
