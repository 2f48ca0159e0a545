#include "support/runner.h"

#include "core/base/unit.h"
#include "core/measure/verdict.h"
#include "core/scene/landmark.h"
#include "core/scene/marking.h"
#include "core/scene/point_role.h"

#include <QtTest>

using namespace kestrel;

class WordsTest : public QObject {
    Q_OBJECT
private slots:
    void landmark_everyName_readsBack();
    void landmark_wrongNames_areRefused_data();
    void landmark_wrongNames_areRefused();
    void pointRole_names_readBack_data();
    void pointRole_names_readBack();
    void pointRole_sides_followTheHand_data();
    void pointRole_sides_followTheHand();
    void verdict_words_readBack();
    void sceneWords_readBack();
    void unit_convert_data();
    void unit_convert();
    void shortNumber_atMostThreeDigits_data();
    void shortNumber_atMostThreeDigits();
};

void WordsTest::landmark_everyName_readsBack()
{
    QVERIFY(bodyLandmarks().size() >= 23); // 11 paired parts, nose and neck
    for (const auto& l : bodyLandmarks()) {
        const auto back = findLandmark(nameOf(l));
        QVERIFY2(back, nameOf(l).c_str());
        QCOMPARE(*back, l);
    }
    for (const auto* name : {"implement.tip", "implement.faceA", "ball", "ref.plate", "wrist.right"})
        QCOMPARE(nameOf(*findLandmark(name)), std::string(name));
}

void WordsTest::landmark_wrongNames_areRefused_data()
{
    QTest::addColumn<QString>("name");
    for (const auto* name : {"", ".", "wrist", "wrist.", "wrist.up", "nose.left", "elbow.right.left", "ref", "ref.",
                             "implement.edge", "WRIST.left", "wrist .left", "ball.left"})
        QTest::newRow(*name ? name : "empty") << QString::fromLatin1(name);
}

void WordsTest::landmark_wrongNames_areRefused()
{
    QFETCH(QString, name);
    QVERIFY(!findLandmark(name.toStdString()));
}

void WordsTest::pointRole_names_readBack_data()
{
    QTest::addColumn<QString>("name");
    for (const auto* name : {"knee.lead", "wrist.dom", "elbow.off", "ankle.trail", "head", "midHip", "midShoulder", "sternum",
                             "nose", "ball", "ref.plate"})
        QTest::newRow(name) << QString::fromLatin1(name);
}

void WordsTest::pointRole_names_readBack()
{
    QFETCH(QString, name);
    const auto role = findPointRole(name.toStdString());
    QVERIFY(role);
    QCOMPARE(nameOf(*role), name.toStdString());
    QVERIFY(!findPointRole("x" + name.toStdString()));
}

void WordsTest::pointRole_sides_followTheHand_data()
{
    QTest::addColumn<QString>("role");
    QTest::addColumn<QString>("rightHander");
    QTest::addColumn<QString>("leftHander");
    QTest::newRow("lead") << "knee.lead"
                          << "knee.left"
                          << "knee.right";
    QTest::newRow("trail") << "ankle.trail"
                           << "ankle.right"
                           << "ankle.left";
    QTest::newRow("dom") << "wrist.dom"
                         << "wrist.right"
                         << "wrist.left";
    QTest::newRow("off") << "wrist.off"
                         << "wrist.left"
                         << "wrist.right";
}

void WordsTest::pointRole_sides_followTheHand()
{
    QFETCH(QString, role);
    QFETCH(QString, rightHander);
    QFETCH(QString, leftHander);
    const auto point = findPointRole(role.toStdString());
    QVERIFY(point);
    QCOMPARE(nameOf(resolve(*point, Hand::Right)), rightHander.toStdString());
    QCOMPARE(nameOf(resolve(*point, Hand::Left)), leftHander.toStdString());
}

void WordsTest::verdict_words_readBack()
{
    const std::pair<Verdict, const char*> all[] = {{Verdict::OnTarget, "on_target"},
                                                   {Verdict::Near, "near"},
                                                   {Verdict::Off, "off"},
                                                   {Verdict::TooCloseToCall, "too_close_to_call"},
                                                   {Verdict::NotFromThisView, "not_from_this_view"},
                                                   {Verdict::NotMarked, "not_marked"},
                                                   {Verdict::TooFewFrames, "too_few_frames"}};
    for (const auto& [verdict, word] : all) { // the words are a promise to scripts
        QCOMPARE(std::string(wordOf(verdict)), std::string(word));
        QCOMPARE(findVerdict(word), std::optional(verdict));
        QVERIFY(!plainWordsOf(verdict).empty());
    }
    QVERIFY(!findVerdict("good"));
}

void WordsTest::sceneWords_readBack()
{
    for (const auto v : {View::Side, View::SideBack, View::Front, View::Rear, View::Overhead, View::Diagonal})
        QCOMPARE(findView(wordOf(v)), std::optional(v));
    for (const auto t : {TargetDirection::Left, TargetDirection::Right, TargetDirection::Away, TargetDirection::Toward})
        QCOMPARE(findTargetDirection(wordOf(t)), std::optional(t));
    for (const auto s : {Source::Coach, Source::Tracked, Source::Network, Source::Simulated})
        QCOMPARE(findSource(wordOf(s)), std::optional(s));
    QVERIFY(!findView("sideways") && !findHand("both") && !findSource(""));
    QCOMPARE(usualTargetDirection(View::Side, Hand::Right), TargetDirection::Right);
    QCOMPARE(usualTargetDirection(View::Side, Hand::Left), TargetDirection::Left);
    QCOMPARE(usualTargetDirection(View::Rear, Hand::Left), TargetDirection::Away);
    QCOMPARE(usualTargetDirection(View::Front, Hand::Right), TargetDirection::Toward);
}

void WordsTest::unit_convert_data()
{
    QTest::addColumn<double>("base");
    QTest::addColumn<QString>("unit");
    QTest::addColumn<double>("height"); // 0: none
    QTest::addColumn<double>("result"); // -1: empty
    QTest::newRow("degrees stay") << 42.0 << "deg" << 0.0 << 42.0;
    QTest::newRow("share of height") << 0.8 << "percent_height" << 1.6 << 50.0;
    QTest::newRow("no height, no share") << 0.8 << "percent_height" << 0.0 << -1.0;
    QTest::newRow("centimetres") << 0.125 << "cm" << 0.0 << 12.5;
    QTest::newRow("milliseconds") << 0.25 << "ms" << 0.0 << 250.0;
    QTest::newRow("metres") << 1.5 << "m" << 0.0 << 1.5;
    QTest::newRow("ratio") << 1.1 << "ratio" << 0.0 << 1.1;
}

void WordsTest::unit_convert()
{
    QFETCH(double, base);
    QFETCH(QString, unit);
    QFETCH(double, height);
    QFETCH(double, result);
    const auto u = findUnit(unit.toStdString());
    QVERIFY(u);
    const auto v = convert(base, *u, height > 0 ? std::optional(height) : std::nullopt);
    QCOMPARE(v.has_value(), result >= 0);
    if (v)
        QVERIFY(std::abs(*v - result) < 1e-9);
    QCOMPARE(std::string(wordOf(*u)), unit.toStdString());
}

void WordsTest::shortNumber_atMostThreeDigits_data()
{
    QTest::addColumn<double>("value");
    QTest::addColumn<QString>("text");
    QTest::newRow("hundreds") << 123.4 << "123";
    QTest::newRow("tens") << 82.4 << "82";
    QTest::newRow("ones") << 4.23 << "4.2";
    QTest::newRow("below one") << 0.944 << "0.94";
    QTest::newRow("zero has no sign") << -0.0001 << "0";
    QTest::newRow("negative") << -12.6 << "−13";
}

void WordsTest::shortNumber_atMostThreeDigits()
{
    QFETCH(double, value);
    QFETCH(QString, text);
    QCOMPARE(QString::fromStdString(shortNumber(value)), text);
}

KESTREL_TEST(WordsTest)
#include "words_test.moc"
