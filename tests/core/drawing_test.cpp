#include "support/markings.h"
#include "support/runner.h"

#include "core/base/json_reader.h"
#include "core/drawing/drawing_value.h"
#include "core/drawing/drawn_shape.h"
#include "core/drawing/grown.h"
#include "core/scene/drawing_json.h"
#include "core/scene/marking_json.h"

#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

namespace {

constexpr FrameRange kAll{FrameIndex(0), FrameIndex(99)};

Pin on(const char* landmark)
{
    return {{}, *findLandmark(landmark)};
}

Drawing drawing(DrawingKind kind, std::vector<Pin> at, Lives::On lives = Lives::On::Repetition)
{
    Drawing d;
    d.kind = kind;
    d.at = std::move(at);
    d.lives.on = lives;
    return d;
}

/// A right arm bent by a right angle on frame 10, one metre being 100 pixels.
Marking bentArm()
{
    Marking m = plainMarking();
    mark(m, 10, "shoulder.right", 300, 100);
    mark(m, 10, "elbow.right", 300, 200);
    mark(m, 10, "wrist.right", 400, 200);
    return m;
}

/// The head walks a pixel a frame to the right, from (200, 100) on frame 0.
Marking walkingHead()
{
    Marking m = plainMarking();
    for (int f = 0; f < 50; ++f) {
        mark(m, f, "ear.left", 200 + f, 100);
        mark(m, f, "ear.right", 200 + f, 100);
    }
    return m;
}

nlohmann::json markingWith(const char* drawings)
{
    auto root = toJson(plainMarking());
    root["drawings"] = nlohmann::json::parse(drawings);
    return root;
}

} // namespace

class DrawingTest : public QObject {
    Q_OBJECT
private slots:
    void json_everyKind_roundTrips();
    void json_unknownKind_isKeptAsItWas();
    void json_badEntry_isRefusedWithItsPlace_data();
    void json_badEntry_isRefusedWithItsPlace();
    void json_tenThousandPoints_areRefused();
    void range_followsWhatItLivesOn();
    void pinned_followsItsLandmark_missingIsNotDrawn();
    void shared_onlyAtAKeyPosition_andAllOnTheBody();
    void clock_leftHander_runsTheOtherWay();
    void level_throughAPoint_endsAtThePicturesEdges();
    void grid_withScale_squaresAreTenthsOfHeight();
    void grid_onKnownGround_isInMetres();
    void trail_growsAndBreaksAtGaps();
    void value_angle_isTheJoints_withUncertainty();
    void value_length_withoutScale_saysNothing();
    void value_wedge_isTheAngleBetween();
    void headCircle_saysByHowMuchAndWhen();
    void headCircle_elsewhere_saysNothing();
    void grown_half_isHalfAsLong();
};

void DrawingTest::json_everyKind_roundTrips()
{
    Marking m = plainMarking();
    for (int k = 0; k <= static_cast<int>(DrawingKind::Strobe); ++k) {
        Drawing d;
        d.kind = static_cast<DrawingKind>(k);
        for (std::size_t i = 0; i < pinCountOf(d.kind).least; ++i)
            d.at.push_back({{10.5 + static_cast<double>(i), 20}, std::nullopt});
        if (!d.at.empty())
            d.at.back().landmark = findLandmark("knee.left");
        if (hasRadius(d.kind))
            d.radius = 41;
        if (k % 3 == 0)
            d.lives = {Lives::On::Stretch, {FrameIndex(3), FrameIndex(8)}, {}};
        else if (k % 3 == 1)
            d.lives = {Lives::On::KeyPosition, {}, "contact"};
        else
            d.lives.on = Lives::On::Repetition;
        d.isThick = k % 2 == 0;
        if (d.kind == DrawingKind::Label)
            d.text = "knee\nfirm";
        if (d.kind == DrawingKind::Strobe)
            d.every = 7;
        m.drawings.push_back(d);
    }
    const auto back = parseMarking(toJson(m), "m.json");
    QVERIFY2(back, back ? "" : back.error().text().c_str());
    QCOMPARE(back->drawings.size(), m.drawings.size());
    for (std::size_t i = 0; i < m.drawings.size(); ++i)
        QVERIFY2(back->drawings[i] == m.drawings[i], std::string(wordOf(m.drawings[i].kind)).c_str());
}

void DrawingTest::json_unknownKind_isKeptAsItWas()
{
    const auto root = markingWith(R"([{"kind": "spiral", "turns": 3, "lives": {"repetition": true}}])");
    const auto m = parseMarking(root, "m.json");
    QVERIFY(m);
    QVERIFY(m->drawings.empty());
    QCOMPARE(toJson(*m)["drawings"], root["drawings"]);
}

void DrawingTest::json_badEntry_isRefusedWithItsPlace_data()
{
    QTest::addColumn<QString>("drawings");
    QTest::addColumn<QString>("place");
    const auto row = [](const char* name, const char* drawings, const char* place) {
        QTest::newRow(name) << QString::fromLatin1(drawings) << QString::fromLatin1(place);
    };
    row("no list", R"({"kind": "line"})", "/drawings");
    row("a number", R"([7])", "/drawings/0");
    row("no kind", R"([{"at": [], "lives": {"repetition": true}}])", "/drawings/0/kind");
    row("far away", R"([{"kind": "level", "at": [{"x": 1e8, "y": 0}], "lives": {"repetition": true}}])", "/drawings/0/at/0/x");
    row("no landmark", R"([{"kind": "level", "at": [{"landmark": "tail"}], "lives": {"repetition": true}}])",
        "/drawings/0/at/0/landmark");
    row("too few points", R"([{"kind": "angle", "at": [{"x": 1, "y": 2}], "lives": {"repetition": true}}])", "/drawings/0/at");
    row("no radius", R"([{"kind": "circle", "at": [{"x": 1, "y": 2}], "lives": {"repetition": true}}])", "/drawings/0/radius");
    row("a null radius", R"([{"kind": "circle", "at": [{"x": 1, "y": 2}], "radius": null, "lives": {"repetition": true}}])",
        "/drawings/0/radius");
    row("never", R"([{"kind": "level", "at": [{"x": 1, "y": 2}], "lives": {"from": 9, "to": 3}}])", "/drawings/0/lives/to");
    row("after the film", R"([{"kind": "level", "at": [{"x": 1, "y": 2}], "lives": {"from": 0, "to": 100}}])",
        "/drawings/0/lives/to");
}

void DrawingTest::json_badEntry_isRefusedWithItsPlace()
{
    QFETCH(QString, drawings);
    QFETCH(QString, place);
    const auto m = parseMarking(markingWith(drawings.toLatin1().constData()), "m.json");
    QVERIFY(!m);
    QCOMPARE(QString::fromStdString(m.error().place), place);
}

void DrawingTest::json_tenThousandPoints_areRefused()
{
    auto root = toJson(plainMarking());
    nlohmann::json at = nlohmann::json::array();
    for (int i = 0; i < 10'000; ++i)
        at.push_back({{"x", i}, {"y", 1}});
    root["drawings"] = {{{"kind", "path"}, {"at", at}, {"lives", {{"repetition", true}}}}};
    const auto m = parseMarking(root, "m.json");
    QVERIFY(!m);
    QCOMPARE(m.error().place, std::string("/drawings/0/at"));
}

void DrawingTest::range_followsWhatItLivesOn()
{
    Marking m = plainMarking();
    place(m, "a", 12.4);
    const FrameRange repetition{FrameIndex(5), FrameIndex(60)};
    QVERIFY(rangeOf({Lives::On::Repetition, {}, {}}, m, repetition) == repetition);
    QVERIFY((rangeOf({Lives::On::Stretch, {FrameIndex(7), FrameIndex(9)}, {}}, m, repetition) ==
             FrameRange{FrameIndex(7), FrameIndex(9)}));
    QVERIFY((rangeOf({Lives::On::KeyPosition, {}, "a"}, m, repetition) == FrameRange{FrameIndex(12), FrameIndex(12)}));
    QVERIFY(!rangeOf({Lives::On::KeyPosition, {}, "b"}, m, repetition));
}

void DrawingTest::pinned_followsItsLandmark_missingIsNotDrawn()
{
    Marking m = bentArm();
    mark(m, 11, "elbow.right", 310, 205);
    const PreparedRepetition r(m);
    const Drawing line = drawing(DrawingKind::Line, {on("elbow.right"), {{50, 60}, {}}});
    QVERIFY((placesOf(line, r, FrameIndex(10)) == std::vector<ImagePoint>{{300, 200}, {50, 60}}));
    QVERIFY((placesOf(line, r, FrameIndex(11)) == std::vector<ImagePoint>{{310, 205}, {50, 60}}));
    QVERIFY(!placesOf(line, r, FrameIndex(40)));
    QVERIFY(!shapeOn(line, r, kAll, FrameIndex(40)));
}

void DrawingTest::shared_onlyAtAKeyPosition_andAllOnTheBody()
{
    QVERIFY(isShared(drawing(DrawingKind::Line, {on("hip.left"), on("hip.right")}, Lives::On::KeyPosition)));
    QVERIFY(!isShared(drawing(DrawingKind::Line, {on("hip.left"), {{1, 2}, {}}}, Lives::On::KeyPosition)));
    QVERIFY(!isShared(drawing(DrawingKind::Line, {on("hip.left"), on("hip.right")}, Lives::On::Repetition)));
}

void DrawingTest::clock_leftHander_runsTheOtherWay()
{
    Marking m = plainMarking();
    Drawing clock = drawing(DrawingKind::Clock, {{{200, 100}, {}}});
    clock.radius = 80;
    const auto threeOf = [&] {
        const auto shape = shapeOn(clock, PreparedRepetition(m), kAll, FrameIndex(0));
        for (const auto& [at, words] : shape->words)
            if (words == "3")
                return at;
        return ImagePoint{};
    };
    QVERIFY(threeOf().x > 200);
    m.athlete.hand = Hand::Left;
    QVERIFY(threeOf().x < 200);
}

void DrawingTest::level_throughAPoint_endsAtThePicturesEdges()
{
    Marking m = plainMarking();
    m.scene.up = {0, -1};
    const auto shape = shapeOn(drawing(DrawingKind::Level, {{{200, 100}, {}}}), PreparedRepetition(m), kAll, FrameIndex(0));
    const auto& points = shape->figure.strokes.front().points;
    QCOMPARE(std::min(points[0].x, points[1].x), 0.0);
    QCOMPARE(std::max(points[0].x, points[1].x), static_cast<double>(m.film.width));
    QCOMPARE(points[0].y, 100.0);
}

void DrawingTest::grid_withScale_squaresAreTenthsOfHeight()
{
    const Marking m = plainMarking(); // 1.60 m, 100 pixels a metre: a tenth of the height is 16 pixels
    const auto shape = shapeOn(drawing(DrawingKind::Grid, {{{300, 150}, {}}}), PreparedRepetition(m), kAll, FrameIndex(0));
    std::vector<double> heights;
    for (const auto& s : shape->figure.strokes)
        if (s.points[0].y == s.points[1].y)
            heights.push_back(s.points[0].y);
    std::sort(heights.begin(), heights.end());
    QVERIFY(heights.size() > 4);
    for (std::size_t i = 1; i < heights.size(); ++i)
        QVERIFY(std::abs(heights[i] - heights[i - 1] - 16) < 1e-9);
    QCOMPARE(shape->words.front().second, std::string("each square 10 % of height"));
}

void DrawingTest::grid_onKnownGround_isInMetres()
{
    Marking m = plainMarking();
    m.scene.ground = {{{100, 300}, 0, 0}, {{500, 300}, 4, 0}, {{460, 200}, 4, 3}, {{140, 200}, 0, 3}};
    const auto shape = shapeOn(drawing(DrawingKind::Grid, {{{300, 250}, {}}}), PreparedRepetition(m), kAll, FrameIndex(0));
    QCOMPARE(shape->figure.strokes.size(), std::size_t{5 + 4}); // 0 to 4 m and 0 to 3 m
    const auto corner = shape->figure.strokes.front().points.front();
    QVERIFY((corner - ImagePoint{100, 300}).length() < 0.01);
}

void DrawingTest::trail_growsAndBreaksAtGaps()
{
    Marking m = plainMarking();
    for (const int f : {3, 4, 5, 20, 21})
        mark(m, f, "ball", 100 + f, 50);
    const PreparedRepetition r(m);
    const Drawing trail = drawing(DrawingKind::Trail, {on("ball")});
    const auto count = [&](int now, Stroke::Kind kind) {
        const auto shape = shapeOn(trail, r, kAll, FrameIndex(now));
        return std::count_if(shape->figure.strokes.begin(), shape->figure.strokes.end(),
                             [kind](const Stroke& s) { return s.kind == kind; });
    };
    QCOMPARE(count(4, Stroke::Kind::Dot), 2);
    QCOMPARE(count(10, Stroke::Kind::Dot), 3); // the ball is not seen there, its trail is
    QCOMPARE(count(99, Stroke::Kind::Dot), 5);
    QCOMPARE(count(99, Stroke::Kind::Faint), 2);
}

void DrawingTest::value_angle_isTheJoints_withUncertainty()
{
    const PreparedRepetition r(bentArm());
    const auto reading =
        valueOf(drawing(DrawingKind::Angle, {on("shoulder.right"), on("elbow.right"), on("wrist.right")}), r, FrameIndex(10));
    QVERIFY(reading && reading->value);
    QVERIFY2(std::abs(*reading->value - 90) < 0.5, QByteArray::number(*reading->value).constData());
    QVERIFY(*reading->uncertainty > 0);
    // by hand: a careful click is 1.5 pixels off, on arms of 100 pixels some 2 degrees; the camera adds its own
    const auto byHand =
        valueOf(drawing(DrawingKind::Angle, {{{300, 100}, {}}, {{300, 200}, {}}, {{400, 200}, {}}}), r, FrameIndex(30));
    QVERIFY(std::abs(*byHand->value - 90) < 0.5);
    QVERIFY(*byHand->uncertainty > 0.8 && *byHand->uncertainty < 6);
}

void DrawingTest::value_length_withoutScale_saysNothing()
{
    Marking m = bentArm();
    const Drawing line = drawing(DrawingKind::Line, {on("shoulder.right"), on("elbow.right")});
    const auto reading = valueOf(line, PreparedRepetition(m), FrameIndex(10)); // 1 m of 1.60 m
    QVERIFY(std::abs(*reading->value - 62.5) < 0.6);
    QCOMPARE(reading->unit, Unit::PercentHeight);
    m.scene.scale.reset();
    QVERIFY(!valueOf(line, PreparedRepetition(m), FrameIndex(10))->value);
    QVERIFY(wordsOn(line, PreparedRepetition(m), kAll, FrameIndex(10)).empty());
}

void DrawingTest::value_wedge_isTheAngleBetween()
{
    const PreparedRepetition r(plainMarking());
    const auto reading = valueOf(
        drawing(DrawingKind::Wedge, {{{100, 100}, {}}, {{300, 100}, {}}, {{100, 200}, {}}, {{300, 316}, {}}}), r, FrameIndex(0));
    QVERIFY(std::abs(*reading->value - 30.1) < 0.5); // atan(116 / 200)
}

void DrawingTest::headCircle_saysByHowMuchAndWhen()
{
    const PreparedRepetition r(walkingHead());
    Drawing circle = drawing(DrawingKind::Circle, {{{200, 100}, {}}});
    circle.radius = 20; // the head is 40 pixels wide
    const auto left = headLeave(circle, r, kAll);
    QVERIFY(left);
    QVERIFY(std::abs(left->widths - 49.0 / 40) < 1e-9);
    QCOMPARE(left->frame.value, 49);
    QCOMPARE(wordsOn(circle, r, kAll, FrameIndex(5)), std::string("head stays in"));
    QCOMPARE(wordsOn(circle, r, kAll, FrameIndex(30)), std::string("head out by 0.8 of its width"));
    QCOMPARE(wordsOn(circle, r, kAll, FrameIndex(80)), std::string("head out by 1.2 of its width, at picture 49"));
}

void DrawingTest::headCircle_elsewhere_saysNothing()
{
    const PreparedRepetition r(walkingHead());
    Drawing circle = drawing(DrawingKind::Circle, {{{200, 350}, {}}}); // round the feet
    circle.radius = 20;
    QVERIFY(!headLeave(circle, r, kAll));
    circle.at.front() = on("ear.left"); // goes along with the head
    QVERIFY(!headLeave(circle, r, kAll));
}

void DrawingTest::grown_half_isHalfAsLong()
{
    const Figure line{FramePosition(0), {{Stroke::Kind::Segment, {{0, 0}, {30, 0}, {30, 10}}}}};
    const auto half = grown(line, 0.5);
    QVERIFY((half.strokes.front().points == std::vector<ImagePoint>{{0, 0}, {20, 0}}));
    QVERIFY(grown(line, 1) == line);
    QVERIFY(grown(line, 0).strokes.empty());
    const Figure circle{FramePosition(0), {{Stroke::Kind::Circle, {{50, 50}, {60, 50}}}}};
    const Figure quarter = grown(circle, 0.25);
    for (const auto& p : quarter.strokes.front().points)
        QVERIFY(std::abs((p - ImagePoint{50, 50}).length() - 10) < 1e-9);
}

KESTREL_TEST(DrawingTest)
#include "drawing_test.moc"
