#include "demo/demo_library.h"

#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"
#include "sim/match_film.h"
#include "sim/simulate.h"
#include "store/content_hash.h"
#include "store/library.h"

#include <algorithm>
#include <cmath>
#include <filesystem>

namespace kestrel::demo {

namespace {

namespace fs = std::filesystem;

/// A careful click lies within about this many pixels of the truth.
constexpr double kClickSigma = 1.5;

struct ClipPlan {
    std::string file;
    sim::SimulateOptions film;
    bool isMarked = false;
    bool isOtherSide = false; ///< the repetition of the day's clip before, filmed at once from another side
};
struct DayPlan {
    store::FilmingDay day;
    std::vector<ClipPlan> clips;
};
struct AthletePlan {
    double heightMetres = 0;
    store::Athlete athlete;
    std::vector<DayPlan> days;
    std::vector<BookDay> book;
};
struct MatchPlan {
    std::string file;
    sim::MatchFilmOptions film;
};
struct ClubPlan {
    std::vector<AthletePlan> athletes;
    std::optional<MatchPlan> match;
};

class ScenarioReader {
public:
    ScenarioReader(const nlohmann::json& root, JsonProblems& problems) : m_root(root, "", problems) {}

    ClubPlan read()
    {
        ClubPlan plan;
        for (const auto& n : m_root.at("athletes").items())
            plan.athletes.push_back(readAthlete(n));
        if (const auto match = m_root.find("match")) {
            plan.match.emplace();
            plan.match->file = match->at("file").words();
            plan.match->film.rallies = static_cast<int>(match->at("rallies").integerIn(1, 200));
            plan.match->film.seed = static_cast<std::uint32_t>(match->at("seed").integerIn(0, 100000));
        }
        return plan;
    }

private:
    AthletePlan readAthlete(const JsonNode& n)
    {
        AthletePlan plan;
        plan.athlete.name = n.at("name").text();
        plan.athlete.birthDate = n.at("birthDate").text();
        plan.athlete.hand = n.at("hand").choice(findHand, "right or left").value_or(Hand::Right);
        plan.heightMetres = n.at("heightMetres").numberIn(0.8, 2.3);
        plan.athlete.batHand = plan.athlete.hand;
        plan.athlete.guardianConsent = n.booleanOr("guardianConsent", true);
        plan.athlete.team = n.textOr("team", "");
        plan.athlete.kit = n.textOr("kit", "");
        plan.athlete.practiceDays = n.textOr("practiceDays", "");
        if (const auto book = n.find("book"))
            for (const auto& day : book->items())
                plan.book.push_back(readBookDay(day));
        m_look = static_cast<std::uint32_t>(n.at("look").integerIn(0, 1000));
        const auto sex = n.find("sex");
        m_sex = sex ? sex->choice(findSex, "girl or boy").value_or(sim::Sex::Female) : sim::Sex::Female;
        for (const auto& d : n.at("days").items())
            plan.days.push_back(readDay(d, plan.athlete, plan.heightMetres));
        if (!plan.days.empty()) // measured on the first day
            plan.athlete.heights = {{plan.days.front().day.date, plan.heightMetres}};
        return plan;
    }

    DayPlan readDay(const JsonNode& n, const store::Athlete& athlete, double heightMetres)
    {
        DayPlan plan;
        plan.day.date = n.at("date").text();
        plan.day.skill = n.at("skill").text();
        plan.day.school = n.textOr("school", "");
        for (const auto& c : n.at("clips").items())
            plan.clips.push_back(readClip(c, athlete, heightMetres, plan.day));
        return plan;
    }

    ClipPlan readClip(const JsonNode& n, const store::Athlete& athlete, double heightMetres, const store::FilmingDay& day)
    {
        ClipPlan plan;
        plan.file = n.at("file").text();
        if (fs::path(plan.file).filename() != plan.file || plan.file.starts_with('.'))
            n.at("file").wrong("found \"" + plan.file + "\", expected a name without folders");
        plan.isMarked = n.booleanOr("marked", false);
        plan.isOtherSide = n.booleanOr("otherSide", false);
        sim::SimulateOptions& o = plan.film;
        o.skill = day.skill;
        o.motion.school = day.school;
        o.motion.variant = n.at("variant").text();
        o.motion.seed = static_cast<std::uint32_t>(n.at("seed").integerIn(0, 1'000'000));
        if (const auto faults = n.find("faults"))
            for (const auto& [fault, amount] : faults->members())
                o.motion.faults[fault] = amount.numberIn(0, 1.5);
        o.camera.view = n.at("view").choice(findView, "side, side_back, front, rear, overhead or diagonal").value_or(View::Side);
        o.frameRate = n.at("captureRate").numberIn(10, 1000);
        o.playbackRate = n.numberOr("playbackRate", o.frameRate);
        o.hand = athlete.hand;
        o.person.heightMetres = heightMetres;
        o.person.age = store::ageOn(athlete.birthDate, day.date).value_or(13);
        o.look = m_look;
        o.person.sex = m_sex;
        return plan;
    }

    JsonNode m_root;
    static std::optional<sim::Sex> findSex(const std::string& word)
    {
        if (word != "girl" && word != "boy")
            return std::nullopt;
        return word == "girl" ? sim::Sex::Female : sim::Sex::Male;
    }

    std::uint32_t m_look = 0;
    sim::Sex m_sex = sim::Sex::Female;
};

/// What a coach would have: key positions on whole frames, the whole body there, each point a little off.
Marking asMarkedByCoach(const Marking& truth, const Pack& pack, std::uint32_t seed)
{
    Marking m;
    const ErrorSample sample(seed);
    for (const auto& e : truth.events) {
        const FrameIndex frame(std::llround(e.frame.value));
        m.events.push_back({e.keyPosition, FramePosition(static_cast<double>(frame.value)), 0.5, Source::Coach});
        for (const auto& landmark :
             landmarksAt(pack, e.keyPosition, truth.scene.view, truth.athlete.hand, truth.variant, MarkExtent::WholeBody))
            if (const Mark* t = findMark(truth, frame, landmark)) {
                const auto key = ErrorSample::mix(static_cast<std::uint64_t>(frame.value), ErrorSample::keyOf(nameOf(landmark)));
                const auto off = [&](std::uint64_t axis) {
                    return kClickSigma * 0.8 * sample.normal(ErrorSample::mix(key, axis));
                };
                m.marks.push_back(
                    {frame, landmark, {t->at.x + off(1), t->at.y + off(2)}, kClickSigma, Source::Coach, t->visible});
            }
    }
    return m;
}

Expected<store::ClipId> addClip(store::Library& library, store::DayId day, const ClipPlan& plan,
                                const std::function<void(int, int)>& progress, std::stop_token stop)
{
    const auto pack = findPack(plan.film.skill);
    if (!pack)
        return tl::unexpected(pack.error());
    const auto simulated = sim::simulate(plan.film);
    if (!simulated)
        return tl::unexpected(simulated.error());
    const std::string file = (fs::path(library.folder()) / "films" / plan.file).string();
    const auto saved = sim::saveClip(*simulated, file, progress, stop);
    if (!saved)
        return tl::unexpected(saved.error());
    const auto hash = store::calcContentHash(file, stop);
    if (!hash)
        return tl::unexpected(hash.error());
    store::Clip clip;
    clip.day = day;
    clip.file = library.storedPath(file);
    clip.contentHash = *hash;
    clip.film = simulated->truth.film;
    clip.film.file.clear();
    clip.clock = simulated->truth.clock;
    clip.scene = simulated->truth.scene;
    if (!plan.isMarked)
        clip.scene.scale.reset(); // left for the coach to draw
    const auto id = library.add(clip, plan.film.motion.variant);
    if (!id || !plan.isMarked)
        return id;
    return library.marks().addMarking(*id, asMarkedByCoach(simulated->truth, *pack, plan.film.motion.seed)).map([&] {
        return *id;
    });
}

/// The first repetitions of two clips are one and the same.
Expected<void> tie(store::Library& library, store::ClipId clip, store::ClipId other)
{
    const auto one = library.repetitions().of(clip), two = library.repetitions().of(other);
    if (!one || !two)
        return tl::unexpected(one ? two.error() : one.error());
    return library.repetitions().setSecondCamera(one->front().id, two->front().id);
}

/// Paints every film and stores what belongs to it.
Expected<void> fill(const std::string& folder, const ClubPlan& club, const std::function<void(const Progress&)>& progress,
                    std::stop_token stop)
{
    auto library = store::Library::open(folder); // makes the folder, for its owner alone
    if (!library)
        return tl::unexpected(library.error());
    std::error_code ec;
    fs::create_directories(fs::path(folder) / "films", ec);
    if (ec)
        return fail(ErrorCode::CannotWrite, "The folder cannot be made: " + ec.message() + ".", folder);
    Progress now;
    for (const auto& plan : club.athletes)
        for (const auto& day : plan.days)
            now.films += static_cast<int>(day.clips.size());
    now.films += club.match.has_value();
    for (const auto& plan : club.athletes) {
        const auto athlete = library->add(plan.athlete);
        if (!athlete)
            return tl::unexpected(athlete.error());
        for (const auto& day : plan.book)
            if (auto done = library->books().set(*athlete, day); !done)
                return done;
        for (auto dayPlan : plan.days) {
            dayPlan.day.athlete = *athlete;
            if (const auto pack = findPack(dayPlan.day.skill))
                dayPlan.day.handUse = pack->handUse;
            const auto day = library->add(dayPlan.day);
            if (!day)
                return tl::unexpected(day.error());
            std::optional<store::ClipId> before;
            for (const auto& clip : dayPlan.clips) {
                now.file = clip.file;
                ++now.film;
                const auto tell = [&](int done, int of) {
                    now.picture = done;
                    now.pictures = of;
                    if (progress)
                        progress(now);
                };
                const auto added = addClip(*library, *day, clip, tell, stop);
                if (!added)
                    return tl::unexpected(added.error());
                if (clip.isOtherSide && before)
                    if (auto done = tie(*library, *added, *before); !done)
                        return done;
                before = *added;
            }
        }
    }
    if (club.match) {
        now.file = club.match->file;
        ++now.film;
        const std::string file = (fs::path(folder) / "films" / club.match->file).string();
        const auto tell = [&](double share) {
            now.picture = static_cast<int>(1000 * share);
            now.pictures = 1000;
            if (progress)
                progress(now);
        };
        auto log = sim::saveMatchFilm(club.match->film, file, tell, stop);
        if (!log)
            return tl::unexpected(log.error());
        log->film = library->storedPath(file);
        if (const auto added = library->matches().add(*log); !added)
            return tl::unexpected(added.error());
    }
    return {};
}

Expected<ClubPlan> loadScenario(const std::string& scenario)
{
    const auto root = loadJson(scenario);
    if (!root)
        return tl::unexpected(root.error());
    if (auto e = checkFormat(*root, "jolly-kestrel/demo", scenario))
        return tl::unexpected(*e);
    JsonProblems problems(scenario);
    auto plans = ScenarioReader(*root, problems).read();
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return plans;
}

} // namespace

Expected<void> checkScenario(const std::string& scenario)
{
    return loadScenario(scenario).map([](const ClubPlan&) {});
}

Expected<void> makeDemoLibrary(const std::string& scenario, const std::string& folder,
                               const std::function<void(const Progress&)>& progress, std::stop_token stop)
{
    const auto plans = loadScenario(scenario);
    if (!plans)
        return tl::unexpected(plans.error());
    std::error_code ec;
    if (fs::exists(fs::path(folder) / "library.db", ec))
        return fail(ErrorCode::BadArgument, "This folder holds a library already; name a new one.", folder);
    const bool isNewFolder = !fs::exists(folder, ec), isNewFilms = !fs::exists(fs::path(folder) / "films", ec);
    auto made = fill(folder, *plans, progress, stop);
    if (!made) { // nothing half stays behind
        if (isNewFilms)
            fs::remove_all(fs::path(folder) / "films", ec);
        for (const char* side : {"", "-wal", "-shm"})
            fs::remove(fs::path(folder) / (std::string("library.db") + side), ec);
        if (isNewFolder)
            fs::remove(folder, ec);
    }
    return made;
}

} // namespace kestrel::demo
