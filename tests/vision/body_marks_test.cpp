#include "support/runner.h"

#include "core/base/time.h"
#include "core/scene/leg_scale.h"
#include "vision/body_marks.h"

#include <QtTest>

#include <algorithm>
#include <cmath>
#include <functional>
#include <initializer_list>
#include <limits>
#include <numbers>
#include <set>

using namespace kestrel;
using namespace kestrel::vision;

namespace {

constexpr double kRate = 60;
constexpr double kAlmost = 0.5, kRounded = 1e-6; // pixels: what smoothing takes from a way that swings, and from an even one

/// A standing body: left points at x = 200, right ones at x = 300 (pixels), walking three pixels a picture to the right.
Pose bodyAt(int picture)
{
    static const std::map<PosePoint, double> heights{
        {PosePoint::LeftShoulder, 200}, {PosePoint::LeftElbow, 260}, {PosePoint::LeftWrist, 320}, {PosePoint::LeftHip, 300},
        {PosePoint::LeftKnee, 400},     {PosePoint::LeftAnkle, 500}, {PosePoint::LeftHeel, 505},  {PosePoint::LeftToe, 510}};
    Pose p;
    p.certainty = 1;
    for (std::size_t n = 0; n < kPosePoints; ++n)
        p.points[n] = {{250.0 + 3 * picture, 150}, 1};
    for (const auto& [point, y] : heights) {
        const auto n = static_cast<std::size_t>(point);
        p.points[n].at = {200.0 + 3 * picture, y};
        p.points[n + 1].at = {300.0 + 3 * picture, y};
    }
    return p;
}

PoseTrack walk(int pictures)
{
    PoseTrack t;
    for (int n = 0; n < pictures; ++n)
        t.poses.push_back(bodyAt(n));
    t.looked = pictures;
    return t;
}

void swapSides(Pose& p, std::initializer_list<PosePoint> leftPoints)
{
    for (const PosePoint left : leftPoints)
        std::swap(p.points[static_cast<std::size_t>(left)], p.points[static_cast<std::size_t>(left) + 1]);
}
void swapLegs(Pose& p)
{
    swapSides(p, {PosePoint::LeftHip, PosePoint::LeftKnee, PosePoint::LeftAnkle, PosePoint::LeftHeel, PosePoint::LeftToe});
}
void swapArms(Pose& p)
{
    swapSides(p, {PosePoint::LeftShoulder, PosePoint::LeftElbow, PosePoint::LeftWrist});
}

/// The network takes the limbs of somebody who stands for each other, and back again, each time over five pictures on which it
/// sees both between the two: no picture alone shows that they changed places.
PoseTrack swappedSlowly(const std::function<void(Pose&)>& swap, const Pose& body = bodyAt(0))
{
    PoseTrack t;
    for (int n = 0; n < 120; ++n) {
        Pose p = body, other = body;
        swap(other);
        const double share = std::clamp((n - 28) / 6.0, 0.0, 1.0) - std::clamp((n - 78) / 6.0, 0.0, 1.0);
        for (std::size_t i = 0; i < kPosePoints; ++i)
            p.points[i].at = lerp(p.points[i].at, other.points[i].at, share);
        t.poses.push_back(p);
    }
    t.looked = 120;
    return t;
}

/// There it sees them between the two, which may be left out.
bool isBetween(int picture)
{
    return (picture > 28 && picture < 34) || (picture > 78 && picture < 84);
}

const Mark* find(const std::vector<Mark>& marks, int frame, Part part, BodySide side)
{
    const auto it = std::find_if(marks.begin(), marks.end(), [&](const Mark& m) {
        return m.frame.value == frame && m.landmark == Landmark{part, side, {}};
    });
    return it == marks.end() ? nullptr : &*it;
}

std::vector<Mark> marksOf(const PoseTrack& t)
{
    return bodyMarks(t, evenClock(static_cast<std::int64_t>(t.poses.size()), kRate), View::Side);
}

} // namespace

class BodyMarksTest : public QObject {
    Q_OBJECT
private slots:
    void marks_lieWhereTheNetworkSaw_withSigmaAndSource();
    void sides_swappedForAWhile_areSwappedBack();
    void sides_swappedMostOfTheTime_areBelieved();
    void sides_swappedSlowly_whileBothFeetStand_areSwappedBack();
    void sides_swappedOnEveryOtherPicture_andThenForLonger_areSwappedBack();
    void shouldersTheOtherWayRoundThanTheHips_areSwappedBack();
    void shouldersThatLookNarrow_areBelieved();
    void arms_inProfile_lieAsTheViewSays_data();
    void arms_inProfile_lieAsTheViewSays();
    void arms_ofOneWhoTurns_areBelievedInProfile();
    void armTakenForAHiddenOne_isSwappedBack();
    void restingArms_exchangedSlowly_areSwappedBack();
    void arms_thatPassEachOther_areNotSwapped();
    void legs_thatPassEachOther_areNotSwapped();
    void slip_onOnePicture_isLeftOut();
    void slip_asSmallAsTrembling_stays_data();
    void slip_asSmallAsTrembling_stays();
    void slipForSomePictures_isLeftOut_itsNeighboursStay();
    void offEveryOtherPicture_isBroughtTogether();
    void mirroredLookThatDisagrees_isLeftOut();
    void evenlyBentWay_stays();
    void nobody_leavesAGap();
    void hidden_isMarkedSo_andLessSure();
    void halfSeen_isLessSureThanSeen_andSurerThanHidden();
    void trembling_isSmoothedFrom50PicturesASecondOn_data();
    void trembling_isSmoothedFrom50PicturesASecondOn();
    void sigma_isSmallerTheBetterTheNetwork();
    void scale_isTheLegOverTheHeight();
};

void BodyMarksTest::marks_lieWhereTheNetworkSaw_withSigmaAndSource()
{
    const auto marks = marksOf(walk(20));
    const Mark* knee = find(marks, 7, Part::Knee, BodySide::Left);
    QVERIFY(knee);
    QVERIFY((knee->at - ImagePoint{221, 400}).length() < kRounded);
    QCOMPARE(knee->source, Source::Network);
    QVERIFY(knee->visible);
    QVERIFY2(std::abs(knee->sigma - 3.1) < 1e-9, qPrintable(QString::number(knee->sigma))); // 3.1 % of a trunk of 100 pixels
}

void BodyMarksTest::sides_swappedForAWhile_areSwappedBack()
{
    PoseTrack t = walk(60);
    for (int n = 20; n < 32; ++n)
        swapLegs(*t.poses[static_cast<std::size_t>(n)]);
    QVERIFY(marksOf(t) == marksOf(walk(60)));
}

void BodyMarksTest::sides_swappedMostOfTheTime_areBelieved()
{
    PoseTrack t = walk(60);
    for (int n = 5; n < 60; ++n)
        swapLegs(*t.poses[static_cast<std::size_t>(n)]);
    PoseTrack all = walk(60);
    for (auto& p : all.poses)
        swapLegs(*p);
    QVERIFY(marksOf(t) == marksOf(all));
}

void BodyMarksTest::sides_swappedSlowly_whileBothFeetStand_areSwappedBack()
{
    const auto marks = marksOf(swappedSlowly(swapLegs));
    for (int n = 0; n < 120; ++n)
        for (const Part part : {Part::Knee, Part::Ankle, Part::Toe}) {
            const Mark* left = find(marks, n, part, BodySide::Left);
            if (isBetween(n) && !left)
                continue;
            QVERIFY2(left && left->at.x <= 250, qPrintable(QString::number(n))); // nearer than the other leg's
        }
}

/// Where the network cannot tell somebody's front from the back, it says now the one and now the other, and sees the legs between
/// the two when it changes its mind for longer.
void BodyMarksTest::sides_swappedOnEveryOtherPicture_andThenForLonger_areSwappedBack()
{
    PoseTrack t;
    const auto isMiddle = [](int n) { return n == 42 || n == 73; };
    for (int n = 0; n < 120; ++n) {
        Pose p = bodyAt(0), other = bodyAt(0);
        swapLegs(other);
        if (isMiddle(n))
            for (std::size_t i = 0; i < kPosePoints; ++i)
                p.points[i].at = midpoint(p.points[i].at, other.points[i].at);
        t.poses.push_back((n > 30 && n < 42 && n % 2 == 1) || (n > 42 && n < 73) ? other : p);
    }
    t.looked = 120;
    const auto marks = marksOf(t);
    for (int n = 0; n < 120; ++n)
        for (const Part part : {Part::Knee, Part::Ankle, Part::Toe}) {
            const Mark* left = find(marks, n, part, BodySide::Left);
            QVERIFY2((isMiddle(n) && !left) || (left && left->at.x <= 250), qPrintable(QString::number(n)));
        }
}

void BodyMarksTest::shouldersTheOtherWayRoundThanTheHips_areSwappedBack()
{
    const auto marks = marksOf(swappedSlowly(swapArms));
    for (int n = 0; n < 120; ++n)
        for (const Part part : {Part::Shoulder, Part::Elbow, Part::Wrist}) {
            const Mark *left = find(marks, n, part, BodySide::Left), *right = find(marks, n, part, BodySide::Right);
            if (isBetween(n) && (!left || !right))
                continue;
            QVERIFY2(left && right && left->at.x <= right->at.x, qPrintable(QString::number(n)));
        }
}

/// Seen from the side, shoulders look narrow and may well lie the other way round than the hips: a turned trunk.
void BodyMarksTest::shouldersThatLookNarrow_areBelieved()
{
    PoseTrack t;
    for (int n = 0; n < 60; ++n) {
        Pose p = bodyAt(0);
        for (const PosePoint left : {PosePoint::LeftShoulder, PosePoint::LeftHip}) {
            const double half = left == PosePoint::LeftHip ? -10 : 10;
            p.points[static_cast<std::size_t>(left)].at.x = 250 - half;
            p.points[static_cast<std::size_t>(left) + 1].at.x = 250 + half;
        }
        t.poses.push_back(p);
    }
    t.looked = 60;
    const auto marks = marksOf(t);
    QCOMPARE(find(marks, 30, Part::Shoulder, BodySide::Left)->at.x, 240.0);
    QCOMPARE(find(marks, 30, Part::Hip, BodySide::Left)->at.x, 260.0);
}

/// The network loses the left arm and guesses it beside the right one, and soon takes the arm it sees on the left for the right
/// one, for a third of a second: both ways of telling the sides are as far, but one of them is the way of an arm that is seen.
namespace {

/// Somebody in profile: each left point so many pixels to the right of the right one, the arms the other way round from the
/// tenth picture to the fiftieth.
PoseTrack profile(double width)
{
    PoseTrack t;
    for (int n = 0; n < 60; ++n) {
        Pose p = bodyAt(0);
        for (SeenPoint& seen : p.points)
            if (seen.at.x != 250)
                seen.at.x = seen.at.x < 250 ? 250 + width / 2 : 250 - width / 2;
        if (n >= 10 && n < 50)
            swapArms(p);
        t.poses.push_back(p);
    }
    t.looked = 60;
    return t;
}

/// On how many pictures the left elbow lies to the right of the right one.
int leftIsRight(const std::vector<Mark>& marks)
{
    int count = 0;
    for (int n = 0; n < 60; ++n) {
        const Mark *left = find(marks, n, Part::Elbow, BodySide::Left), *right = find(marks, n, Part::Elbow, BodySide::Right);
        count += left && right && left->at.x > right->at.x;
    }
    return count;
}

} // namespace

void BodyMarksTest::arms_inProfile_lieAsTheViewSays_data()
{
    QTest::addColumn<double>("width"); // pixels, of a trunk of 100
    QTest::addColumn<int>("view");
    QTest::addColumn<int>("leftIsRight");
    QTest::newRow("chest") << 6.0 << int(View::Side) << 60;
    QTest::newRow("back") << -6.0 << int(View::SideBack) << 0;
    QTest::newRow("from behind, as most of the time") << 6.0 << int(View::Rear) << 0;
    QTest::newRow("from the target, as most of the time") << -6.0 << int(View::Front) << 60;
}

void BodyMarksTest::arms_inProfile_lieAsTheViewSays()
{
    QFETCH(double, width);
    QFETCH(int, view);
    QTEST(leftIsRight(bodyMarks(profile(width), evenClock(60, kRate), View(view))), "leftIsRight");
}

void BodyMarksTest::arms_ofOneWhoTurns_areBelievedInProfile()
{
    PoseTrack t = profile(6);
    for (int n = 0; n < 60; ++n) // the back, plainly, for a while
        t.poses.push_back(bodyAt(0));
    QVERIFY(bodyMarks(t, evenClock(120, kRate), View::Side) == bodyMarks(t, evenClock(120, kRate), View::Rear));
}

void BodyMarksTest::armTakenForAHiddenOne_isSwappedBack()
{
    PoseTrack t;
    for (int n = 0; n < 120; ++n) {
        Pose p = bodyAt(0);
        p.points[static_cast<std::size_t>(PosePoint::LeftShoulder)].at.x = 250;
        p.points[static_cast<std::size_t>(PosePoint::RightShoulder)].at.x = 250;
        for (const PosePoint left : {PosePoint::LeftElbow, PosePoint::LeftWrist}) {
            SeenPoint &lost = p.points[static_cast<std::size_t>(left)], &seen = p.points[static_cast<std::size_t>(left) + 1];
            if (n >= 30 && n < 52)
                lost = {seen.at, 0.1};
            if (n >= 32 && n < 50)
                seen.at.x = 200;
        }
        t.poses.push_back(p);
    }
    t.looked = 120;
    const auto marks = marksOf(t);
    for (int n = 0; n < 120; ++n) {
        if (n == 30 || n == 31 || n == 50 || n == 51) // both are in one place
            continue;
        const Mark *left = find(marks, n, Part::Wrist, BodySide::Left), *right = find(marks, n, Part::Wrist, BodySide::Right);
        QVERIFY2(left && std::abs(left->at.x - 200) < kAlmost && right && std::abs(right->at.x - 300) < kAlmost,
                 qPrintable(QString::number(n)));
    }
}

/// Seen from one end, somebody narrow holds one arm up and the other one down. The network takes the arms for each other,
/// wavering between the two for five pictures each time; neither the hips nor the way from picture to picture says which is
/// which.
void BodyMarksTest::restingArms_exchangedSlowly_areSwappedBack()
{
    Pose oneUp = bodyAt(0);
    for (SeenPoint& point : oneUp.points)
        point.at.x = 250;
    oneUp.points[static_cast<std::size_t>(PosePoint::LeftElbow)].at.y = 140;
    oneUp.points[static_cast<std::size_t>(PosePoint::LeftWrist)].at.y = 80;
    const PoseTrack t = swappedSlowly([](Pose& p) { swapSides(p, {PosePoint::LeftElbow, PosePoint::LeftWrist}); }, oneUp);
    const auto marks = marksOf(t);
    for (int n = 0; n < 120; ++n) {
        const Mark *left = find(marks, n, Part::Wrist, BodySide::Left), *right = find(marks, n, Part::Wrist, BodySide::Right);
        if (isBetween(n) && (!left || !right))
            continue;
        QVERIFY2(left && right && left->at.y <= right->at.y, qPrintable(QString::number(n)));
    }
}

/// A runner's arms pass each other three times a second, elbow and wrist, each going where the other one was.
void BodyMarksTest::arms_thatPassEachOther_areNotSwapped()
{
    PoseTrack t;
    const auto swing = [](int n) { return 60 * std::cos(3 * std::numbers::pi * n / kRate); };
    for (int n = 0; n < 120; ++n) {
        Pose p = bodyAt(0);
        for (const PosePoint left : {PosePoint::LeftShoulder, PosePoint::LeftElbow, PosePoint::LeftWrist}) {
            const auto i = static_cast<std::size_t>(left);
            p.points[i].at.x = 250 - (left == PosePoint::LeftShoulder ? 0 : swing(n));
            p.points[i + 1].at.x = 250 + (left == PosePoint::LeftShoulder ? 0 : swing(n));
        }
        t.poses.push_back(p);
    }
    t.looked = 120;
    const auto marks = marksOf(t);
    for (int n = 0; n < 120; ++n) {
        const Mark* wrist = find(marks, n, Part::Wrist, BodySide::Left);
        QVERIFY2(wrist && std::abs(wrist->at.x - (250 - swing(n))) < kAlmost, qPrintable(QString::number(n)));
    }
}

/// A runner's legs pass each other twice a second.
void BodyMarksTest::legs_thatPassEachOther_areNotSwapped()
{
    PoseTrack t;
    for (int n = 0; n < 120; ++n) {
        Pose p = bodyAt(n);
        for (const PosePoint left : {PosePoint::LeftKnee, PosePoint::LeftAnkle, PosePoint::LeftHeel, PosePoint::LeftToe}) {
            const auto i = static_cast<std::size_t>(left);
            const double swing = 50 * std::cos(2 * std::numbers::pi * n / kRate);
            p.points[i].at.x = 250 + 3 * n - swing;
            p.points[i + 1].at.x = 250 + 3 * n + swing;
        }
        t.poses.push_back(p);
    }
    t.looked = 120;
    const auto marks = marksOf(t);
    for (int n = 0; n < 120; ++n) {
        const Mark* toe = find(marks, n, Part::Toe, BodySide::Left);
        QVERIFY2(toe && std::abs(toe->at.x - (250 + 3 * n - 50 * std::cos(2 * std::numbers::pi * n / kRate))) < kAlmost,
                 qPrintable(QString::number(n)));
    }
}

void BodyMarksTest::slip_onOnePicture_isLeftOut()
{
    PoseTrack t = walk(20);
    t.poses[9]->points[static_cast<std::size_t>(PosePoint::LeftWrist)].at.y += 90;
    const auto marks = marksOf(t);
    QVERIFY(!find(marks, 9, Part::Wrist, BodySide::Left));
    QVERIFY(find(marks, 9, Part::Wrist, BodySide::Right));
    QVERIFY(find(marks, 8, Part::Wrist, BodySide::Left) && find(marks, 10, Part::Wrist, BodySide::Left));
}

void BodyMarksTest::slip_asSmallAsTrembling_stays_data()
{
    QTest::addColumn<double>("aside"); // pixels; the trunk is 100 long, and the wrist goes 3 on each picture
    QTest::addColumn<bool>("stays");
    QTest::newRow("an eighth of the trunk") << 12.5 << true;
    QTest::newRow("a sixth of the trunk") << 17.0 << false;
}

void BodyMarksTest::slip_asSmallAsTrembling_stays()
{
    QFETCH(double, aside);
    QFETCH(bool, stays);
    PoseTrack t = walk(20);
    t.poses[9]->points[static_cast<std::size_t>(PosePoint::LeftWrist)].at.y += aside;
    QCOMPARE(find(marksOf(t), 9, Part::Wrist, BodySide::Left) != nullptr, stays);
}

/// Two slips with one right picture between them, and one that lasts three pictures.
void BodyMarksTest::slipForSomePictures_isLeftOut_itsNeighboursStay()
{
    PoseTrack t = walk(40);
    const std::set<int> slipped{9, 11, 20, 21, 22};
    for (const int n : slipped)
        t.poses[static_cast<std::size_t>(n)]->points[static_cast<std::size_t>(PosePoint::LeftWrist)].at.y += 90;
    const auto marks = marksOf(t);
    for (int n = 0; n < 40; ++n)
        QVERIFY2((find(marks, n, Part::Wrist, BodySide::Left) == nullptr) == (slipped.count(n) > 0),
                 qPrintable(QString::number(n)));
}

void BodyMarksTest::offEveryOtherPicture_isBroughtTogether()
{
    PoseTrack t = walk(30);
    for (int n = 0; n < 30; ++n)
        t.poses[static_cast<std::size_t>(n)]->points[static_cast<std::size_t>(PosePoint::LeftKnee)].at.y += n % 2 ? 4 : -4;
    t.poses[12].reset(); // and beside a gap
    const auto marks = marksOf(t);
    for (int n = 0; n < 30; ++n) {
        const Mark* knee = find(marks, n, Part::Knee, BodySide::Left);
        QVERIFY(n == 12 ? !knee : knee && (knee->at - ImagePoint{200.0 + 3 * n, 400}).length() < kRounded);
    }
}

/// Half of its pictures show a wrist at the other one for a while: those that were looked at mirrored are left out and the others
/// kept, also one that trembles away from them and so lies farthest from its neighbours.
void BodyMarksTest::mirroredLookThatDisagrees_isLeftOut()
{
    constexpr double kTrembling = 3;
    PoseTrack t = walk(60);
    const auto wristOn = [&](int n) -> double& {
        return t.poses[static_cast<std::size_t>(n)]->points[static_cast<std::size_t>(PosePoint::LeftWrist)].at.x;
    };
    for (int n = 20; n < 40; ++n)
        if (isLookedAtMirrored(FrameIndex(n)))
            wristOn(n) += 40;
    wristOn(30) -= kTrembling;
    const auto marks = marksOf(t);
    for (int n = 0; n < 60; ++n) {
        const Mark* wrist = find(marks, n, Part::Wrist, BodySide::Left);
        if (isLookedAtMirrored(FrameIndex(n)) && n >= 20 && n < 40)
            QVERIFY2(!wrist, qPrintable(QString::number(n)));
        else
            QVERIFY2(wrist && std::abs(wrist->at.x - (200 + 3 * n)) < kTrembling + kRounded, qPrintable(QString::number(n)));
    }
}

void BodyMarksTest::evenlyBentWay_stays()
{
    PoseTrack t = walk(30);
    const auto heightAt = [](int n) { return 400 + 0.4 * (n - 15) * (n - 15); };
    for (int n = 0; n < 30; ++n)
        t.poses[static_cast<std::size_t>(n)]->points[static_cast<std::size_t>(PosePoint::LeftKnee)].at.y = heightAt(n);
    const auto marks = marksOf(t);
    for (int n = 0; n < 30; ++n) {
        const Mark* knee = find(marks, n, Part::Knee, BodySide::Left);
        QVERIFY(knee && std::abs(knee->at.y - heightAt(n)) < kRounded);
    }
}

void BodyMarksTest::trembling_isSmoothedFrom50PicturesASecondOn_data()
{
    QTest::addColumn<double>("rate");
    QTest::addColumn<bool>("isSmoothed");
    QTest::newRow("30") << 30.0 << false;
    QTest::newRow("50") << 50.0 << true;
    QTest::newRow("60") << 60.0 << true;
    QTest::newRow("240") << 240.0 << true;
}

void BodyMarksTest::trembling_isSmoothedFrom50PicturesASecondOn()
{
    QFETCH(double, rate);
    PoseTrack t = walk(60);
    for (int n = 0; n < 60; ++n) // to and fro over four pictures, which does not come from looking in a mirror
        t.poses[static_cast<std::size_t>(n)]->points[static_cast<std::size_t>(PosePoint::LeftKnee)].at.y += n % 4 < 2 ? 2 : -2;
    double most = 0;
    for (const auto& m : bodyMarks(t, evenClock(60, rate), View::Side))
        if (m.landmark == Landmark{Part::Knee, BodySide::Left, {}} && m.frame.value > 9 && m.frame.value < 50)
            most = std::max(most, std::abs(m.at.y - 400));
    QTEST(most < 1, "isSmoothed");
}

void BodyMarksTest::nobody_leavesAGap()
{
    PoseTrack t = walk(20);
    t.poses[4].reset();
    t.poses[5].reset();
    const auto marks = marksOf(t);
    for (const auto& m : marks)
        QVERIFY(m.frame.value != 4 && m.frame.value != 5);
    QVERIFY(find(marks, 3, Part::Hip, BodySide::Left) && find(marks, 6, Part::Hip, BodySide::Left));
    QVERIFY(bodyMarks({}, evenClock(0, kRate), View::Side).empty());
}

void BodyMarksTest::hidden_isMarkedSo_andLessSure()
{
    PoseTrack t = walk(20);
    t.poses[3]->points[static_cast<std::size_t>(PosePoint::RightAnkle)].visible = 0.1;
    t.poses[3]->points[static_cast<std::size_t>(PosePoint::RightWrist)].visible = 0.1;
    t.poses[3]->points[static_cast<std::size_t>(PosePoint::RightHip)].visible = 0.1;
    const auto marks = marksOf(t);
    const auto wider = [&](Part part) {
        const Mark *hidden = find(marks, 3, part, BodySide::Right), *seen = find(marks, 2, part, BodySide::Right);
        return hidden && seen && !hidden->visible && seen->visible ? hidden->sigma / seen->sigma : 0;
    };
    QVERIFY(wider(Part::Ankle) > 1.2);
    QVERIFY(wider(Part::Hip) > 1.5 * wider(Part::Ankle));
    QVERIFY(wider(Part::Wrist) > 2 * wider(Part::Ankle)); // an arm may be anywhere
}

void BodyMarksTest::halfSeen_isLessSureThanSeen_andSurerThanHidden()
{
    PoseTrack t = walk(20);
    double last = 0;
    for (const double visible : {1.0, 0.9, 0.7, 0.4, 0.0}) {
        t.poses[3]->points[static_cast<std::size_t>(PosePoint::RightElbow)].visible = visible;
        const auto marks = marksOf(t);
        const Mark* elbow = find(marks, 3, Part::Elbow, BodySide::Right);
        QVERIFY(elbow && elbow->sigma > last);
        last = elbow->sigma;
    }
}

void BodyMarksTest::sigma_isSmallerTheBetterTheNetwork()
{
    double last = std::numeric_limits<double>::infinity();
    for (const BodyNetwork network : {BodyNetwork::Quick, BodyNetwork::Usual, BodyNetwork::Thorough}) {
        PoseTrack t = walk(20);
        t.by = network;
        const auto marks = marksOf(t);
        const Mark* knee = find(marks, 7, Part::Knee, BodySide::Left);
        QVERIFY(knee && knee->sigma < last);
        last = knee->sigma;
    }
}

void BodyMarksTest::scale_isTheLegOverTheHeight()
{
    const auto scale = scaleFromHeight(marksOf(walk(20)), View::Side, 1.6);
    QVERIFY(scale);
    QVERIFY(std::abs((scale->to - scale->from).length() - 200) < 1e-9); // hip at 300, ankle at 500
    QVERIFY(std::abs(scale->metres - 0.491 * 1.6) < 1e-9);
    QVERIFY(!scaleFromHeight({}, View::Side, 1.6));
    QVERIFY(!scaleFromHeight(marksOf(walk(20)), View::Overhead, 1.6));
}

KESTREL_TEST(BodyMarksTest)
#include "body_marks_test.moc"
