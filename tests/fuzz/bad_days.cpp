// Bad days, thrown at the program by the hundred: files changed at random, films changed at random, the program killed while it
// stores, a disk that is full, a library whose file is damaged. Each try runs in a process of its own, with a ceiling on its
// memory and its time. Prints a table of what was tried and what failed; the exit code is 1 when anything did.
//
//   bad_days [SHARE [documents]]    1: as many as the table in docs/bad-days.md; 0.02: a fiftieth of them; or only the documents

#include "support/coded_film.h"
#include "support/markings.h"

#include "core/base/json_reader.h"
#include "core/judge/day_review.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking_json.h"
#include "media/film.h"
#include "sim/skill.h"
#include "store/library.h"

#include <QGuiApplication>
#include <QTemporaryDir>

#include <cstdio>
#include <cstdlib>
#include <functional>
#include <iostream>
#include <random>
#include <set>

#include <csignal>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace kestrel;

namespace {

constexpr rlim_t kMostMemory = 3ULL << 30; // of address space
constexpr unsigned kMostSeconds = 30;
constexpr int kBadNews = 7; // exit code of a try that found a promise broken

using Random = std::mt19937;

std::size_t below(Random& random, std::size_t count)
{
    return std::uniform_int_distribution<std::size_t>(0, count - 1)(random);
}

struct Tally {
    int tried = 0, failed = 0;
    std::string first; ///< what the first failure was
};

/// Runs one try in a process of its own. \param attempt  false: a promise was broken
void attemptApart(Tally& tally, int seed, const std::function<bool()>& attempt)
{
    ++tally.tried;
    std::cout.flush();
    const pid_t child = ::fork();
    if (child == 0) {
#ifndef __SANITIZE_ADDRESS__ // which needs terabytes of address space for itself
        const rlimit memory{kMostMemory, kMostMemory};
        ::setrlimit(RLIMIT_AS, &memory);
#endif
        const rlimit noCore{0, 0};
        ::setrlimit(RLIMIT_CORE, &noCore);
        ::alarm(kMostSeconds);
        ::_exit(attempt() ? 0 : kBadNews);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    if (WIFEXITED(status) && WEXITSTATUS(status) == 0)
        return;
    if (tally.failed++ == 0)
        tally.first = (WIFSIGNALED(status) ? "signal " + std::to_string(WTERMSIG(status)) : "a promise broken") + ", seed " +
                      std::to_string(seed);
}

/// Some bytes changed, cut out, doubled; or a word of the format put where it does not belong.
std::string mutated(std::string bytes, Random& random, const std::vector<std::string>& words)
{
    for (std::size_t changes = 1 + below(random, 4); changes > 0 && !bytes.empty(); --changes) {
        const std::size_t at = below(random, bytes.size());
        switch (below(random, words.empty() ? 4 : 5)) {
        case 0:
            bytes[at] = static_cast<char>(below(random, 256));
            break;
        case 1:
            bytes.erase(at, 1 + below(random, 40));
            break;
        case 2:
            bytes.insert(at, bytes.substr(below(random, bytes.size()), 1 + below(random, 200)));
            break;
        case 3:
            bytes.resize(std::max<std::size_t>(1, bytes.size() - below(random, 1 + bytes.size() / 8)));
            break;
        default: { // a whole value, so that it stays JSON
            const auto begin = bytes.find_first_of(":[,", at);
            const auto end = begin == std::string::npos ? begin : bytes.find_first_of(",]}", begin + 1);
            if (end != std::string::npos)
                bytes.replace(begin + 1, end - begin - 1, words[below(random, words.size())]);
        }
        }
    }
    return bytes;
}

struct Document {
    std::string text;
    std::function<void(const nlohmann::json&)> use;
};

std::vector<Document> documents(const std::string& folder)
{
    static const Marking marking = test::simulated(test::pitch()).truth;
    Marking few = marking;
    few.marks.resize(200);
    const auto judge = [](const Pack& pack, const Marking& m) {
        const PreparedRepetition prepared(m, evenClock(m.film.frames, m.clock.capture));
        (void)calcReview(pack, {readRepetition(pack, prepared, {})}, {});
    };
    std::vector<Document> all;
    for (const auto& file : packFiles(shippedFolder("packs")))
        all.push_back({test::contentOf(file), [=](const nlohmann::json& root) {
                           if (const auto pack = parsePack(root, "own.json"))
                               judge(*pack, few);
                       }});
    all.push_back({printed(toJson(few), -1), [=](const nlohmann::json& root) {
                       if (const auto m = parseMarking(root, "own.json"); m && m->film.frames < 1'000'000)
                           judge(test::pitchPack(), *m);
                   }});
    all.push_back({printed(toJson(test::reviewOf(few), test::pitchPack()), -1), [=](const nlohmann::json& root) {
                       test::writeFile(folder + "/own.json", printed(root, -1));
                       (void)loadReview(folder + "/own.json");
                   }});
    all.push_back({test::contentOf(shippedFolder("motions") + "/windmill-pitch.json"),
                   [](const nlohmann::json& root) { (void)sim::parseSimSkill(root, "own.json"); }});
    return all;
}

Tally mutatedDocuments(int count, const std::string& folder)
{
    constexpr int kAtOnce = 20; // a process each: parsing takes less time than starting one
    const auto all = documents(folder);
    const std::vector<std::string> words{
        "null", "[]", "{}", "[null]", "1e300", "-1", "true", "\"\"", "\"ref.\"", "1e-320", "18446744073709551616"};
    Tally tally;
    for (int n = 0; n < count; n += kAtOnce) {
        attemptApart(tally, n, [&] {
            for (int seed = n; seed < n + kAtOnce; ++seed) {
                Random random(static_cast<unsigned>(seed));
                const Document& d = all[below(random, all.size())];
                if (const auto root = parseJson(mutated(d.text, random, words), "own.json"))
                    d.use(*root);
            }
            return true;
        });
        tally.tried += std::min(kAtOnce, count - n) - 1;
    }
    return tally;
}

Tally mutatedFilms(int count, const std::string& folder)
{
    std::vector<std::string> films;
    for (const char* name : {"a.mp4", "a.webm"}) {
        test::CodedFilm film;
        film.name = name;
        film.frames = 30;
        film.codec = film.name == "a.webm" ? "vp9" : "h264";
        const std::string file = film.write(folder);
        if (file.empty())
            std::abort();
        films.push_back(test::contentOf(file));
    }
    Tally tally;
    for (int seed = 0; seed < count; ++seed)
        attemptApart(tally, seed, [&] {
            Random random(static_cast<unsigned>(seed));
            const std::string file = folder + "/own.mp4";
            test::writeFile(file, mutated(films[below(random, films.size())], random, {}));
            auto film = media::Film::open(file);
            for (std::int64_t i = 0; film && i < film->info().frames() && i < 60; i += 7)
                (void)film->frame(FrameIndex(i));
            return true;
        });
    return tally;
}

std::string nameOf(int n)
{
    return "Number " + std::to_string(n);
}

/// Stores one athlete after another and says of each through the pipe that it was stored.
void storeAndTell(const std::string& folder, int pipe)
{
    auto library = store::Library::open(folder);
    for (int n = 0; library && n < 100'000; ++n)
        if (library->add(store::Athlete{{}, nameOf(n), "", Hand::Right, {}, true}) && ::write(pipe, &n, sizeof n) < 0)
            return;
}

/// Whether the library opens, is sound and holds everything up to that number.
bool holds(const std::string& folder, int last)
{
    const auto library = store::Library::open(folder);
    if (!library)
        return last < 0 && library.error().code == ErrorCode::CannotOpen;
    const auto all = library->athletes().all();
    if (!library->check() || !all)
        return false;
    std::set<std::string> names;
    for (const auto& a : *all)
        names.insert(a.name);
    for (int n = 0; n <= last; ++n)
        if (names.count(nameOf(n)) == 0)
            return false;
    return true;
}

Tally killedWhileStoring(int count)
{
    Tally tally;
    for (int seed = 0; seed < count; ++seed)
        attemptApart(tally, seed, [&] {
            Random random(static_cast<unsigned>(seed));
            QTemporaryDir folder;
            const std::string place = folder.path().toStdString();
            int ends[2];
            if (::pipe(ends) != 0)
                return false;
            const pid_t child = ::fork();
            if (child == 0) {
                storeAndTell(place, ends[1]);
                ::_exit(0);
            }
            ::close(ends[1]);
            ::usleep(static_cast<useconds_t>(3000 + below(random, 250'000)));
            ::kill(child, SIGKILL);
            ::waitpid(child, nullptr, 0);
            int last = -1;
            for (int n = 0; ::read(ends[0], &n, sizeof n) == sizeof n;)
                last = n;
            return holds(place, last);
        });
    return tally;
}

/// No file may grow beyond a size, as on a disk that is full.
Tally fullDisk(int count)
{
    Tally tally;
    for (int seed = 0; seed < count; ++seed)
        attemptApart(tally, seed, [&] {
            QTemporaryDir folder;
            const std::string place = folder.path().toStdString();
            int last = -1;
            {
                auto library = store::Library::open(place);
                for (int n = 0; library && n < 20; ++n)
                    if (library->add(store::Athlete{{}, nameOf(n), "", Hand::Right, {}, true}))
                        last = n;
            }
            ::signal(SIGXFSZ, SIG_IGN);
            const auto room = static_cast<rlim_t>(4096 * seed);
            const rlimit full{room, RLIM_INFINITY};
            ::setrlimit(RLIMIT_FSIZE, &full);
            {
                auto library = store::Library::open(place);
                if (!library || !library->athletes().all()) { // to look at it needs no room
                    std::cerr << (library ? std::string("not read") : library.error().text()) << "\n";
                    return false;
                }
                for (int n = last + 1; n < 200; ++n) {
                    const auto added = library->add(store::Athlete{{}, nameOf(n), "", Hand::Right, {}, true});
                    if (!added) {
                        if (added.error().code != ErrorCode::CannotWrite && added.error().code != ErrorCode::ReadOnly) {
                            std::cerr << added.error().text() << "\n";
                            return false;
                        }
                        break;
                    }
                    last = n;
                }
            }
            const rlimit free{RLIM_INFINITY, RLIM_INFINITY};
            ::setrlimit(RLIMIT_FSIZE, &free);
            return holds(place, last);
        });
    return tally;
}

/// Opened or refused with a sentence; what is refused stays as it is.
Tally damagedLibrary(int count)
{
    Tally tally;
    for (int seed = 0; seed < count; ++seed)
        attemptApart(tally, seed, [&] {
            Random random(static_cast<unsigned>(seed));
            QTemporaryDir folder;
            const std::string place = folder.path().toStdString(), file = place + "/library.db";
            {
                auto library = store::Library::open(place);
                for (int n = 0; library && n < 300; ++n)
                    (void)library->add(store::Athlete{{}, nameOf(n), "", Hand::Right, {}, true});
            }
            std::string bytes = test::contentOf(file);
            if (seed % 3 == 0)
                bytes.resize(below(random, bytes.size()));
            else
                for (std::size_t n = 0; n < (seed % 3 == 1 ? 1 : 200); ++n)
                    bytes[below(random, bytes.size())] ^= static_cast<char>(1 + below(random, 255));
            test::writeFile(file, bytes);
            auto library = store::Library::open(place);
            if (!library)
                return !library.error().message.empty() && test::contentOf(file) == bytes;
            (void)library->check();
            for (const auto& a : library->athletes().all().value_or(std::vector<store::Athlete>{}))
                (void)library->days().of(a.id);
            return true;
        });
    return tally;
}

bool print(const char* what, const Tally& tally)
{
    std::cout << "| " << what << " | " << tally.tried << " | " << tally.failed
              << (tally.first.empty() ? "" : " (" + tally.first + ")") << " |" << std::endl;
    return tally.failed == 0;
}

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    const double share = argc > 1 ? std::atof(argv[1]) : 1;
    const auto of = [share](int count) { return std::max(1, static_cast<int>(count * share)); };
    QTemporaryDir folder;
    std::cout << "| what | tried | failed |\n|---|---|---|\n";
    bool isWell = print("documents changed at random: packs, markings, reviews, motions",
                        mutatedDocuments(of(10'000), folder.path().toStdString()));
    if (argc > 2)
        return isWell ? 0 : 1;
    isWell &= print("killed while it stores", killedWhileStoring(of(100)));
    isWell &= print("films changed at random", mutatedFilms(of(1000), folder.path().toStdString()));
    isWell &= print("a full disk", fullDisk(of(20)));
    isWell &= print("a damaged library", damagedLibrary(of(60)));
    return isWell ? 0 : 1;
}
