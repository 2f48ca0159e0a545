#include "support/runner.h"

#include "sim/simulate.h"
#include "sim/skill.h"
#include "vision/scene_check.h"

#include <QtTest>

#include <algorithm>

using namespace kestrel;
using namespace kestrel::test;
using namespace kestrel::vision;

/// What the marks say against the scene that was set.
class SceneCheckTest : public QObject {
    Q_OBJECT
private slots:
    void rightScene_ofAnySkillViewAndHand_isNotDoubted_wrongOnesOftenAre();
    void pitchFromTheSide_eachMistake_isSaid();
    void fromAbove_itSaysThatItSeesBadly();
    void fewPictures_orNobody_saysNothing();

private:
    static Marking seenFrom(const std::string& skill, View view, Hand hand)
    {
        sim::SimulateOptions o;
        o.skill = skill;
        o.camera.view = view;
        o.hand = hand;
        o.frameRate = 60;
        return sim::simulate(o)->truth;
    }
    static bool has(const std::vector<SceneDoubt>& doubts, SceneDoubt d)
    {
        return std::find(doubts.begin(), doubts.end(), d) != doubts.end();
    }
};

void SceneCheckTest::rightScene_ofAnySkillViewAndHand_isNotDoubted_wrongOnesOftenAre()
{
    const std::pair<View, View> mistakes[]{
        {View::Side, View::SideBack}, {View::SideBack, View::Side}, {View::Front, View::Rear}, {View::Rear, View::Front}};
    int films = 0, noticed = 0;
    for (const auto& skill : sim::simSkillIds()) {
        const bool leadIsDom = sim::loadSimSkill(skill)->dominant == sim::DominantSide::Lead;
        for (const Hand hand : {Hand::Right, Hand::Left})
            for (const auto& [real, taken] : mistakes) {
                const Marking m = seenFrom(skill, real, hand);
                QVERIFY2(
                    doubtsAboutScene(m.marks, m.scene).empty(),
                    (skill + " from " + std::string(wordOf(real)) + ", target " + std::string(wordOf(m.scene.target))).c_str());
                Scene wrong = m.scene;
                wrong.view = taken;
                wrong.target = usualTargetDirection(taken, hand, leadIsDom);
                ++films;
                noticed += !doubtsAboutScene(m.marks, wrong).empty();
            }
    }
    QCOMPARE(films, 88);
    QVERIFY2(noticed >= 60, qPrintable(QString::number(noticed)));
}

void SceneCheckTest::pitchFromTheSide_eachMistake_isSaid()
{
    const Marking m = seenFrom("overhand-pitch", View::Side, Hand::Right);
    QCOMPARE(m.scene.target, TargetDirection::Right);
    Scene scene = m.scene;
    scene.target = TargetDirection::Left;
    QVERIFY(has(doubtsAboutScene(m.marks, scene), SceneDoubt::OtherDirection));
    scene = m.scene;
    scene.view = View::SideBack;
    QVERIFY(has(doubtsAboutScene(m.marks, scene), SceneDoubt::ChestForBack));
    scene = {View::Front, TargetDirection::Toward, {0, -1}, {}};
    QVERIFY(has(doubtsAboutScene(m.marks, scene), SceneDoubt::AcrossPicture));

    std::vector<Mark> mirrored = m.marks; // the points keep their names
    for (auto& k : mirrored)
        k.at.x = m.film.width - k.at.x;
    const auto doubts = doubtsAboutScene(mirrored, m.scene);
    QVERIFY(has(doubts, SceneDoubt::OtherDirection) && has(doubts, SceneDoubt::BackForChest));
    for (const auto d : doubts)
        QVERIFY(!textOf(d).empty());
}

void SceneCheckTest::fromAbove_itSaysThatItSeesBadly()
{
    const Marking m = seenFrom("overhand-pitch", View::Overhead, Hand::Right);
    Scene wrong = m.scene; // which is not asked about: what is seen of the body is not to be trusted
    wrong.target = TargetDirection::Left;
    const auto doubts = doubtsAboutScene(m.marks, wrong);
    QCOMPARE(doubts.size(), 1U);
    QVERIFY(doubtsAboutScene({}, m.scene).empty());
    QVERIFY(QString::fromStdString(textOf(doubts.front())).startsWith(QStringLiteral("From above")));
}

void SceneCheckTest::fewPictures_orNobody_saysNothing()
{
    Marking m = seenFrom("overhand-pitch", View::Side, Hand::Right);
    m.scene.view = View::SideBack;
    m.scene.target = TargetDirection::Left;
    QVERIFY(doubtsAboutScene({}, m.scene).empty());
    m.marks.erase(std::remove_if(m.marks.begin(), m.marks.end(), [](const Mark& k) { return k.frame.value >= 19; }),
                  m.marks.end());
    QVERIFY(doubtsAboutScene(m.marks, m.scene).empty());
}

KESTREL_TEST(SceneCheckTest)
#include "scene_check_test.moc"
