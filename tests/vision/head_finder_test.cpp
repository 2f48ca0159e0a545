#include "support/markings.h"
#include "support/runner.h"

#include "core/pack/pack_folder.h"
#include "media/film.h"
#include "sim/film_maker.h"
#include "vision/face_hider.h"

#include <QTemporaryDir>
#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;
using namespace kestrel::vision;

namespace {

/// A picture in one colour but for a bright spot.
std::vector<std::uint8_t> spotted(int width, int height, int x, int y)
{
    std::vector<std::uint8_t> bgra(static_cast<std::size_t>(4 * width * height), 100);
    bgra[static_cast<std::size_t>(4 * (y * width + x))] = 255;
    return bgra;
}

/// The repetition as a film in that folder. Empty: it could not be made.
std::optional<media::Film> filmOf(const sim::Simulated& s, const QTemporaryDir& folder)
{
    const std::string file = folder.filePath(QStringLiteral("clip.mp4")).toStdString();
    if (!sim::saveClip(s, file))
        return std::nullopt;
    auto film = media::Film::open(file);
    return film ? std::optional(std::move(*film)) : std::nullopt;
}

} // namespace

class HeadFinderTest : public QObject {
    Q_OBJECT
private slots:
    void hide_leavesMeansOnly_insideTheCircle();
    void heads_ofThePaintedAthlete_areFound_data();
    void heads_ofThePaintedAthlete_areFound();
    void hide_markedAthlete_theBodyStaysSeen_data();
    void hide_markedAthlete_theBodyStaysSeen();
    void isTheAthlete_byHand_data();
    void isTheAthlete_byHand();
    void markedHead_scalesWithThePicture();
};

void HeadFinderTest::hide_leavesMeansOnly_insideTheCircle()
{
    auto bgra = spotted(80, 60, 40, 30);
    hide({bgra.data(), 4 * 80, {80, 60}}, {{40, 30}, 20});
    const auto blue = [&](int x, int y) { return bgra[static_cast<std::size_t>(4 * (y * 80 + x))]; };
    QVERIFY(blue(40, 30) < 103); // the spot has gone into its block
    QCOMPARE(blue(41, 31), blue(40, 30));
    auto outside = spotted(80, 60, 2, 2);
    hide({outside.data(), 4 * 80, {80, 60}}, {{40, 30}, 20});
    QCOMPARE(static_cast<int>(outside[4 * (2 * 80 + 2)]), 255);
    hide({outside.data(), 4 * 80, {80, 60}}, {{-500, 900}, 20}); // beside the picture
}

void HeadFinderTest::heads_ofThePaintedAthlete_areFound_data()
{
    QTest::addColumn<int>("view");
    QTest::newRow("side") << static_cast<int>(View::Side);
    QTest::newRow("front") << static_cast<int>(View::Front);
    QTest::newRow("rear") << static_cast<int>(View::Rear);
}

void HeadFinderTest::heads_ofThePaintedAthlete_areFound()
{
    QFETCH(int, view);
    auto o = pitch(static_cast<View>(view));
    o.frameRate = 30;
    o.size = {960, 540};
    const auto s = simulated(o);
    const QTemporaryDir folder;
    auto film = filmOf(s, folder);
    QVERIFY(film);
    auto finder = HeadFinder::load(shippedFolder("models"));
    QVERIFY(finder);
    int pictures = 0, found = 0;
    for (std::int64_t f = 0; f < film->info().frames(); f += 4, ++pictures) {
        const Mark* left = findMark(s.truth, FrameIndex(f), *findLandmark("ear.left"));
        const Mark* right = findMark(s.truth, FrameIndex(f), *findLandmark("ear.right"));
        QVERIFY(left && right);
        const ImagePoint head = midpoint(left->at, right->at);
        const auto heads = finder->find(*film->frame(FrameIndex(f)));
        found += std::any_of(heads.begin(), heads.end(), [&](const Head& h) { return (h.centre - head).length() < h.radius; });
        for (const auto& h : heads)
            QVERIFY2(h.radius < 3 * markedHead(s.truth, FrameIndex(f), 1)->radius, QByteArray::number(h.radius).constData());
    }
    qInfo("%d of %d pictures", found, pictures);
    QVERIFY2(found >= 0.8 * pictures, QByteArray::number(found).constData()); // the marks do the rest
}

void HeadFinderTest::hide_markedAthlete_theBodyStaysSeen_data()
{
    QTest::addColumn<QString>("skill");
    QTest::newRow("a pitcher") << QStringLiteral("overhand-pitch");
    QTest::newRow("a batter whose trunk is taken for a head") << QStringLiteral("bat-swing");
}

/// What the coach points at is seen on pictures that leave: only the head goes.
void HeadFinderTest::hide_markedAthlete_theBodyStaysSeen()
{
    QFETCH(QString, skill);
    sim::SimulateOptions o = pitch(View::Side);
    o.skill = skill.toStdString();
    o.frameRate = 30;
    if (o.skill == "bat-swing")
        o.motion.faults = {{"lunging_head", 1}};
    const auto s = simulated(o);
    const QTemporaryDir folder;
    auto film = filmOf(s, folder);
    QVERIFY(film);
    const FrameIndex last(film->info().frames() - 1);
    auto hider = FaceHider::load(shippedFolder("models"), true);
    QVERIFY(hider);
    for (std::int64_t f = 0; f <= last.value; f += last.value / 6) {
        const FrameIndex frame(f);
        const auto picture = *film->frame(frame);
        const auto bytes = static_cast<std::size_t>(picture.stride) * static_cast<std::size_t>(picture.size.height);
        std::vector<std::uint8_t> bgra(picture.pixels.get(), picture.pixels.get() + bytes);
        const std::string asAnotherFilm = std::to_string(f); // nothing is remembered from the picture before
        hider->hide({bgra.data(), picture.stride, picture.size}, asAnotherFilm, s.truth, FrameRange{FrameIndex(0), last}, frame);
        const auto changedAbout = [&](ImagePoint at) {
            int changed = 0; // of 81 pixels
            for (int y = -4; y <= 4; ++y)
                for (int x = -4; x <= 4; ++x) {
                    const auto i = static_cast<std::size_t>((static_cast<int>(at.y) + y) * picture.stride) +
                                   static_cast<std::size_t>(4 * (static_cast<int>(at.x) + x));
                    changed += !std::equal(&bgra[i], &bgra[i] + 3, picture.pixels.get() + i);
                }
            return changed;
        };
        const auto at = [&](const char* name) { return findMark(s.truth, frame, *findLandmark(name))->at; };
        QVERIFY(changedAbout(at("nose")) > 40);
        QCOMPARE(changedAbout(at("knee.right")), 0);
        const ImagePoint hips = midpoint(at("hip.left"), at("hip.right")),
                         neck = midpoint(at("shoulder.left"), at("shoulder.right"));
        QVERIFY2(changedAbout(midpoint(hips, neck)) == 0, QByteArray::number(static_cast<int>(f)).constData());
    }
}

void HeadFinderTest::isTheAthlete_byHand_data()
{
    QTest::addColumn<QPointF>("head");
    QTest::addColumn<QPointF>("hips");
    QTest::addColumn<bool>("is");
    // the athlete's head is at (100, 100), 40 wide to each side, the hips at (100, 300)
    QTest::newRow("the same head, hips misread") << QPointF(140, 110) << QPointF(400, 300) << true;
    QTest::newRow("the trunk taken for a head") << QPointF(110, 220) << QPointF(120, 330) << true;
    QTest::newRow("a face before the trunk") << QPointF(110, 220) << QPointF(110, 440) << false;
    QTest::newRow("somebody beside") << QPointF(220, 110) << QPointF(220, 310) << false;
}

/// Whoever is not the athlete is hidden, too.
void HeadFinderTest::isTheAthlete_byHand()
{
    QFETCH(QPointF, head);
    QFETCH(QPointF, hips);
    QFETCH(bool, is);
    const Head marked{{100, 100}, 40, ImagePoint{100, 300}};
    QCOMPARE(isTheAthlete({{head.x(), head.y()}, 60, ImagePoint{hips.x(), hips.y()}}, marked), is);
}

void HeadFinderTest::markedHead_scalesWithThePicture()
{
    Marking m = plainMarking();
    QVERIFY(!markedHead(m, FrameIndex(3), 1));
    mark(m, 3, "nose", 300, 100);
    QVERIFY((markedHead(m, FrameIndex(3), 0.5)->centre - ImagePoint{150, 50}).length() < 1e-9);
    mark(m, 3, "ear.left", 320, 100);
    mark(m, 3, "shoulder.left", 320, 160);
    const auto head = *markedHead(m, FrameIndex(3), 1);
    QVERIFY((head.centre - ImagePoint{320, 100}).length() < 1e-9);
    QVERIFY(head.radius > 30 && head.radius < 70);
}

KESTREL_TEST(HeadFinderTest)
#include "head_finder_test.moc"
