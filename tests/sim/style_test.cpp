#include "support/markings.h"
#include "support/runner.h"

#include "core/pack/pack_folder.h"
#include "sim/simulate.h"

#include <QtTest>

#include <cmath>

using namespace kestrel;
using namespace kestrel::test;

/// Other people's way of doing the same.
class StyleTest : public QObject {
    Q_OBJECT
private slots:
    void numberZero_isTheAthleteOfTheFile();
    void sameNumber_isTheSamePerson_otherNumber_anotherOne();
    void styles_differByWhatCoachesCallStyle();
    void fittedStyle_staysInsideTheBands_data();
    void fittedStyle_staysInsideTheBands();
    void redraws_makeAPartSmaller_untilNothingIsLeft();

private:
    static std::vector<sim::KeyPose> posesOf(std::uint32_t style, std::array<std::uint8_t, sim::kStyleParts> redraws = {})
    {
        auto poses = sim::loadSimSkill("overhand-pitch")->variants.front().poses;
        sim::apply(poses, sim::Style{style, redraws});
        return poses;
    }
};

void StyleTest::numberZero_isTheAthleteOfTheFile()
{
    const auto plain = sim::loadSimSkill("overhand-pitch")->variants.front().poses, styled = posesOf(0);
    for (std::size_t i = 0; i < plain.size(); ++i) {
        QCOMPARE(styled[i].seconds, plain[i].seconds);
        QCOMPARE(styled[i].pose.trunkLean, plain[i].pose.trunkLean);
    }
    QCOMPARE(sim::styled({}, {}).arms, 1.0);
}

void StyleTest::sameNumber_isTheSamePerson_otherNumber_anotherOne()
{
    const auto a = posesOf(7), again = posesOf(7), b = posesOf(8);
    QCOMPARE(a[3].pose.shoulderYaw, again[3].pose.shoulderYaw);
    QVERIFY(a[3].pose.shoulderYaw != b[3].pose.shoulderYaw);
    QVERIFY(sim::styled({}, {7, {}}).breadth != sim::styled({}, {8, {}}).breadth);
}

/// Over forty people: a typical angle is about four degrees off and never ten, a phase about a tenth longer or shorter and never
/// a quarter; the position from which time counts stays.
void StyleTest::styles_differByWhatCoachesCallStyle()
{
    const auto plain = posesOf(0);
    double angles = 0, phases = 0;
    int count = 0;
    for (std::uint32_t n = 1; n <= 40; ++n) {
        const auto styled = posesOf(n);
        for (std::size_t i = 1; i < plain.size(); ++i) {
            const double angle = std::abs(styled[i].pose.trunkLean - plain[i].pose.trunkLean);
            const double phase = (styled[i].seconds - styled[i - 1].seconds) / (plain[i].seconds - plain[i - 1].seconds) - 1;
            QVERIFY(angle < 11.1 && std::abs(phase) < 0.21);
            angles += angle * angle;
            phases += phase * phase;
            ++count;
            if (plain[i].seconds == 0)
                QVERIFY(std::abs(styled[i].seconds) < 1e-9);
        }
    }
    QVERIFY2(std::abs(std::sqrt(angles / count) - 4) < 1, qPrintable(QString::number(std::sqrt(angles / count))));
    QVERIFY2(std::abs(std::sqrt(phases / count) - 0.1) < 0.03, qPrintable(QString::number(std::sqrt(phases / count))));
}

void StyleTest::fittedStyle_staysInsideTheBands_data()
{
    QTest::addColumn<QString>("skill");
    for (const auto& id : sim::simSkillIds())
        QTest::newRow(id.c_str()) << QString::fromStdString(id);
}

void StyleTest::fittedStyle_staysInsideTheBands()
{
    QFETCH(QString, skill);
    const auto pack = findPack(skill.toStdString());
    sim::SimulateOptions o;
    o.skill = skill.toStdString();
    o.motion.style = sim::fitStyle(o, *pack, 5);
    QCOMPARE(o.motion.style.number, 5u);
    for (const auto& r : sim::trueReadings(o, *pack))
        if (r.value) {
            QVERIFY2(!r.low || *r.value >= *r.low, (r.measure + " " + std::to_string(*r.value)).c_str());
            QVERIFY2(!r.high || *r.value <= *r.high, (r.measure + " " + std::to_string(*r.value)).c_str());
        }
    int left = 0; // of the parts: it is still somebody else
    for (const auto redraws : o.motion.style.redraws)
        left += redraws < sim::kMostRedraws;
    QVERIFY(left >= 3);
}

void StyleTest::redraws_makeAPartSmaller_untilNothingIsLeft()
{
    std::array<std::uint8_t, sim::kStyleParts> none;
    none.fill(sim::kMostRedraws);
    const auto plain = posesOf(0), empty = posesOf(9, none);
    for (std::size_t i = 0; i < plain.size(); ++i) {
        QVERIFY(std::abs(empty[i].seconds - plain[i].seconds) < 1e-12);
        QCOMPARE(empty[i].pose.headYaw, plain[i].pose.headYaw);
    }
}

KESTREL_TEST(StyleTest)
#include "style_test.moc"
