#include "app/bench/day_reader.h"

#include "core/read/reading.h"
#include "core/scene/marking_json.h"
#include "media/film.h"

#include <QCryptographicHash>
#include <nlohmann/json.hpp>

#include <algorithm>

namespace kestrel::app {

namespace {

struct ClipOfDay {
    store::Clip clip;
    std::vector<store::RepetitionRecord> repetitions;
    std::int64_t marksRevision = 0;
    std::string uuid;
    FrameClock clock;
    bool hasTimes = false; ///< of its pictures, from the film itself
};

/// Reads everything of the day but marks, and finds out of each repetition by what its readings are known.
class Gatherer {
public:
    Gatherer(const store::Library& library, const Pack& pack, const std::optional<OpenTimes>& open)
        : m_library(library), m_pack(pack), m_open(open)
    {
    }

    Expected<void> load(store::DayId id)
    {
        auto day = m_library.days().find(id);
        if (!day)
            return tl::unexpected(day.error());
        auto athlete = m_library.athletes().find(day->athlete);
        auto clips = m_library.clips().of(id);
        if (!athlete || !clips)
            return tl::unexpected(athlete ? clips.error() : athlete.error());
        m_day = std::move(*day);
        m_athlete = std::move(*athlete);
        for (auto& clip : *clips)
            if (auto done = add(std::move(clip)); !done)
                return done;
        return {};
    }

    Expected<GatheredDay> gather(const ReadingCache& cache, std::size_t mostMarks) const
    {
        GatheredDay all;
        std::vector<std::optional<Tied>> ties;
        for (std::size_t c = 0; c < m_clips.size(); ++c)
            for (std::size_t r = 0; r < m_clips[c].repetitions.size(); ++r) {
                const store::RepetitionRecord& record = m_clips[c].repetitions[r];
                const auto& tied = ties.emplace_back(tieOf(record.repetition.id));
                DayRepetition one;
                one.marking = markingOf(m_clips[c], record);
                one.clock = m_clips[c].clock;
                one.label = labelOf(c, r);
                one.counts = !tied || isFirstOf(record.repetition.id, *tied);
                std::string key = keyOf(m_clips[c], record);
                if (tied)
                    key += keyOf(*tied->first, *tied->second);
                key = QCryptographicHash::hash(QByteArray::fromStdString(key), QCryptographicHash::Sha256).toHex().toStdString();
                one.read = known(record.repetition.id, key, cache);
                if (!one.read)
                    if (auto done = count(m_clips[c], all); !done)
                        return tl::unexpected(done.error());
                all.ids.push_back(record.repetition.id);
                all.clips.push_back(m_clips[c].clip.id);
                all.keys.push_back(std::move(key));
                all.repetitions.push_back(std::move(one));
            }
        if (all.marksToRead <= mostMarks)
            for (std::size_t n = 0; n < all.ids.size(); ++n)
                if (!all.repetitions[n].read)
                    if (auto done = addMarks(all.repetitions[n], all.ids[n], ties[n]); !done)
                        return tl::unexpected(done.error());
        return all;
    }

private:
    using Tied = std::pair<const ClipOfDay*, const store::RepetitionRecord*>;

    Expected<void> add(store::Clip clip)
    {
        ClipOfDay of;
        auto records = m_library.repetitions().records(clip.id);
        const auto revision = m_library.marks().revision(clip.id);
        const auto uuid = m_library.uuid(clip.id);
        const auto film = m_library.films().known(clip.contentHash);
        if (!records || !revision || !uuid || !film)
            return tl::unexpected(!records    ? records.error()
                                  : !revision ? revision.error()
                                  : !uuid     ? uuid.error()
                                              : film.error());
        of.clip = std::move(clip);
        of.repetitions = std::move(*records);
        of.marksRevision = *revision;
        of.uuid = *uuid;
        auto shown = *film ? media::shownTimes((*film)->index) : std::vector<MediaTime>();
        const bool isOpen = m_open && m_open->clip == of.clip.id;
        of.hasTimes = isOpen || static_cast<std::int64_t>(shown.size()) == of.clip.film.frames;
        of.clock = isOpen        ? m_open->clock
                   : of.hasTimes ? FrameClock(std::move(shown), of.clip.clock.slowFactor())
                                 : evenClock(of.clip.film.frames, std::max(1.0, of.clip.clock.capture));
        m_clips.push_back(std::move(of));
        return {};
    }

    /// The same repetition on another clip of the day.
    std::optional<Tied> tieOf(store::RepetitionId id) const
    {
        store::RepetitionId says;
        for (const auto& c : m_clips)
            for (const auto& r : c.repetitions)
                if (r.repetition.id == id)
                    says = r.repetition.secondCamera;
        for (const auto& c : m_clips)
            for (const auto& r : c.repetitions)
                if (r.repetition.id == says || (r.repetition.secondCamera == id && r.repetition.id != id))
                    return Tied(&c, &r);
        return std::nullopt;
    }

    /// Of two films of one repetition, the one from where the pack would rather see it counts.
    bool isFirstOf(store::RepetitionId id, const Tied& tied) const
    {
        const auto rank = [this](View v) {
            std::size_t n = 0;
            while (n < m_pack.filming.size() && m_pack.filming[n].view != v)
                ++n;
            return n;
        };
        for (const auto& c : m_clips)
            for (const auto& r : c.repetitions)
                if (r.repetition.id == id) {
                    const auto here = rank(c.clip.scene.view), there = rank(tied.first->clip.scene.view);
                    return here != there ? here < there : id < tied.second->repetition.id;
                }
        return true;
    }

    std::string labelOf(std::size_t clip, std::size_t repetition) const
    {
        const bool isOneClip = m_clips.size() == 1, isOneRepetition = m_clips[clip].repetitions.size() == 1;
        const std::string of = "repetition " + std::to_string(repetition + 1), on = "clip " + std::to_string(clip + 1);
        return isOneClip ? of : isOneRepetition ? on : on + ", " + of;
    }

    Marking markingOf(const ClipOfDay& c, const store::RepetitionRecord& record) const
    {
        Marking m;
        m.film = c.clip.film;
        m.film.file = m_library.filmPath(c.clip);
        m.clock = c.clip.clock;
        m.scene = c.clip.scene;
        m.athlete = store::athleteOn(m_athlete, m_day);
        m.skill = m_day.skill;
        m.variant = record.repetition.variant;
        m.isLive = record.repetition.isLive;
        m.outcome = record.repetition.outcome;
        m.answers = record.answers;
        m.events = record.events;
        return m;
    }

    std::string keyOf(const ClipOfDay& c, const store::RepetitionRecord& record) const
    {
        Marking m = markingOf(c, record);
        m.film.file.clear();
        m.answers.clear(); // they are judged, not read
        m.outcome.clear();
        const nlohmann::json key{
            kReadingsVersion,   m_pack.digest, m_day.school,
            toJson(m),          c.uuid,        c.marksRevision,
            c.clip.contentHash, c.hasTimes,    {record.repetition.first.value, record.repetition.last.value}};
        return key.dump();
    }

    std::shared_ptr<const RepetitionReadings> known(store::RepetitionId id, const std::string& key,
                                                    const ReadingCache& cache) const
    {
        if (const auto it = cache.find(id); it != cache.end() && it->second.key == key)
            return it->second.readings;
        const auto kept = m_library.readings().kept(id);
        if (!kept || !*kept || (*kept)->key != key)
            return nullptr;
        auto read = parseReadings(nlohmann::json::parse((*kept)->readings, nullptr, false));
        return read ? std::make_shared<const RepetitionReadings>(std::move(*read)) : nullptr;
    }

    Expected<void> addMarks(DayRepetition& one, store::RepetitionId id, const std::optional<Tied>& tied) const
    {
        auto marking = m_library.marking(id);
        if (!marking)
            return tl::unexpected(marking.error());
        one.marking.marks = std::move(marking->marks);
        if (!tied)
            return {};
        auto other = m_library.marking(tied->second->repetition.id);
        if (!other)
            return tl::unexpected(other.error());
        one.fromSecondCamera = std::make_shared<const PreparedRepetition>(std::move(*other), tied->first->clock);
        return {};
    }

    Expected<void> count(const ClipOfDay& c, GatheredDay& all) const
    {
        return m_library.marks().count(c.clip.id).map([&](std::size_t marks) { all.marksToRead += marks; });
    }

    const store::Library& m_library;
    const Pack& m_pack;
    const std::optional<OpenTimes>& m_open;
    store::FilmingDay m_day;
    store::Athlete m_athlete;
    std::vector<ClipOfDay> m_clips;
};

} // namespace

Expected<GatheredDay> gatherDay(const store::Library& library, store::DayId day, const Pack& pack, const ReadingCache& cache,
                                std::size_t mostMarks, const std::optional<OpenTimes>& open)
{
    Gatherer gatherer(library, pack, open);
    if (auto loaded = gatherer.load(day); !loaded)
        return tl::unexpected(loaded.error());
    return gatherer.gather(cache, mostMarks);
}

} // namespace kestrel::app
