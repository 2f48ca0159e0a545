#include "support/runner.h"

#include "core/base/angle.h"
#include "core/base/json_reader.h"
#include "sim/skill.h"

#include <Eigen/Geometry>
#include <QtTest>

#include <set>

using namespace kestrel;
using namespace kestrel::sim;

namespace {

constexpr double kHeight = 1.62;

const SimSkill& skillOf(const std::string& id)
{
    static std::map<std::string, SimSkill> loaded;
    if (const auto it = loaded.find(id); it != loaded.end())
        return it->second;
    auto skill = loadSimSkill(id);
    if (!skill)
        qFatal("%s", skill.error().text().c_str());
    return loaded.emplace(id, std::move(*skill)).first->second;
}

Build buildOf(const SimSkill& s, Hand hand = Hand::Right)
{
    Build b;
    b.dominant = s.dominant;
    b.implement = s.implement;
    b.hand = hand;
    return b;
}

} // namespace

/// Every skill in every variant and school, with each fault at its full amount.
class SkeletonTest : public QObject {
    Q_OBJECT
private slots:
    void bones_keepTheirLength_data() { addMotions(); }
    void bones_keepTheirLength();
    void leftHander_isTheMirrorImage_data() { addMotions(); }
    void leftHander_isTheMirrorImage();
    void feet_stayOnOrAboveTheGround_data() { addMotions(); }
    void feet_stayOnOrAboveTheGround();
    void plantedFeet_doNotSlide_data() { addMotions(); }
    void plantedFeet_doNotSlide();
    void hands_stayOnTheImplement_data() { addMotions(); }
    void hands_stayOnTheImplement();
    void joints_stayWithinTheirLimits_data() { addMotions(); }
    void joints_stayWithinTheirLimits();
    void poseBeyondTheLimits_stopsAtThem();
    void shoulder_goesWithTheArm_data();
    void shoulder_goesWithTheArm();
    void movement_isSmooth_data() { addMotions(); }
    void movement_isSmooth();
    void keyPositions_comeInOrder_data() { addMotions(); }
    void keyPositions_comeInOrder();
    void skills_areEleven_withSixFaultsOrMore();
    void seeds_differALittle();
    void tempo_scalesTime();
    void beforeAndAfter_theBodyHoldsStill();
    void lift_isWhereTheKneeIsHighest();
    void proportions_followAgeAndSex();
    void ball_isMetWhereTheFaceIs_data();
    void ball_isMetWhereTheFaceIs();
    void badMotionFile_saysWhere_data();
    void badMotionFile_saysWhere();

private:
    static void addMotions()
    {
        QTest::addColumn<QString>("skill");
        QTest::addColumn<QString>("variant");
        QTest::addColumn<QString>("school");
        QTest::addColumn<QString>("fault");
        const auto text = [](const std::string& s) { return QString::fromStdString(s); };
        for (const auto& id : simSkillIds()) {
            const SimSkill& skill = skillOf(id);
            for (const auto& variant : skill.variants)
                for (const auto& school : skill.schools) {
                    QTest::addRow("%s %s %s", id.c_str(), variant.id.c_str(), school.id.c_str())
                        << text(id) << text(variant.id) << text(school.id) << QString();
                    for (const auto& f : skill.faults)
                        QTest::addRow("%s %s %s %s", id.c_str(), variant.id.c_str(), school.id.c_str(), f.id.c_str())
                            << text(id) << text(variant.id) << text(school.id) << text(f.id);
                }
        }
    }
    struct Current {
        const SimSkill& skill;
        Build build;
        Motion motion;
        Skeleton at(double t, Hand hand = Hand::Right) const { return place(motion.at(t), buildOf(skill, hand)); }
    };
    static Current current()
    {
        QFETCH(QString, skill);
        QFETCH(QString, variant);
        QFETCH(QString, school);
        QFETCH(QString, fault);
        MotionOptions o;
        o.variant = variant.toStdString();
        o.school = school.toStdString();
        if (!fault.isEmpty())
            o.faults[fault.toStdString()] = 1;
        const SimSkill& s = skillOf(skill.toStdString());
        return {s, buildOf(s), s.motion(o)};
    }
};

void SkeletonTest::bones_keepTheirLength()
{
    const auto now = current();
    const Proportions p = proportionsOf(now.build.person);
    const std::tuple<Part, Part, double> bones[] = {{Part::Hip, Part::Knee, p.thigh},
                                                    {Part::Knee, Part::Ankle, p.shank},
                                                    {Part::Shoulder, Part::Elbow, p.upperArm},
                                                    {Part::Elbow, Part::Wrist, p.forearm},
                                                    {Part::Wrist, Part::Hand, p.hand}};
    for (double t = now.motion.begin(); t <= now.motion.end(); t += 0.02) {
        const Skeleton s = now.at(t);
        for (const auto side : {BodySide::Left, BodySide::Right})
            for (const auto& [a, b, length] : bones) {
                const double found = (s.at(a, side) - s.at(b, side)).norm() / kHeight;
                QVERIFY2(
                    std::abs(found - length) < 1e-6,
                    qPrintable(
                        QStringLiteral("%1 %2 at %3 s").arg(QString::fromStdString(nameOf({a, side, {}}))).arg(found).arg(t)));
            }
        // collarbone and shoulder blade turn about the breastbone's top
        for (const auto side : {BodySide::Left, BodySide::Right}) {
            const Vec3 pivot = s.chestCentre + s.chestRight * (side == BodySide::Right ? 1 : -1) * kHalfBreastbone * kHeight;
            QVERIFY(std::abs((s.at(Part::Shoulder, side) - pivot).norm() / kHeight - (p.halfShoulders - kHalfBreastbone)) < 1e-6);
        }
    }
}

void SkeletonTest::joints_stayWithinTheirLimits()
{
    const auto now = current();
    const auto between = [](const Vec3& a, const Vec3& b) {
        return Angle::radians(std::atan2(a.cross(b).norm(), a.dot(b))).asDegrees();
    };
    const auto level = [](const Vec3& v) { return Vec3(v.x(), 0, v.z()); };
    for (double t = now.motion.begin(); t <= now.motion.end(); t += 0.01) {
        const Skeleton s = now.at(t);
        const auto line = [&](Part part) { return Vec3(s.at(part, BodySide::Right) - s.at(part, BodySide::Left)); };
        const auto middle = [&](Part part) { return Vec3((s.at(part, BodySide::Right) + s.at(part, BodySide::Left)) / 2); };
        const auto holds = [&](const char* what, double found, double most) {
            if (found > most)
                qWarning("%s %.1f degrees at %.2f s, the most is %.0f", what, found, t, most);
            return found <= most;
        };
        for (const auto side : {BodySide::Left, BodySide::Right}) {
            const auto flexion = [&](Part a, Part b, Part c) {
                return between(s.at(b, side) - s.at(a, side), s.at(c, side) - s.at(b, side));
            };
            QVERIFY(holds("knee", flexion(Part::Hip, Part::Knee, Part::Ankle), kMostKneeFlexion + 0.1));
            QVERIFY(holds("elbow", flexion(Part::Shoulder, Part::Elbow, Part::Wrist), kMostElbowFlexion + 1));
        }
        const Vec3 trunk = (s.chestCentre - middle(Part::Hip)).normalized();
        const auto across = [&](const Vec3& v) { return Vec3(v - trunk * v.dot(trunk)); };
        QVERIFY(holds("twist", between(across(line(Part::Hip)), across(s.chestRight)), kMostTrunkTwist + 3));
        // seen from above tilted shoulders seem to turn a little
        const Vec3 chest = Vec3(0, 1, 0).cross(level(s.chestRight));
        QVERIFY(holds("head", between(level(s.headForward), chest), kMostHeadTurn + 5));
    }
}

void SkeletonTest::poseBeyondTheLimits_stopsAtThem()
{
    Pose pose;
    pose.shoulderYaw = 120;
    pose.headYaw = 230;
    pose.dom.upper = pose.off.upper = Vec3(0, -1, 0);
    pose.dom.fore = pose.off.fore = Vec3(0.05, 1, 0);
    pose.lead.toe = Vec3(0, 0.50, 0.05); // the foot drawn up to the hip
    const Skeleton s = place(pose, Build{});
    const auto flexion = [&](Part a, Part b, Part c) {
        const Vec3 first = (s.at(b, BodySide::Left) - s.at(a, BodySide::Left)).normalized();
        const Vec3 second = (s.at(c, BodySide::Left) - s.at(b, BodySide::Left)).normalized();
        return Angle::radians(std::acos(first.dot(second))).asDegrees();
    };
    QVERIFY(std::abs(flexion(Part::Shoulder, Part::Elbow, Part::Wrist) - kMostElbowFlexion) <= 0.01);
    QVERIFY(std::abs(flexion(Part::Hip, Part::Knee, Part::Ankle) - kMostKneeFlexion) <= 0.01);
    const Vec3 chest = Vec3(0, 1, 0).cross(s.chestRight);
    QVERIFY(std::abs(Angle::radians(std::atan2(chest.x(), chest.z())).asDegrees() - kMostTrunkTwist) <= 0.01);
    QVERIFY(std::abs(Angle::radians(std::atan2(s.headForward.x(), s.headForward.z())).asDegrees() -
                     (kMostTrunkTwist + kMostHeadTurn)) <= 0.01);
}

void SkeletonTest::shoulder_goesWithTheArm_data()
{
    QTest::addColumn<Vec3>("arm"); // in the chest's frame: forward, up, outward
    QTest::addColumn<double>("up");
    QTest::addColumn<double>("forward");
    // the joint is 0.085 of height from where the collarbone turns: sin 20 of it is 0.0291, sin 10 0.0148
    QTest::newRow("hangs") << Vec3(0, -1, 0) << 0.0 << 0.0;
    QTest::newRow("moves from the side by 30 degrees") << Vec3(0, -std::sqrt(0.75), 0.5) << 0.0 << 0.0;
    QTest::newRow("overhead") << Vec3(0, 1, 0) << 0.0291 << 0.0;
    QTest::newRow("level to the side: 60 of 150 degrees, 8 of 20") << Vec3(0, 0, 1) << 0.0118 << 0.0;
    QTest::newRow("level ahead") << Vec3(1, 0, 0) << 0.0118 << 0.0146;
    QTest::newRow("level behind") << Vec3(-1, 0, 0) << 0.0118 << -0.0146;
}

void SkeletonTest::shoulder_goesWithTheArm()
{
    QFETCH(Vec3, arm);
    QFETCH(double, up);
    QFETCH(double, forward);
    Pose pose; // upright, chest toward +z
    pose.dom = pose.off = ArmPose{arm, arm};
    const Skeleton s = place(pose, Build{});
    for (const auto side : {BodySide::Left, BodySide::Right}) {
        const Vec3 moved = (s.at(Part::Shoulder, side) - s.chestCentre) / Build{}.person.heightMetres;
        QVERIFY2(std::abs(moved.y() - up) <= 0.0001, qPrintable(QString::number(moved.y())));
        QVERIFY2(std::abs(moved.z() - forward) <= 0.0001, qPrintable(QString::number(moved.z())));
    }
}

void SkeletonTest::leftHander_isTheMirrorImage()
{
    const auto now = current();
    for (double t = now.motion.begin(); t < now.motion.end(); t += 0.1) {
        const Skeleton r = now.at(t), l = now.at(t, Hand::Left);
        for (const auto& [landmark, p] : r.points) {
            Landmark other = landmark;
            other.side = opposite(other.side);
            if (landmark.part == Part::ImplementFaceA || landmark.part == Part::ImplementFaceB)
                continue; // edges have no side of the body
            QVERIFY((l.points.at(other) - Vec3(p.x(), p.y(), -p.z())).norm() < 1e-12);
        }
    }
}

void SkeletonTest::feet_stayOnOrAboveTheGround()
{
    const auto now = current();
    for (double t = now.motion.begin(); t <= now.motion.end(); t += 0.01) {
        const Skeleton s = now.at(t);
        for (const auto side : {BodySide::Left, BodySide::Right})
            for (const auto part : {Part::Toe, Part::Heel, Part::Ankle})
                QVERIFY2(s.at(part, side).y() > -0.022 * kHeight, // a foot pulled short or landing may dip by its sole
                         qPrintable(QStringLiteral("%1 at %2 s").arg(s.at(part, side).y()).arg(t)));
    }
}

void SkeletonTest::plantedFeet_doNotSlide()
{
    const auto now = current();
    const auto& keys = now.motion.keys();
    int planted = 0;
    for (std::size_t i = 0; i + 1 < keys.size(); ++i)
        for (const bool isLead : {true, false}) {
            const FootPose &a = isLead ? keys[i].pose.lead : keys[i].pose.trail,
                           &b = isLead ? keys[i + 1].pose.lead : keys[i + 1].pose.trail;
            if (a.toe.y() > 1e-9 || b.toe.y() > 1e-9 || (a.toe - b.toe).norm() > 1e-9)
                continue;
            ++planted;
            const BodySide side = isLead ? now.build.leadSide() : opposite(now.build.leadSide());
            const Vec3 begin = now.at(keys[i].seconds).at(Part::Toe, side);
            for (double t = keys[i].seconds; t <= keys[i + 1].seconds; t += 0.01)
                QVERIFY2((now.at(t).at(Part::Toe, side) - begin).norm() < 0.02 * kHeight,
                         qPrintable(
                             QStringLiteral("%1 at %2 s").arg(isLead ? QStringLiteral("lead") : QStringLiteral("trail")).arg(t)));
        }
    QVERIFY(planted >= 1);
}

void SkeletonTest::hands_stayOnTheImplement()
{
    const auto now = current();
    if (!now.skill.implement)
        QSKIP("nothing is held");
    for (double t = now.motion.begin(); t <= now.motion.end(); t += 0.01) {
        const Skeleton s = now.at(t);
        const auto& held = *now.skill.implement;
        const auto isOn = [&](BodySide side, double along) {
            return (s.at(Part::Hand, side) - (s.implement->butt + s.implement->axis * (along * kHeight))).norm() <
                   0.004 * kHeight;
        };
        QVERIFY2(isOn(now.build.domSide(), held.domHand), qPrintable(QString::number(t)));
        if (held.offHand)
            QVERIFY2(isOn(opposite(now.build.domSide()), *held.offHand), qPrintable(QString::number(t)));
        QVERIFY(std::abs(s.implement->axis.dot(s.implement->face)) < 1e-9);
        QVERIFY(std::abs((s.implement->tip - s.implement->butt).norm() - held.length * kHeight) < 1e-9);
    }
}

void SkeletonTest::movement_isSmooth()
{
    // A hard throw moves the hand at some 25 m/s and a bat's tip at 35, a fault may whip them faster; a jump from one
    // picture to the next would be hundreds.
    const auto now = current();
    constexpr double kStep = 1.0 / 480;
    Skeleton last = now.at(now.motion.begin());
    for (double t = now.motion.begin() + kStep; t <= now.motion.end(); t += kStep) {
        const Skeleton s = now.at(t);
        for (const auto& [landmark, p] : s.points) {
            const double speed = (p - last.points.at(landmark)).norm() / kStep;
            QVERIFY2(
                speed < 75,
                qPrintable(QStringLiteral("%1 at %2 s: %3 m/s").arg(QString::fromStdString(nameOf(landmark))).arg(t).arg(speed)));
        }
        last = s;
    }
}

void SkeletonTest::keyPositions_comeInOrder()
{
    const auto now = current();
    double last = -1e9;
    std::set<std::string> named;
    for (const auto& key : now.motion.keys()) {
        QVERIFY2(key.seconds > last, key.keyPosition.c_str());
        last = key.seconds;
        if (!key.keyPosition.empty())
            QVERIFY(named.insert(key.keyPosition).second);
    }
    // every variant passes through the same key positions
    for (const auto& key : now.skill.variants.front().poses)
        QVERIFY(key.keyPosition.empty() || named.count(key.keyPosition) == 1);
}

void SkeletonTest::skills_areEleven_withSixFaultsOrMore()
{
    QCOMPARE(simSkillIds().size(), std::size_t{11});
    for (const auto& id : simSkillIds()) {
        const SimSkill& s = skillOf(id);
        QCOMPARE(s.id, id);
        QVERIFY2(s.faults.size() >= 6, id.c_str());
        for (const auto& f : s.faults)
            QVERIFY2(!f.says.empty() && !f.disturbs.empty() && !f.change.empty(), f.id.c_str());
    }
}

void SkeletonTest::seeds_differALittle()
{
    for (const auto& id : simSkillIds()) {
        const SimSkill& s = skillOf(id);
        MotionOptions a, b;
        b.seed = 2;
        const double t = s.motion(a).secondsOf(s.variants.front().poses[1].keyPosition);
        const Pose one = s.motion(a).at(t), again = s.motion(a).at(t), other = s.motion(b).at(t);
        QCOMPARE(one.trunkLean, again.trunkLean);
        QVERIFY(one.trunkLean != other.trunkLean);
        QVERIFY2(std::abs(one.trunkLean - other.trunkLean) < 8, id.c_str());
    }
}

void SkeletonTest::tempo_scalesTime()
{
    const SimSkill& s = skillOf("overhand-pitch");
    MotionOptions usual, quick;
    quick.tempo = 2;
    QVERIFY(std::abs(s.motion(usual).secondsOf("lift") - 2 * s.motion(quick).secondsOf("lift")) < 1e-12);
    QVERIFY((s.motion(usual).at(-0.4).pelvis - s.motion(quick).at(-0.2).pelvis).norm() < 1e-9);
}

void SkeletonTest::beforeAndAfter_theBodyHoldsStill()
{
    const Motion motion = skillOf("overhand-pitch").motion({});
    QCOMPARE(motion.at(motion.begin() - 5).pelvis, motion.at(motion.begin()).pelvis);
    QCOMPARE(motion.at(motion.end() + 5).trunkLean, motion.at(motion.end()).trunkLean);
}

void SkeletonTest::lift_isWhereTheKneeIsHighest()
{
    const SimSkill& s = skillOf("overhand-pitch");
    for (const auto* variant : {"stretch", "windup"}) {
        MotionOptions o;
        o.variant = variant;
        const Motion motion = s.motion(o);
        double highest = -1, at = 0;
        for (double t = motion.begin(); t < 0; t += 0.005)
            if (const double y = place(motion.at(t), buildOf(s)).at(Part::Knee, BodySide::Left).y(); y > highest) {
                highest = y;
                at = t;
            }
        QVERIFY2(std::abs(at - motion.secondsOf("lift")) < 0.06, qPrintable(QString::number(at)));
    }
}

void SkeletonTest::proportions_followAgeAndSex()
{
    const auto tall = [](const Person& p) {
        const Proportions q = proportionsOf(p);
        return q.ankleHeight + q.thigh + q.shank + q.trunk + q.shouldersToHead + 1.08 * q.headRadius;
    };
    for (const double age : {5.0, 8.0, 13.0, 18.0, 40.0})
        for (const auto sex : {Sex::Female, Sex::Male})
            // the crown's height and the sole
            QVERIFY2(std::abs(tall({1.5, age, sex}) - 1.022) < 0.01, qPrintable(QString::number(tall({1.5, age, sex}))));
    QVERIFY(proportionsOf({1.2, 6, Sex::Male}).headRadius > 1.1 * proportionsOf({1.8, 18, Sex::Male}).headRadius);
    QVERIFY(proportionsOf({1.2, 6, Sex::Male}).thigh < proportionsOf({1.8, 18, Sex::Male}).thigh);
    QCOMPARE(proportionsOf({1.3, 9, Sex::Female}).forearm, proportionsOf({1.3, 9, Sex::Male}).forearm);
    QVERIFY(proportionsOf({1.7, 17, Sex::Female}).halfShoulders < proportionsOf({1.7, 17, Sex::Male}).halfShoulders);
}

void SkeletonTest::ball_isMetWhereTheFaceIs_data()
{
    QTest::addColumn<QString>("skill");
    for (const auto& id : simSkillIds())
        if (skillOf(id).implement)
            QTest::newRow(id.c_str()) << QString::fromStdString(id);
}

void SkeletonTest::ball_isMetWhereTheFaceIs()
{
    QFETCH(QString, skill);
    const SimSkill& s = skillOf(skill.toStdString());
    const Build build = buildOf(s);
    const Motion motion = s.motion({});
    const auto& variant = s.variants.front();
    const BallPath path(
        variant.ballKind, variant.ball, build, [&](double t) { return place(motion.at(t), build); },
        [&](const std::string& key) { return motion.secondsOf(key); });
    const auto meets = std::find_if(variant.ball.begin(), variant.ball.end(),
                                    [](const BallStage& b) { return b.place == BallPlace::Face || b.place == BallPlace::Blade; });
    QVERIFY(meets != variant.ball.end());
    const double t = motion.secondsOf(meets->until);
    const auto ballAt = [&](double when) { return path.at(when, place(motion.at(when), build)).centre; };
    const Skeleton body = place(motion.at(t), build);
    QVERIFY((ballAt(t) - body.implement->sweetSpot).norm() < 0.09);
    QVERIFY2((ballAt(t + 1e-6) - ballAt(t - 1e-6)).norm() < 1e-3, "the ball jumps");
    QVERIFY2((ballAt(t + 0.05) - ballAt(t)).x() > 0.1, "it leaves toward the target");
}

void SkeletonTest::badMotionFile_saysWhere_data()
{
    QTest::addColumn<QByteArray>("what");
    QTest::addColumn<QByteArray>("with");
    QTest::addColumn<QString>("place");
    QTest::newRow("unknown part") << QByteArray("\"pelvis\": [0.066") << QByteArray("\"hips\": [0.066")
                                  << QStringLiteral("/poses/0/pose");
    QTest::newRow("two numbers") << QByteArray("[0.066, 0.468, -0.055]") << QByteArray("[0.066, 0.468]")
                                 << QStringLiteral("/poses/0/pose/pelvis");
    QTest::newRow("back in time") << QByteArray("\"seconds\": -0.26") << QByteArray("\"seconds\": -0.96")
                                  << QStringLiteral("/poses/3");
    QTest::newRow("unknown model") << QByteArray("\"like\": \"drive\"") << QByteArray("\"like\": \"ride\"")
                                   << QStringLiteral("/poses/4/like");
    QTest::newRow("unknown key position") << QByteArray("\"until\": \"release\"") << QByteArray("\"until\": \"relief\"")
                                          << QStringLiteral("/variants/2/ball/stages/0/until");
    QTest::newRow("unknown setting") << QByteArray("\"setting\": \"mound\"") << QByteArray("\"setting\": \"moon\"")
                                     << QStringLiteral("/setting");
    QTest::newRow("unknown variant of a fault")
        << QByteArray("\"disturbs\":") << QByteArray("\"variants\": [\"wound-up\"], \"disturbs\":")
        << QStringLiteral("/faults/0/variants/0");
    QTest::newRow("unknown side") << QByteArray("\"dominantSide\": \"trail\"") << QByteArray("\"dominantSide\": \"top\"")
                                  << QStringLiteral("/dominantSide");
}

void SkeletonTest::badMotionFile_saysWhere()
{
    QFETCH(QByteArray, what);
    QFETCH(QByteArray, with);
    QFETCH(QString, place);
    QFile file(QStringLiteral(KESTREL_SOURCE_DIR "/motions/overhand-pitch.json"));
    QVERIFY(file.open(QIODevice::ReadOnly));
    QByteArray text = file.readAll();
    QVERIFY(text.contains(what));
    text.replace(text.indexOf(what), what.size(), with);
    const auto root = parseJson(text.toStdString(), "x.json");
    QVERIFY(root);
    const auto skill = parseSimSkill(*root, "x.json");
    QVERIFY(!skill);
    QVERIFY2(QString::fromStdString(skill.error().place).startsWith(place), skill.error().text().c_str());
}

KESTREL_TEST(SkeletonTest)
#include "skeleton_test.moc"
