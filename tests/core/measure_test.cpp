#include "support/markings.h"
#include "support/runner.h"

#include "core/measure/kind.h"
#include "core/read/reading.h"

#include <QtTest>

#include <set>

using namespace kestrel;
using namespace kestrel::test;

namespace {

struct At {
    int frame;
    const char* landmark;
    double x, y; ///< pixels; 100 to the metre
};

/// One kind applied to points at "a" (frame 10), or from "a" to "b" (frame 20).
Pack packOf(const char* kind, const std::vector<const char*>& points, Unit unit, bool isSpan, View view)
{
    return packOfOne(kind, points, unit, isSpan, view, {-1000.0, 1000.0, Evidence::Geometry, "", {}, {}});
}

Marking markingOf(const std::vector<At>& marks, View view)
{
    Marking m = plainMarking();
    m.scene.view = view;
    if (view == View::Rear)
        m.scene.target = TargetDirection::Away;
    place(m, "a", 10);
    place(m, "b", 20);
    for (const auto& at : marks)
        mark(m, at.frame, at.landmark, at.x, at.y);
    return m;
}

/// A ball four pixels on and six up a picture, 205 above where the toes were.
std::vector<At> shotMarks()
{
    return {{10, "toe.right", 200, 305},
            {18, "ball", 292, 112},
            {19, "ball", 296, 106},
            {21, "ball", 304, 94},
            {22, "ball", 308, 88}};
}

struct Case {
    const char* name;
    const char* kind;
    std::vector<const char*> points;
    Unit unit;
    bool isSpan;
    std::vector<At> marks;
    double expected;
    View view = View::Side;
};

/// Hand-computed: every number of the table follows from the pixels with 100 pixels to the metre and 1.60 m of height.
const std::vector<Case>& cases()
{
    static const std::vector<Case> all{
        {"joint angle of a right angle",
         "joint_angle",
         {"hip.lead", "knee.lead", "ankle.lead"},
         Unit::Degree,
         false,
         {{10, "hip.left", 100, 100}, {10, "knee.left", 100, 200}, {10, "ankle.left", 200, 200}},
         90},
        {"flexion of a straight leg",
         "flexion",
         {"hip.lead", "knee.lead", "ankle.lead"},
         Unit::Degree,
         false,
         {{10, "hip.left", 100, 100}, {10, "knee.left", 100, 200}, {10, "ankle.left", 100, 300}},
         0},
        {"flexion of 45 degrees",
         "flexion",
         {"hip.lead", "knee.lead", "ankle.lead"},
         Unit::Degree,
         false,
         {{10, "hip.left", 100, 100}, {10, "knee.left", 100, 200}, {10, "ankle.left", 170, 270}},
         45},
        {"tilt: the target side higher",
         "tilt",
         {"hip.trail", "hip.lead"},
         Unit::Degree,
         false,
         {{10, "hip.right", 100, 200}, {10, "hip.left", 200, 100}},
         45},
        {"tilt: the target side lower, whichever point comes first",
         "tilt",
         {"hip.lead", "hip.trail"},
         Unit::Degree,
         false,
         {{10, "hip.right", 100, 100}, {10, "hip.left", 200, 200}},
         -45},
        {"elevation of a forearm straight up",
         "elevation",
         {"elbow.dom", "wrist.dom"},
         Unit::Degree,
         false,
         {{10, "elbow.right", 100, 200}, {10, "wrist.right", 100, 100}},
         90},
        {"elevation below level, pointing back",
         "elevation",
         {"elbow.dom", "wrist.dom"},
         Unit::Degree,
         false,
         {{10, "elbow.right", 200, 100}, {10, "wrist.right", 100, 200}},
         -45},
        {"lean toward the target",
         "lean",
         {"midHip", "midShoulder"},
         Unit::Degree,
         false,
         {{10, "hip.left", 100, 300},
          {10, "hip.right", 100, 300},
          {10, "shoulder.left", 200, 200},
          {10, "shoulder.right", 200, 200}},
         45},
        {"lean away from the target",
         "lean",
         {"midHip", "midShoulder"},
         Unit::Degree,
         false,
         {{10, "hip.left", 110, 300}, {10, "hip.right", 90, 300}, {10, "shoulder.left", 0, 200}, {10, "shoulder.right", 0, 200}},
         -45},
        {"separation: a first line that runs down from the dominant side still turns against the clock",
         "separation",
         {"shoulder.off", "shoulder.dom", "shoulder.dom", "elbow.dom"},
         Unit::Degree,
         false,
         {{10, "shoulder.left", 200, 200}, {10, "shoulder.right", 100, 200}, {10, "elbow.right", 0, 300}},
         45},
        {"clock: straight up is twelve",
         "clock",
         {"midHip", "implement.tip"},
         Unit::ClockHour,
         false,
         {{10, "hip.left", 90, 300}, {10, "hip.right", 110, 300}, {10, "implement.tip", 100, 100}},
         0,
         View::Rear},
        {"clock: a right-hander's one o'clock from behind",
         "clock",
         {"midHip", "implement.tip"},
         Unit::ClockHour,
         false,
         {{10, "hip.left", 100, 300}, {10, "hip.right", 100, 300}, {10, "implement.tip", 200, 300 - 173.20508}},
         1,
         View::Rear},
        {"triangle of equal sides",
         "triangle",
         {"ankle.lead", "ankle.trail", "midHip"},
         Unit::Ratio,
         false,
         {{10, "ankle.left", 200, 300},
          {10, "ankle.right", 100, 300},
          {10, "hip.left", 150, 300 - 86.60254},
          {10, "hip.right", 150, 300 - 86.60254}},
         1},
        {"inside: 20 cm from the nearer end of a strip of 50",
         "inside",
         {"wrist.dom", "ear.dom", "shoulder.dom"},
         Unit::Centimetre,
         false,
         {{10, "ear.right", 100, 100}, {10, "shoulder.right", 130, 140}, {10, "wrist.right", 112, 116}},
         20},
        {"inside: outside is negative",
         "inside",
         {"wrist.dom", "ear.dom", "shoulder.dom"},
         Unit::Centimetre,
         false,
         {{10, "ear.right", 100, 100}, {10, "shoulder.right", 130, 140}, {10, "wrist.right", 94, 92}},
         -10},
        {"support: the plumb line falls 30 cm inside the front foot",
         "support",
         {"wrist.dom", "toe.trail", "toe.lead"},
         Unit::Centimetre,
         false,
         {{10, "wrist.right", 170, 100}, {10, "toe.right", 100, 400}, {10, "toe.left", 200, 390}},
         30},
        {"crossing: the toe was 5 cm over the line at most",
         "crossing",
         {"toe.lead", "ref.line"},
         Unit::Centimetre,
         true,
         {{10, "toe.left", 180, 300}, {15, "toe.left", 205, 295}, {20, "toe.left", 190, 300}, {20, "ref.line", 200, 310}},
         5},
        {"sync: the same whichever comes first", "sync", {}, Unit::Millisecond, true, {}, 100},
        {"path straightness of two sides of a square",
         "path_straightness",
         {"wrist.dom"},
         Unit::Ratio,
         true,
         {{10, "wrist.right", 100, 100}, {15, "wrist.right", 100, 200}, {20, "wrist.right", 200, 200}},
         0.70710678},
        {"path curvature of a circle of 1 m, bending upward",
         "path_curvature",
         {"wrist.dom"},
         Unit::PerMetre,
         true,
         {{10, "wrist.right", 0, 100}, {15, "wrist.right", 100, 200}, {20, "wrist.right", 200, 100}},
         1},
        {"plane overlap: 60 cm on a level line",
         "plane_overlap",
         {"implement.tip", "ball"},
         Unit::Centimetre,
         true,
         {{10, "ball", 400, 200},
          {14, "ball", 300, 200},
          {20, "ball", 500, 150},
          {10, "implement.tip", 100, 300},
          {12, "implement.tip", 200, 203},
          {16, "implement.tip", 260, 197},
          {20, "implement.tip", 300, 100}},
         60.29925372672535},
        {"separation: the second line turns up",
         "separation",
         {"shoulder.off", "shoulder.dom", "shoulder.dom", "elbow.dom"},
         Unit::Degree,
         false,
         {{10, "shoulder.left", 100, 200}, {10, "shoulder.right", 200, 200}, {10, "elbow.right", 300, 100}},
         45},
        {"distance of three, four, five",
         "distance",
         {"wrist.off", "wrist.dom"},
         Unit::Centimetre,
         false,
         {{10, "wrist.left", 100, 100}, {10, "wrist.right", 400, 500}},
         500},
        {"distance in per cent of height",
         "distance",
         {"wrist.off", "wrist.dom"},
         Unit::PercentHeight,
         false,
         {{10, "wrist.left", 100, 100}, {10, "wrist.right", 180, 100}},
         50},
        {"distance ratio",
         "distance_ratio",
         {"ankle.lead", "ankle.trail", "shoulder.off", "shoulder.dom"},
         Unit::Ratio,
         false,
         {{10, "ankle.left", 100, 300},
          {10, "ankle.right", 160, 300},
          {10, "shoulder.left", 100, 100},
          {10, "shoulder.right", 140, 100}},
         1.5},
        {"offset along, ahead",
         "offset_along",
         {"ankle.lead", "ankle.trail"},
         Unit::Metre,
         false,
         {{10, "ankle.left", 250, 300}, {10, "ankle.right", 100, 310}},
         1.5},
        {"offset along, behind",
         "offset_along",
         {"head", "ankle.trail"},
         Unit::Centimetre,
         false,
         {{10, "ear.left", 90, 100}, {10, "ear.right", 70, 100}, {10, "ankle.right", 100, 310}},
         -20},
        {"offset up, above",
         "offset_up",
         {"wrist.dom", "knee.lead"},
         Unit::Centimetre,
         false,
         {{10, "wrist.right", 300, 100}, {10, "knee.left", 100, 150}},
         50},
        {"offset up, below",
         "offset_up",
         {"wrist.dom", "knee.lead"},
         Unit::Centimetre,
         false,
         {{10, "wrist.right", 300, 170}, {10, "knee.left", 100, 150}},
         -20},
        {"height above where another point was before",
         "height_above",
         {"wrist.dom", "heel.lead"},
         Unit::Centimetre,
         true,
         {{10, "heel.left", 100, 300}, {20, "wrist.right", 300, 100}},
         200},
        {"offset across against an earlier place",
         "offset_across",
         {"ankle.lead", "ankle.trail"},
         Unit::Centimetre,
         true,
         {{10, "ankle.right", 500, 600},
          {20, "ankle.right", 560, 600},
          {20, "ankle.left", 512, 600},
          {10, "ankle.left", 480, 600}},
         12,
         View::Rear},
        {"angle change: the knee straightens",
         "angle_change",
         {"hip.lead", "knee.lead", "ankle.lead"},
         Unit::Degree,
         true,
         {{10, "hip.left", 100, 100},
          {10, "knee.left", 100, 200},
          {10, "ankle.left", 200, 200},
          {20, "hip.left", 100, 100},
          {20, "knee.left", 100, 200},
          {20, "ankle.left", 100, 300}},
         90},
        {"lean change has no sign",
         "lean_change",
         {"midHip", "midShoulder"},
         Unit::Degree,
         true,
         {{10, "hip.left", 100, 300},
          {10, "hip.right", 100, 300},
          {10, "shoulder.left", 100, 200},
          {10, "shoulder.right", 100, 200},
          {20, "hip.left", 100, 300},
          {20, "hip.right", 100, 300},
          {20, "shoulder.left", 0, 200},
          {20, "shoulder.right", 0, 200}},
         45},
        {"drop counts the deepest place on the way",
         "drop",
         {"head"},
         Unit::Centimetre,
         true,
         {{10, "ear.left", 100, 100}, {15, "ear.left", 120, 118}, {20, "ear.left", 150, 105}},
         18},
        {"drop of a rising head is nothing",
         "drop",
         {"head"},
         Unit::Centimetre,
         true,
         {{10, "ear.left", 100, 100}, {20, "ear.left", 150, 80}},
         0},
        {"rise counts the highest place",
         "rise",
         {"head"},
         Unit::Centimetre,
         true,
         {{10, "ear.left", 100, 100}, {14, "ear.left", 100, 70}, {20, "ear.left", 150, 90}},
         30},
        {"farthest behind",
         "farthest_behind",
         {"wrist.dom", "head"},
         Unit::Centimetre,
         true,
         {{10, "wrist.right", 100, 100},
          {10, "ear.left", 110, 90},
          {15, "wrist.right", 60, 100},
          {15, "ear.left", 130, 90},
          {20, "wrist.right", 100, 100},
          {20, "ear.left", 150, 90}},
         70},
        {"drift across counts both sides",
         "drift_across",
         {"head"},
         Unit::Centimetre,
         true,
         {{10, "ear.left", 500, 100}, {15, "ear.left", 486, 100}, {20, "ear.left", 509, 100}},
         14,
         View::Rear},
        {"interval in real time", "interval", {}, Unit::Millisecond, true, {}, 100},
        {"share of the base",
         "share_along",
         {"wrist.dom", "ankle.lead", "ankle.trail"},
         Unit::Ratio,
         false,
         {{10, "wrist.right", 175, 100}, {10, "ankle.left", 200, 300}, {10, "ankle.right", 100, 300}},
         0.25},
        {"drift there and back",
         "drift",
         {"head"},
         Unit::Centimetre,
         true,
         {{10, "ear.left", 100, 100}, {15, "ear.left", 130, 140}, {20, "ear.left", 110, 100}},
         50},
        {"advance against where the other stood",
         "advance",
         {"toe.lead", "ankle.trail"},
         Unit::Centimetre,
         true,
         {{20, "toe.left", 150, 300}, {10, "ankle.right", 100, 300}},
         50},
        {"path climbing at 45 degrees",
         "path_angle",
         {"implement.tip"},
         Unit::Degree,
         false,
         {{8, "implement.tip", 90, 210},
          {9, "implement.tip", 100, 200},
          {10, "implement.tip", 110, 190},
          {11, "implement.tip", 120, 180},
          {12, "implement.tip", 130, 170}},
         45},
        {"travel along a bent way",
         "travel",
         {"wrist.dom"},
         Unit::Centimetre,
         true,
         {{10, "wrist.right", 100, 100}, {15, "wrist.right", 130, 140}, {20, "wrist.right", 130, 100}},
         90},
        {"dwell only while level",
         "dwell",
         {"implement.grip", "implement.tip"},
         Unit::Centimetre,
         true,
         {{10, "implement.grip", 100, 100},
          {10, "implement.tip", 200, 100},
          {15, "implement.grip", 100, 100},
          {15, "implement.tip", 230, 100},
          {20, "implement.grip", 100, 100},
          {20, "implement.tip", 180, 200}},
         30},
        {"line-up with one bend",
         "line_up",
         {"wrist.dom", "shoulder.dom", "shoulder.off", "wrist.off"},
         Unit::Degree,
         false,
         {{10, "wrist.right", 100, 100},
          {10, "shoulder.right", 200, 100},
          {10, "shoulder.left", 300, 100},
          {10, "wrist.left", 370, 170}},
         45},
        {"face laid back",
         "face",
         {"implement.faceA", "implement.faceB"},
         Unit::Degree,
         false,
         {{10, "implement.faceA", 100, 100}, {10, "implement.faceB", 200, 200}},
         45},
        {"face, edges the other way round",
         "face",
         {"implement.faceB", "implement.faceA"},
         Unit::Degree,
         false,
         {{10, "implement.faceA", 200, 100}, {10, "implement.faceB", 100, 200}},
         -45},
        {"facing half open from above",
         "facing",
         {"hip.trail", "hip.lead"},
         Unit::Degree,
         false,
         {{10, "hip.right", 100, 200}, {10, "hip.left", 200, 100}},
         45,
         View::Overhead},
        {"closure of a foot from above",
         "closure",
         {"heel.lead", "toe.lead"},
         Unit::Degree,
         false,
         {{10, "heel.left", 100, 100}, {10, "toe.left", 200, 200}},
         45,
         View::Overhead},
        {"turned by an eighth from above",
         "turned",
         {"hip.trail", "hip.lead"},
         Unit::Degree,
         true,
         {{10, "hip.right", 100, 200}, {10, "hip.left", 200, 200}, {20, "hip.right", 100, 200}, {20, "hip.left", 200, 100}},
         45,
         View::Overhead},
        {"fall: how far below the highest place",
         "fall",
         {"ball"},
         Unit::Centimetre,
         true,
         {{10, "ball", 100, 300}, {13, "ball", 110, 120}, {15, "ball", 120, 100}, {20, "ball", 140, 140}},
         40},
        {"way elevation: up and ahead",
         "way_elevation",
         {"hip.trail"},
         Unit::Degree,
         true,
         {{10, "hip.right", 100, 300}, {20, "hip.right", 200, 200}},
         45},
        {"way elevation: up and back is as steep",
         "way_elevation",
         {"hip.trail"},
         Unit::Degree,
         true,
         {{10, "hip.right", 200, 300}, {20, "hip.right", 100, 200}},
         45},
        {"velocity along: three pixels a picture at 100 pictures a second",
         "velocity_along",
         {"wrist.dom"},
         Unit::MetrePerSecond,
         false,
         {{8, "wrist.right", 100, 300},
          {9, "wrist.right", 103, 290},
          {11, "wrist.right", 109, 270},
          {12, "wrist.right", 112, 260}},
         3},
        // 4 m/s along, 6 m/s up, 2.05 m above the toes: 36 - 2 x 9.81 x 1 = 16.38 are left, 4.047 m/s downward at the ring
        {"entry angle: atan(4.047 / 4)", "entry_angle", {"ball", "toe.dom"}, Unit::Degree, true, shotMarks(), 45.33620902},
        {"arc margin: 45 cm x sin 45.336 - 24 cm",
         "arc_margin",
         {"ball", "toe.dom"},
         Unit::Centimetre,
         true,
         shotMarks(),
         8.00597342},
        {"least up: the tip once sank below the hands",
         "least_up",
         {"implement.tip", "implement.grip"},
         Unit::Centimetre,
         true,
         {{10, "implement.tip", 100, 150},
          {10, "implement.grip", 150, 200},
          {15, "implement.tip", 150, 210},
          {15, "implement.grip", 170, 200},
          {20, "implement.tip", 200, 190},
          {20, "implement.grip", 190, 200}},
         -10},
        {"line gap: a level way against a ball that falls one in ten",
         "line_gap",
         {"implement.tip", "ball"},
         Unit::Degree,
         true,
         {{10, "ball", 400, 200},
          {18, "ball", 300, 210},
          {20, "ball", 500, 150},
          {18, "implement.tip", 100, 300},
          {19, "implement.tip", 110, 300},
          {21, "implement.tip", 130, 300},
          {22, "implement.tip", 140, 300}},
         5.710593137},
        {"first on line: half a metre behind the knee",
         "first_on_line",
         {"implement.tip", "ball", "knee.lead"},
         Unit::Centimetre,
         true,
         {{10, "ball", 400, 200},
          {14, "ball", 300, 200},
          {20, "ball", 500, 150},
          {10, "implement.tip", 100, 300},
          {12, "implement.tip", 200, 203},
          {16, "implement.tip", 260, 197},
          {20, "implement.tip", 300, 100},
          {12, "knee.left", 250, 400}},
         -50},
    };
    return all;
}

} // namespace

class MeasureTest : public QObject {
    Q_OBJECT
private slots:
    void kind_handComputed_data();
    void kind_handComputed();
    void kind_leftHanderMirrored_readsTheSame_data() { kind_handComputed_data(); }
    void kind_leftHanderMirrored_readsTheSame();
    void kind_anyPointMissing_isNotMarkedAndNamesIt_data() { kind_handComputed_data(); }
    void kind_anyPointMissing_isNotMarkedAndNamesIt();
    void kind_hasAFigureWhereItHasAValue_data() { kind_handComputed_data(); }
    void kind_hasAFigureWhereItHasAValue();
    void kinds_eachIsTestedByHand();
    void drop_figure_standsOnTheDeepestFrame();
    void interval_slowMotion_isRealTime();
    void interval_wrongOrder_isNegative();
    void turnGap_widths_giveTheTurn();
    void coincidingPoints_giveNoReading();
    void pathAngle_withoutNeighbours_asksForThem();
    void massCentre_weighsTheSegments();
    void peaks_ofKnownMotions();
    void speedShare_ofATurnOnAMovingElbow();
    void steady_untilItLeaves_orUntilTheMarksEnd();
    void revolutions_countsTurns_orRefuses();
    void stillPoint_withNoise_hardlyDrifts();

private:
    const Case& current() const
    {
        for (const auto& c : cases())
            if (QLatin1String(c.name) == QLatin1String(QTest::currentDataTag()))
                return c;
        qFatal("no such case");
    }
    static Reading read(const Case& c, const Marking& m)
    {
        return calcReadings(packOf(c.kind, c.points, c.unit, c.isSpan, c.view), PreparedRepetition(m), {}).front();
    }
};

void MeasureTest::kind_handComputed_data()
{
    QTest::addColumn<bool>("dummy");
    for (const auto& c : cases())
        QTest::newRow(c.name) << true;
}

void MeasureTest::kind_handComputed()
{
    const Case& c = current();
    const Reading r = read(c, markingOf(c.marks, c.view));
    QVERIFY2(r.value, r.why.c_str());
    QVERIFY2(std::abs(*r.value - c.expected) < 1e-6, qPrintable(QString::number(*r.value))); // exact marks, only rounding
    QVERIFY(*r.uncertainty >= 0);
}

void MeasureTest::kind_leftHanderMirrored_readsTheSame()
{
    const Case& c = current();
    Marking m = markingOf(c.marks, c.view);
    m.athlete.hand = Hand::Left;
    m.scene.target = usualTargetDirection(c.view, Hand::Left);
    for (auto& mk : m.marks) {
        mk.at.x = 1000 - mk.at.x;
        mk.landmark.side = opposite(mk.landmark.side);
    }
    const Reading r = read(c, m);
    QVERIFY2(r.value, r.why.c_str());
    QVERIFY2(std::abs(*r.value - c.expected) < 1e-6, qPrintable(QString::number(*r.value)));
}

void MeasureTest::kind_anyPointMissing_isNotMarkedAndNamesIt()
{
    const Case& c = current();
    static const std::set<std::string> kAlongTheWay{"drop",    "rise",  "drift",    "drift_across",      "farthest_behind",
                                                    "travel",  "dwell", "crossing", "path_straightness", "fall",
                                                    "least_up"};
    const bool pathKind = kAlongTheWay.count(c.kind) > 0;
    static const std::set<std::string> kOwnSentence{"path_angle",    "plane_overlap", "velocity_along", "line_gap",
                                                    "first_on_line", "entry_angle",   "arc_margin"};
    if (c.kind == std::string("fall")) { // what is highest between two clicks is unknown
        const Reading r = read(c, markingOf({c.marks.front(), c.marks.back()}, c.view));
        QVERIFY2(!r.value && r.why.find("in between") != std::string::npos, r.why.c_str());
    }
    if (c.kind == std::string("entry_angle")) { // a metre lower it never gets there
        std::vector<At> low = c.marks;
        low.front().y -= 100;
        const Reading r = read(c, markingOf(low, c.view));
        QVERIFY2(!r.value && r.why.find("as high as a ring") != std::string::npos, r.why.c_str());
    }
    if (kOwnSentence.count(c.kind) > 0)
        return;
    for (std::size_t i = 0; i < c.marks.size(); ++i) {
        if (pathKind && c.marks[i].frame != 10 && c.marks[i].frame != 20)
            continue; // a point on the way is welcome, not needed
        if (QLatin1String(c.kind) == QLatin1String("farthest_behind") && c.marks[i].frame != 20)
            continue; // it looks along the way from wherever both points are first marked
        if (QLatin1String(c.kind) == QLatin1String("path_curvature") && c.marks[i].frame == 15)
            continue; // its middle has a sentence of its own, which begins alike
        if (QLatin1String(c.kind) == QLatin1String("offset_across") && i != 0 && i != 2)
            continue; // the point at the end and the other one at the start are what counts
        std::vector<At> some = c.marks;
        const bool otherEarThere = std::string(c.marks[i].landmark).rfind("ear", 0) == 0 &&
                                   std::count_if(c.marks.begin(), c.marks.end(), [&](const At& a) {
                                       return a.frame == c.marks[i].frame && std::string(a.landmark).rfind("ear", 0) == 0;
                                   }) > 1;
        if (otherEarThere)
            continue; // one ear is enough for the head
        some.erase(some.begin() + static_cast<std::ptrdiff_t>(i));
        const Reading r = read(c, markingOf(some, c.view));
        QVERIFY2(!r.value, c.marks[i].landmark);
        QVERIFY(!r.uncertainty);
        QCOMPARE(r.verdict, Verdict::NotMarked);
        QVERIFY2(r.why.rfind("Mark ", 0) == 0, r.why.c_str());
    }
}

void MeasureTest::kind_hasAFigureWhereItHasAValue()
{
    const Case& c = current();
    const Reading r = read(c, markingOf(c.marks, c.view));
    QCOMPARE(r.figure.isEmpty(), c.marks.empty()); // a time has nothing to draw
    for (const auto& stroke : r.figure.strokes)
        for (const auto& p : stroke.points)
            QVERIFY(std::isfinite(p.x) && std::isfinite(p.y));
}

void MeasureTest::kinds_eachIsTestedByHand()
{
    for (const auto* kind : measureKinds()) {
        static const std::set<std::string_view> kOwnTest{"turn_gap",   "peak_speed",  "peak_rate",   "peak_gap", "peak_to_end",
                                                         "peak_after", "speed_share", "revolutions", "steady"};
        const bool tested = kOwnTest.count(kind->id) > 0 ||
                            std::any_of(cases().begin(), cases().end(), [&](const Case& c) { return kind->id == c.kind; });
        QVERIFY2(tested, std::string(kind->id).c_str());
        QVERIFY2(kind->meaning.size() > 20, std::string(kind->id).c_str());
        QVERIFY(!kind->views.empty());
    }
}

void MeasureTest::drop_figure_standsOnTheDeepestFrame()
{
    const Pack pack = packOf("drop", {"head"}, Unit::Centimetre, true, View::Side);
    const Marking m = markingOf({{10, "ear.left", 100, 100}, {15, "ear.left", 120, 118}, {20, "ear.left", 150, 105}}, View::Side);
    const Reading r = calcReadings(pack, PreparedRepetition(m), {}).front();
    QCOMPARE(r.figure.frame.value, 15.0);
}

void MeasureTest::interval_slowMotion_isRealTime()
{
    const Pack pack = packOf("interval", {}, Unit::Millisecond, true, View::Side);
    Marking m = markingOf({}, View::Side);
    m.clock = {240, 30};
    std::vector<MediaTime> shown;
    for (int i = 0; i < 100; ++i)
        shown.push_back(MediaTime::fromSeconds(i / 30.0));
    const Reading r = calcReadings(pack, PreparedRepetition(m, FrameClock(shown, m.clock.slowFactor())), {}).front();
    QVERIFY(r.value);
    QVERIFY(std::abs(*r.value - 10 / 240.0 * 1000) < 1e-3);
}

void MeasureTest::interval_wrongOrder_isNegative()
{
    Pack pack = packOf("interval", {}, Unit::Millisecond, true, View::Side);
    pack.keyPositions.front().anyOrderWith = {pack.keyPositions.back().id}; // else one of the two is misplaced
    Marking m = markingOf({}, View::Side);
    place(m, "b", 4);
    const Reading r = calcReadings(pack, PreparedRepetition(m), {}).front();
    QVERIFY(r.value && std::abs(*r.value + 60) < 1e-6);
}

void MeasureTest::turnGap_widths_giveTheTurn()
{
    // From behind, hips square on show their whole width, shoulders side-on show none: the pelvis is 90 degrees ahead.
    const Pack pack =
        packOf("turn_gap", {"hip.lead", "hip.trail", "shoulder.off", "shoulder.dom"}, Unit::Degree, false, View::Rear);
    const Marking square = markingOf({{10, "hip.left", 400, 400},
                                      {10, "hip.right", 500, 400},
                                      {10, "shoulder.left", 450, 200},
                                      {10, "shoulder.right", 450, 200}},
                                     View::Rear);
    const Reading r = calcReadings(pack, PreparedRepetition(square), {}).front();
    QVERIFY2(r.value, r.why.c_str());
    QVERIFY(std::abs(*r.value - 90) < 1e-6);
    QVERIFY(*r.uncertainty > 0.5); // body widths differ: an estimate says so, if all marks are exact
}

void MeasureTest::coincidingPoints_giveNoReading()
{
    const Pack pack = packOf("tilt", {"hip.trail", "hip.lead"}, Unit::Degree, false, View::Side);
    const Reading r =
        calcReadings(pack, PreparedRepetition(markingOf({{10, "hip.left", 5, 5}, {10, "hip.right", 5, 5}}, View::Side)), {})
            .front();
    QVERIFY(!r.value);
    QVERIFY(r.why.find("lie on each other") != std::string::npos);
}

void MeasureTest::pathAngle_withoutNeighbours_asksForThem()
{
    const Pack pack = packOf("path_angle", {"implement.tip"}, Unit::Degree, false, View::Side);
    const Reading r =
        calcReadings(pack, PreparedRepetition(markingOf({{10, "implement.tip", 110, 190}}, View::Side)), {}).front();
    QVERIFY(!r.value);
    QVERIFY2(r.why.find("before and after") != std::string::npos, r.why.c_str());
}

/// Everything at one place but the head, which is a twelfth of the body and a metre ahead; then one foot away too.
void MeasureTest::massCentre_weighsTheSegments()
{
    const Pack pack = packOf("offset_along", {"massCentre", "hip.lead"}, Unit::Centimetre, false, View::Side);
    std::vector<At> marks;
    for (const char* part : {"shoulder", "elbow", "wrist", "hip", "knee", "ankle", "toe"})
        for (const char* side : {"left", "right"}) {
            static std::vector<std::string> names;
            names.reserve(64);
            names.push_back(std::string(part) + "." + side);
            marks.push_back({10, names.back().c_str(), 100, 300});
        }
    for (const char* ear : {"ear.left", "ear.right"})
        marks.push_back({10, ear, 200, 300});
    const auto read = [&] { return calcReadings(pack, PreparedRepetition(markingOf(marks, View::Side)), {}).front(); };
    QVERIFY(std::abs(*read().value - 8.1) < 1e-9);
    for (auto& m : marks)
        if (std::string(m.landmark) == "toe.left")
            m.x = 300; // the foot's middle goes a metre ahead: 1.45 %
    QVERIFY(std::abs(*read().value - 8.1 - 1.45) < 1e-9);
    marks.erase(marks.begin());
    QVERIFY(!read().value);
}

/// A point on a parabola over time, marked on every frame: its speed is known at every instant, and its turning too.
void MeasureTest::peaks_ofKnownMotions()
{
    Marking m = markingOf({}, View::Side);
    place(m, "b", 40);
    for (int f = 10; f <= 40; ++f) {
        const double t = (f - 25) / 100.0;
        // speed 6 - 200 t^2 m/s along x: 6 at its most, on frame 25
        mark(m, f, "wrist.right", 500 + 100 * (6 * t - 200 * t * t * t / 3), 300);
        // a rod of 50 cm that turns by 300 degrees a second until frame 30, then stands
        const double angle = 3 * std::min(0.05, t) * 100 * std::numbers::pi / 180;
        mark(m, f, "implement.grip", 500, 500);
        mark(m, f, "implement.tip", 500 + 50 * std::cos(angle), 500 - 50 * std::sin(angle));
        // two more rods, fastest on frames 20 and 30
        for (const auto& [near, far, peak] :
             {std::tuple{"shoulder.right", "elbow.right", 20}, std::tuple{"hip.right", "knee.right", 30}}) {
            const double turned = std::atan(0.3 * (f - peak));
            mark(m, f, near, 600, 300);
            mark(m, f, far, 600 + 50 * std::cos(turned), 300 - 50 * std::sin(turned));
        }
    }
    const auto read = [&](const char* kind, const std::vector<const char*>& points, Unit unit) {
        return calcReadings(packOf(kind, points, unit, true, View::Side), PreparedRepetition(m), {}).front();
    };
    const Reading speed = read("peak_speed", {"wrist.dom"}, Unit::MetrePerSecond);
    QVERIFY2(speed.value && std::abs(*speed.value - 6) < 0.15, speed.why.c_str()); // the window blunts the top by a little
    QVERIFY(std::abs(speed.figure.frame.value - 25) < 0.6);
    const Reading rate = read("peak_rate", {"implement.grip", "implement.tip"}, Unit::DegreePerSecond);
    QVERIFY2(rate.value && std::abs(*rate.value - 300) < 6, rate.why.c_str());
    const Reading gap = read("peak_gap", {"shoulder.dom", "elbow.dom", "hip.dom", "knee.dom"}, Unit::Millisecond);
    QVERIFY2(gap.value && std::abs(*gap.value - 100) < 1, gap.why.c_str());
    const Reading toEnd = read("peak_to_end", {"hip.dom", "knee.dom"}, Unit::Millisecond);
    QVERIFY2(toEnd.value && std::abs(*toEnd.value - 100) < 1, toEnd.why.c_str());
    const Reading after = read("peak_after", {"hip.dom", "knee.dom"}, Unit::Millisecond);
    QVERIFY2(after.value && std::abs(*after.value - 200) < 1, after.why.c_str());
    const Reading back = read("peak_gap", {"hip.dom", "knee.dom", "shoulder.dom", "elbow.dom"}, Unit::Millisecond);
    QVERIFY2(back.value && std::abs(*back.value + 100) < 1, back.why.c_str());
}

/// An elbow that goes at 2 m/s and a hand that turns about it at 4 m/s: two thirds of the hand's 6 where both point the same way.
void MeasureTest::speedShare_ofATurnOnAMovingElbow()
{
    Marking m = markingOf({}, View::Side);
    place(m, "b", 40);
    for (int f = 10; f <= 40; ++f) {
        const double t = (f - 25) / 100.0, angle = 10 * t; // radians from straight down; 40 cm at 10 a second are 4 m/s
        const double elbow = 500 + 200 * t;
        mark(m, f, "elbow.right", elbow, 300);
        mark(m, f, "wrist.right", elbow + 40 * std::sin(angle), 300 + 40 * std::cos(angle));
    }
    const Reading r =
        calcReadings(packOf("speed_share", {"elbow.dom", "wrist.dom"}, Unit::Ratio, true, View::Side), PreparedRepetition(m), {})
            .front();
    QVERIFY2(r.value && std::abs(*r.value - 2.0 / 3) < 0.01, r.why.c_str());
}

/// 3 % of 1.60 m are 4.8 cm: a point that creeps a centimetre in each picture of ten milliseconds leaves with the fifth.
void MeasureTest::steady_untilItLeaves_orUntilTheMarksEnd()
{
    const Pack pack = packOf("steady", {"hip.dom"}, Unit::Millisecond, false, View::Side);
    const auto creeping = [](int lastFrame, double perFrame) {
        Marking m = markingOf({}, View::Side);
        for (int f = 10; f <= lastFrame; ++f)
            mark(m, f, "hip.right", 300 + perFrame * (f - 10), 300);
        return m;
    };
    const Reading leaves = calcReadings(pack, PreparedRepetition(creeping(30, 1)), {}).front();
    QVERIFY2(leaves.value && std::abs(*leaves.value - 50) < 1e-6, leaves.why.c_str());
    const Reading stays = calcReadings(pack, PreparedRepetition(creeping(70, 0.01)), {}).front();
    QVERIFY2(stays.value && std::abs(*stays.value - 600) < 1e-6, stays.why.c_str());
    const Reading cutShort = calcReadings(pack, PreparedRepetition(creeping(30, 0.01)), {}).front();
    QVERIFY(!cutShort.value);
    QVERIFY2(cutShort.why.find("end too soon") != std::string::npos, cutShort.why.c_str());
}

void MeasureTest::revolutions_countsTurns_orRefuses()
{
    const Pack pack = packOf("revolutions", {"ball", "ref.seam"}, Unit::TurnPerSecond, true, View::Side);
    const auto spinning = [](double degreesPerFrame) {
        Marking m = markingOf({}, View::Side);
        for (int f = 10; f <= 20; ++f) {
            const double a = degreesPerFrame * f * std::numbers::pi / 180;
            mark(m, f, "ball", 500, 300);
            mark(m, f, "ref.seam", 500 + 3 * std::cos(a), 300 - 3 * std::sin(a));
        }
        return m;
    };
    const Reading slow = calcReadings(pack, PreparedRepetition(spinning(36)), {}).front();
    QVERIFY2(slow.value && std::abs(*slow.value - 10) < 1e-6,
             slow.why.c_str()); // a tenth of a turn in each of 100 pictures a second
    const Reading fast = calcReadings(pack, PreparedRepetition(spinning(120)), {}).front();
    QVERIFY(!fast.value);
    QCOMPARE(fast.verdict, Verdict::TooFewFrames);
}

/// Noise on a still point is not a way, and what is furthest of many is not the noise's.
void MeasureTest::stillPoint_withNoise_hardlyDrifts()
{
    Marking m = markingOf({}, View::Side);
    m.clock = {240, 240};
    place(m, "b", 90);
    const ErrorSample sample(7);
    for (int f = 0; f < 100; ++f)
        mark(m, f, "ear.left", 500 + 2 * sample.normal(static_cast<std::uint64_t>(2 * f)),
             300 + 2 * sample.normal(static_cast<std::uint64_t>(2 * f + 1)), 2);
    const Reading r =
        calcReadings(packOf("drift", {"head"}, Unit::Centimetre, true, View::Side), PreparedRepetition(m), {}).front();
    QVERIFY2(r.value && *r.value < 4.5 && *r.value < 3.2 * *r.uncertainty, r.why.c_str());
}

KESTREL_TEST(MeasureTest)
#include "measure_test.moc"
