#include "support/json_faults.h"
#include "support/markings.h"
#include "support/runner.h"

#include "core/base/json_reader.h"
#include "core/judge/day_review.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking_json.h"
#include "demo/demo_library.h"
#include "sim/skill.h"

#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

namespace {

using nlohmann::json;

/// Reads the document and does with it what the program does. The error, if it was refused.
using Reader = std::function<std::optional<Error>(const json&)>;

template <class T> std::optional<Error> errorOf(const Expected<T>& read)
{
    return read ? std::nullopt : std::optional(read.error());
}

/// A pitch marked at its key positions, which reading takes a moment for.
const Marking& someMarking()
{
    static const Marking marking = [] {
        Marking m = simulated(pitch()).truth;
        std::erase_if(m.marks, [&](const Mark& k) {
            return std::none_of(m.events.begin(), m.events.end(),
                                [&](const Event& e) { return std::abs(e.frame.value - static_cast<double>(k.frame.value)) < 1; });
        });
        return m;
    }();
    return marking;
}

void judge(const Pack& pack, const Marking& marking)
{
    const PreparedRepetition prepared(marking, evenClock(marking.film.frames, marking.clock.capture));
    (void)calcReview(pack, {readRepetition(pack, prepared, {})}, {});
}

std::optional<Error> readPack(const json& root)
{
    const auto pack = parsePack(root, "own.json");
    if (pack)
        judge(*pack, someMarking());
    return errorOf(pack);
}

std::optional<Error> readMarking(const json& root)
{
    const auto marking = parseMarking(root, "own.json");
    if (marking && marking->film.frames < 100'000)
        judge(pitchPack(), *marking);
    return errorOf(marking);
}

std::optional<Error> readMotion(const json& root)
{
    return errorOf(sim::parseSimSkill(root, "own.json"));
}

json jsonOf(const std::string& file)
{
    return loadJson(file).value_or(json());
}

} // namespace

/// No file that a person could hand to the program ends it, whatever is wrong in it and wherever.
class FormatTest : public QObject {
    Q_OBJECT
private slots:
    void everyPlace_withEveryMistake_isReadOrRefused_data();
    void everyPlace_withEveryMistake_isReadOrRefused();
    void manyEqualBands_areRefusedAtOnce();
    void marksFarApart_areReadAtOnce();

private:
    QTemporaryDir m_folder;
};

void FormatTest::everyPlace_withEveryMistake_isReadOrRefused_data()
{
    QTest::addColumn<json>("document");
    QTest::addColumn<Reader>("read");
    QTest::addColumn<int>("step");
    Marking few = someMarking();
    few.marks.resize(6);
    few.scene.ground = {{{10, 10}, 0, 0}, {{90, 10}, 1, 0}};
    few.answers["hands"] = "together";
    const auto viaFile = [this](auto load) {
        return [this, load](const json& root) {
            const std::string file = m_folder.filePath(QStringLiteral("own.json")).toStdString();
            writeFile(file, printed(root, -1));
            return errorOf(load(file));
        };
    };
    const Review review = reviewOf(someMarking());
    QTest::newRow("pack") << jsonOf(packFolder() + "/windmill-pitch.json") << Reader(readPack) << 37;
    QTest::newRow("pack with shared drills") << jsonOf(packFolder() + "/overhand-pitch.json") << Reader(readPack) << 37;
    QTest::newRow("marking") << toJson(few) << Reader(readMarking) << 1;
    QTest::newRow("review") << toJson(review, pitchPack()) << Reader(viaFile(loadReview)) << 11;
    QTest::newRow("kept readings")
        << toJson(RepetitionReadings{{review.readings.begin(), review.readings.begin() + 3}, review.sequence})
        << Reader([](const json& root) -> std::optional<Error> {
               return parseReadings(root) ? std::nullopt : std::optional(Error{{}, "kept by another version", {}, {}});
           })
        << 3;
    QTest::newRow("motion") << jsonOf(shippedFolder("motions") + "/slice-volley.json") << Reader(readMotion) << 11;
    QTest::newRow("club") << jsonOf(shippedFolder("demo") + "/club.json") << Reader(viaFile(demo::checkScenario)) << 11;
}

void FormatTest::everyPlace_withEveryMistake_isReadOrRefused()
{
    QFETCH(json, document);
    QFETCH(Reader, read);
    QFETCH(int, step);
    QVERIFY(document.is_object());
    QVERIFY2(!read(document), read(document).value_or(Error{}).text().c_str());
    int count = 0;
    const bool isNumbersOrNulls = std::string(QTest::currentDataTag()) == "kept readings"; // errors of readings and ends of bands
    eachJsonFault(document, step, [&](const JsonFault& fault) {
        ++count;
        const auto refused = read(fault.document);
        if (refused)
            QVERIFY2(!refused->message.empty(), fault.place.c_str());
        const bool maySayNull = isNumbersOrNulls || fault.place.find("/band/") != std::string::npos;
        if (fault.kind == "null in a list" && !maySayNull) {
            QVERIFY2(refused, ("accepted: null at " + fault.place).c_str());
            QVERIFY2(refused->place == fault.place, ("null at " + fault.place + " is told as " + refused->text()).c_str());
        }
    });
    QVERIFY(count > 30);
}

void FormatTest::manyEqualBands_areRefusedAtOnce()
{
    json pack = jsonOf(packFolder() + "/overhand-pitch.json");
    json& bands = pack["measures"][0]["bands"];
    const json band = bands.front();
    while (bands.size() < 1000)
        bands.push_back(band);
    QElapsedTimer time;
    time.start();
    const auto mistakes = checkPack(pack, "own.json");
    QVERIFY(!mistakes.empty() && mistakes.size() <= kMostProblems);
    bands.insert(bands.end(), 20'000, band);
    QCOMPARE(checkPack(pack, "own.json").front().place, std::string("/measures/0/bands"));
    QVERIFY2(time.elapsed() < 3000, "took too long"); // 15 s and 2.6 GB for 2,000 before
}

void FormatTest::marksFarApart_areReadAtOnce()
{
    Marking m = someMarking();
    m.film.frames = 10'000'000;
    Mark last = m.marks.front();
    last.frame = FrameIndex(m.film.frames - 1);
    m.marks.push_back(last);
    QElapsedTimer time;
    time.start();
    const auto again = parseMarking(toJson(m), "own.json");
    QVERIFY(again);
    judge(pitchPack(), *again);
    QVERIFY2(time.elapsed() < 5000, qPrintable(QString::number(time.elapsed())));
}

KESTREL_TEST(FormatTest)
#include "format_test.moc"
