#include "support/runner.h"

#include "sim/overhand_pitch.h"
#include "sim/skeleton.h"

#include <QtTest>

using namespace kestrel;
using namespace kestrel::sim;

namespace {

constexpr double kHeight = 1.62;

MotionOptions motionOptions(const char* variant, const char* school, const char* fault = nullptr)
{
    MotionOptions o;
    o.variant = variant;
    o.school = school;
    if (fault)
        o.faults[fault] = 1;
    return o;
}

} // namespace

class SkeletonTest : public QObject {
    Q_OBJECT
private slots:
    void bones_keepTheirLength_data();
    void bones_keepTheirLength();
    void leftHander_isTheMirrorImage();
    void feet_neverGoUnderground_data() { bones_keepTheirLength_data(); }
    void feet_neverGoUnderground();
    void leadFoot_staysWhereItLanded_data() { bones_keepTheirLength_data(); }
    void leadFoot_staysWhereItLanded();
    void movement_isSmooth_data() { bones_keepTheirLength_data(); }
    void movement_isSmooth();
    void keyPositions_comeInOrder_data() { bones_keepTheirLength_data(); }
    void keyPositions_comeInOrder();
    void seeds_differALittle();
    void beforeAndAfter_theBodyHoldsStill();
    void lift_isWhereTheKneeIsHighest();

private:
    static Motion currentMotion()
    {
        QFETCH(QString, variant);
        QFETCH(QString, school);
        QFETCH(QString, fault);
        return overhandPitch(
            motionOptions(qPrintable(variant), qPrintable(school), fault.isEmpty() ? nullptr : qPrintable(fault)));
    }
};

void SkeletonTest::bones_keepTheirLength_data()
{
    QTest::addColumn<QString>("variant");
    QTest::addColumn<QString>("school");
    QTest::addColumn<QString>("fault");
    const SimSkill& skill = *findSimSkill("overhand-pitch");
    for (const auto& variant : skill.variants)
        for (const auto& school : skill.schools) {
            QTest::addRow("%s %s", variant.c_str(), school.c_str())
                << QString::fromStdString(variant) << QString::fromStdString(school) << QString();
            for (const auto& f : skill.faults)
                QTest::addRow("%s %s %s", variant.c_str(), school.c_str(), f.id.c_str())
                    << QString::fromStdString(variant) << QString::fromStdString(school) << QString::fromStdString(f.id);
        }
}

void SkeletonTest::bones_keepTheirLength()
{
    using namespace proportions;
    const std::tuple<Part, Part, double> bones[] = {{Part::Hip, Part::Knee, kThigh},
                                                    {Part::Knee, Part::Ankle, kShank},
                                                    {Part::Shoulder, Part::Elbow, kUpperArm},
                                                    {Part::Elbow, Part::Wrist, kForearm},
                                                    {Part::Wrist, Part::Hand, kHand}};
    const Motion motion = currentMotion();
    for (double t = motion.begin(); t <= motion.end(); t += 0.01) {
        const Skeleton s = place(motion.at(t), kHeight, Hand::Right);
        for (const auto side : {BodySide::Left, BodySide::Right})
            for (const auto& [a, b, length] : bones) {
                const double found = (s.at(a, side) - s.at(b, side)).norm() / kHeight;
                QVERIFY2(std::abs(found - length) < 1e-6, qPrintable(QStringLiteral("%1 at %2 s").arg(found).arg(t)));
            }
        QVERIFY(std::abs((s.at(Part::Shoulder, BodySide::Left) - s.at(Part::Shoulder, BodySide::Right)).norm() / kHeight -
                         2 * kHalfShoulders) < 1e-6);
    }
}

void SkeletonTest::leftHander_isTheMirrorImage()
{
    const Motion motion = overhandPitch(motionOptions("windup", "tall"));
    for (double t = motion.begin(); t < motion.end(); t += 0.1) {
        const Skeleton r = place(motion.at(t), kHeight, Hand::Right), l = place(motion.at(t), kHeight, Hand::Left);
        for (const auto& [landmark, p] : r.points) {
            Landmark other = landmark;
            other.side = opposite(other.side);
            const Vec3 q = l.points.at(other);
            QVERIFY((q - Vec3(p.x(), p.y(), -p.z())).norm() < 1e-12);
        }
    }
}

void SkeletonTest::feet_neverGoUnderground()
{
    const Motion motion = currentMotion();
    for (double t = motion.begin(); t <= motion.end(); t += 0.01) {
        const Skeleton s = place(motion.at(t), kHeight, Hand::Right);
        for (const auto side : {BodySide::Left, BodySide::Right})
            for (const auto part : {Part::Toe, Part::Heel, Part::Ankle})
                QVERIFY2(s.at(part, side).y() > -0.012 * kHeight,
                         qPrintable(QString::number(t))); // a foot pulled short may dip by its sole
    }
}

void SkeletonTest::leadFoot_staysWhereItLanded()
{
    const Motion motion = currentMotion();
    const double strike = motion.secondsOf("strike");
    const Vec3 landed = place(motion.at(strike), kHeight, Hand::Right).at(Part::Toe, BodySide::Left);
    for (double t = strike; t <= motion.end(); t += 0.01)
        QVERIFY((place(motion.at(t), kHeight, Hand::Right).at(Part::Toe, BodySide::Left) - landed).norm() < 0.02 * kHeight);
}

void SkeletonTest::movement_isSmooth()
{
    // A hard throw moves the hand at some 25 m/s, a fault may whip it faster; a jump from one picture to the next would be
    // hundreds.
    const Motion motion = currentMotion();
    constexpr double kStep = 1.0 / 480;
    Skeleton last = place(motion.at(motion.begin()), kHeight, Hand::Right);
    for (double t = motion.begin() + kStep; t <= motion.end(); t += kStep) {
        const Skeleton now = place(motion.at(t), kHeight, Hand::Right);
        for (const auto& [landmark, p] : now.points) {
            const double speed = (p - last.points.at(landmark)).norm() / kStep;
            QVERIFY2(
                speed < 60,
                qPrintable(QStringLiteral("%1 at %2 s: %3 m/s").arg(QString::fromStdString(nameOf(landmark))).arg(t).arg(speed)));
        }
        last = now;
    }
}

void SkeletonTest::keyPositions_comeInOrder()
{
    const Motion motion = currentMotion();
    double last = -1e9;
    int named = 0;
    for (const auto& key : motion.keys()) {
        QVERIFY(key.seconds > last);
        last = key.seconds;
        named += !key.keyPosition.empty();
    }
    QCOMPARE(named, 9);
    QVERIFY(std::abs(motion.secondsOf("strike")) < 1e-12);
}

void SkeletonTest::seeds_differALittle()
{
    MotionOptions a = motionOptions("stretch", "tall"), b = a;
    b.seed = 2;
    const Pose one = overhandPitch(a).at(-0.1), again = overhandPitch(a).at(-0.1), other = overhandPitch(b).at(-0.1);
    QCOMPARE(one.trunkLean, again.trunkLean);
    QVERIFY(one.trunkLean != other.trunkLean);
    QVERIFY(std::abs(one.trunkLean - other.trunkLean) < 6);
}

void SkeletonTest::beforeAndAfter_theBodyHoldsStill()
{
    const Motion motion = overhandPitch(motionOptions("stretch", "tall"));
    QCOMPARE(motion.at(motion.begin() - 5).pelvis, motion.at(motion.begin()).pelvis);
    QCOMPARE(motion.at(motion.end() + 5).trunkLean, motion.at(motion.end()).trunkLean);
}

void SkeletonTest::lift_isWhereTheKneeIsHighest()
{
    for (const auto* variant : {"stretch", "windup"}) {
        const Motion motion = overhandPitch(motionOptions(variant, "tall"));
        double highest = -1, at = 0;
        for (double t = motion.begin(); t < 0; t += 0.005)
            if (const double y = place(motion.at(t), kHeight, Hand::Right).at(Part::Knee, BodySide::Left).y(); y > highest) {
                highest = y;
                at = t;
            }
        QVERIFY2(std::abs(at - motion.secondsOf("lift")) < 0.06, qPrintable(QString::number(at)));
    }
}

KESTREL_TEST(SkeletonTest)
#include "skeleton_test.moc"
