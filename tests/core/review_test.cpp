#include "support/markings.h"
#include "support/runner.h"

#include "core/judge/review.h"

#include <QTemporaryDir>
#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

namespace {

/// Measures m1 to m4, each with band 0 to 10 and margin 2; faults f1 to f4 on them, above.
Pack smallPack()
{
    Pack p;
    p.id = "test";
    p.schools = {{"one", "One", ""}};
    p.keyPositions = {{"a", "A", "first"}};
    Drill drill;
    drill.id = "d1";
    drill.name = "Drill one";
    drill.steps = {"step"};
    drill.dose = "3 x 5";
    p.drills = {drill};
    for (const auto* n : {"1", "2", "3", "4"}) {
        Measure m;
        m.id = std::string("m") + n;
        m.name = std::string("Measure ") + n;
        m.kind = findMeasureKind("tilt");
        m.at = "a";
        m.margin = 2;
        m.bands = {{0.0, 10.0, Evidence::Taught, "", {}, {}}};
        m.praise = std::string("Praise ") + n + ".";
        p.measures.push_back(m);
        Fault f;
        f.id = std::string("f") + n;
        f.name = std::string("Fault ") + n;
        f.why = "It matters.";
        f.conditions = {{m.id, Beyond::Above}};
        f.cue = {"Child.", "Teen.", "Adult."};
        f.drills = {"d1"};
        p.faults.push_back(f);
    }
    return p;
}

Reading reading(const char* measure, double value, Verdict verdict, double uncertainty = 0.1)
{
    Reading r;
    r.measure = measure;
    r.keyPosition = "a";
    r.value = value;
    r.uncertainty = uncertainty;
    r.low = 0;
    r.high = 10;
    r.verdict = verdict;
    r.why = "because.";
    return r;
}

Review judge(const Pack& p, std::vector<Reading> readings, std::optional<double> age = 15.0)
{
    Marking m = plainMarking();
    m.athlete.age = age;
    return calcReview(p, {{m, std::move(readings), {}}}, {});
}

const FaultFinding* finding(const Review& r, const char* fault)
{
    for (const auto& f : r.faults)
        if (f.fault == fault)
            return &f;
    return nullptr;
}

} // namespace

class ReviewTest : public QObject {
    Q_OBJECT
private slots:
    void score_isTheProductSaid();
    void score_outsideIsCapped();
    void oneThing_theCauseBeatsItsEffects();
    void oneThing_linksThroughFaultsNotSeen();
    void oneThing_riskAndTeachability_decide();
    void oneThing_tie_goesByStage();
    void oneThing_nothingOff_isNone();
    void oneThing_why_namesNumbersAndEffects();
    void fault_wrongSide_isNotCalled();
    void fault_nearAndTooClose_areListedNotBlamed();
    void later_atMostTwo_withoutWhatIsExplained();
    void strengths_deepestFirst_onlyWithPraise();
    void leaveAlone_namesStyle();
    void habit_countsRepetitions();
    void canDoIt_isNamedByItsLabel();
    void pain_noAdviceIsGiven_readingsStay();
    void shadow_onTarget_saysTheyCanDoIt();
    void school_thatWouldJudgeOtherwise_isNamed();
    void tasks_asManyAsTheCoachSendsHome();
    void notYetTaught_isNext_neverBlamed();
    void rules_andRisk_areStopAndLook();
    void observation_off_callsItsFault();
    void age_growthAndEquipment_areSaid();
    void stopAndLook_comesBeforeAnyScore();
    void underTen_oneThingGoesHome();
    void cautions_areOfEveryCalledFault();
    void strengths_neverOfTheBlamedJoint_observationsCount();
    void leaveAlone_neverWhatAddsLoadOrBreaksRules();
    void observation_theUsualAnswerCounts_habitIsCounted();
    void observation_withoutFault_isSaid();
    void outcome_whatTellsThemApart_isSaid();
    void cue_followsTheVariant();
    void json_roundTrip();
    void json_holdsTheKeysScriptsRelyOn();
    void json_broken_isRefusedWithItsPlace_data();
    void json_broken_isRefusedWithItsPlace();
};

void ReviewTest::score_isTheProductSaid()
{
    Pack p = smallPack();
    p.faults[0].explains = {"f2", "f3"};
    p.faults[0].risk = 1.5;
    p.faults[0].teachable = {0.1, 0.2, 0.8, 1};
    const Review r =
        judge(p, {reading("m1", 13, Verdict::Off), reading("m2", 14, Verdict::Off), reading("m3", 15, Verdict::Off)});
    // 3 outside / margin 2 = 1.5; sure 1; explains two; risk 1.5; teachable to a teenager 0.8
    QVERIFY(std::abs(finding(r, "f1")->score - 1.5 * 1 * 3 * 1.5 * 0.8) < 1e-9);
    QVERIFY(std::abs(finding(r, "f2")->score - 2.0) < 1e-9);
}

void ReviewTest::score_outsideIsCapped()
{
    const Review r = judge(smallPack(), {reading("m1", 1000, Verdict::Off)});
    QVERIFY(std::abs(finding(r, "f1")->score - 3) < 1e-9);
}

void ReviewTest::oneThing_theCauseBeatsItsEffects()
{
    Pack p = smallPack();
    p.faults[0].explains = {"f2"};
    const Review r = judge(p, {reading("m1", 13, Verdict::Off), reading("m2", 14.5, Verdict::Off)});
    QCOMPARE(r.oneThing->fault, std::string("f1"));
    QCOMPARE(finding(r, "f1")->explains, std::vector<std::string>{"f2"});
    QCOMPARE(finding(r, "f2")->causedBy, std::vector<std::string>{"f1"});
    QVERIFY(r.later.empty()); // what it explains need not be worked on
}

void ReviewTest::oneThing_linksThroughFaultsNotSeen()
{
    Pack p = smallPack();
    p.faults[0].explains = {"f2"};
    p.faults[1].explains = {"f3"};
    const Review r =
        judge(p, {reading("m1", 13, Verdict::Off), reading("m2", 5, Verdict::OnTarget), reading("m3", 14, Verdict::Off)});
    QCOMPARE(finding(r, "f1")->explains, std::vector<std::string>{"f3"});
}

void ReviewTest::oneThing_riskAndTeachability_decide()
{
    Pack p = smallPack();
    p.faults[1].risk = 1.4; // more would be one to stop and look at
    const std::vector<Reading> both{reading("m1", 13, Verdict::Off), reading("m2", 13, Verdict::Off)};
    QCOMPARE(judge(p, both).oneThing->fault, std::string("f2"));
    p.faults[1].teachable = {0.1, 1, 1, 1}; // not yet for a child
    QCOMPARE(judge(p, both, 8.0).oneThing->fault, std::string("f1"));
    QCOMPARE(judge(p, both, 12.0).oneThing->fault, std::string("f2"));
}

void ReviewTest::oneThing_tie_goesByStage()
{
    Pack p = smallPack();
    p.faults[0].stage = RepairStage::Arm;
    p.faults[1].stage = RepairStage::Base;
    const Review r = judge(p, {reading("m1", 13, Verdict::Off), reading("m2", 13, Verdict::Off)});
    QCOMPARE(r.oneThing->fault, std::string("f2"));
}

void ReviewTest::oneThing_nothingOff_isNone()
{
    QVERIFY(!judge(smallPack(), {reading("m1", 5, Verdict::OnTarget)}).oneThing);
    QVERIFY(!judge(smallPack(), {}).oneThing);
    Pack p = smallPack();
    p.faults[0].teachable = {0, 0, 0, 0}; // to be taught later is flagged, never blamed
    QVERIFY(!judge(p, {reading("m1", 13, Verdict::Off)}).oneThing);
}

void ReviewTest::oneThing_why_namesNumbersAndEffects()
{
    Pack p = smallPack();
    p.faults[0].explains = {"f2"};
    const Review r = judge(p, {reading("m1", 14, Verdict::Off), reading("m2", 13, Verdict::Off)});
    for (const auto* part : {"Measure 1", "because.", "fault 2", "It matters."})
        QVERIFY2(r.oneThing->why.find(part) != std::string::npos, r.oneThing->why.c_str());
    QCOMPARE(r.oneThing->drills, std::vector<std::string>{"d1"});
}

void ReviewTest::fault_wrongSide_isNotCalled()
{
    const Review r = judge(smallPack(), {reading("m1", -8, Verdict::Off)});
    QVERIFY(r.faults.empty());
    QVERIFY(!r.oneThing);
}

void ReviewTest::fault_nearAndTooClose_areListedNotBlamed()
{
    const Review r = judge(smallPack(), {reading("m1", 11, Verdict::Near), reading("m2", 9.9, Verdict::TooCloseToCall, 0.5)});
    QCOMPARE(finding(r, "f1")->verdict, Verdict::Near);
    QCOMPARE(finding(r, "f2")->verdict, Verdict::TooCloseToCall);
    QVERIFY(!r.oneThing);
}

void ReviewTest::later_atMostTwo_withoutWhatIsExplained()
{
    const Review r = judge(smallPack(), {reading("m1", 16, Verdict::Off), reading("m2", 15, Verdict::Off),
                                         reading("m3", 14, Verdict::Off), reading("m4", 13, Verdict::Off)});
    QCOMPARE(r.oneThing->fault, std::string("f1"));
    QCOMPARE(r.later, (std::vector<std::string>{"f2", "f3"}));
}

void ReviewTest::strengths_deepestFirst_onlyWithPraise()
{
    Pack p = smallPack();
    p.measures[2].praise.clear();
    const Review r = judge(p, {reading("m1", 1, Verdict::OnTarget), reading("m2", 5, Verdict::OnTarget),
                               reading("m3", 5, Verdict::OnTarget), reading("m4", 9.9, Verdict::TooCloseToCall)});
    QCOMPARE(r.strengths.size(), std::size_t{2});
    QCOMPARE(r.strengths[0].measure, std::string("m2"));
    QCOMPARE(r.strengths[0].text, std::string("Praise 2."));
    QCOMPARE(r.strengths[1].measure, std::string("m1"));
}

void ReviewTest::leaveAlone_namesStyle()
{
    const Review r = judge(smallPack(), {reading("m1", 11, Verdict::Near)});
    QCOMPARE(r.leaveAlone.size(), std::size_t{1});
    QVERIFY(r.leaveAlone[0].find("Measure 1") != std::string::npos &&
            r.leaveAlone[0].find("leave it alone") != std::string::npos);
}

namespace {

bool says(const Review& r, RemarkKind kind, const char* words)
{
    return std::any_of(r.remarks.begin(), r.remarks.end(),
                       [&](const Remark& x) { return x.kind == kind && x.text.find(words) != std::string::npos; });
}

ReadRepetition repetitionWith(double m1, Verdict verdict, bool isLive = true)
{
    Marking m = plainMarking();
    m.isLive = isLive;
    return {m, {reading("m1", m1, verdict)}, {}};
}

} // namespace

void ReviewTest::habit_countsRepetitions()
{
    const auto off = [] { return repetitionWith(15, Verdict::Off); };
    const Review one = calcReview(smallPack(), {off()}, {});
    QVERIFY(says(one, RemarkKind::Habit, "1 of 1 repetition; that proves no habit. Film 2 more"));
    const Review many = calcReview(smallPack(), {off(), off(), off(), repetitionWith(5, Verdict::OnTarget)}, {});
    QVERIFY(says(many, RemarkKind::Habit, "3 of 4 repetitions: a habit"));
    QVERIFY(says(many, RemarkKind::CanDoIt, "on target in repetition 4"));
    QCOMPARE(finding(many, "f1")->habit, (Habit{3, 4}));
    QCOMPARE(many.repetitions, 4);
    QVERIFY(many.findReading("m1")->spread);
    QCOMPARE(many.findReading("m1")->spread->repetitions, 4);
    QVERIFY(says(many, RemarkKind::Repeatability, "standard deviation of 4 repetitions"));
    QVERIFY(!says(calcReview(smallPack(), {off()}, {}), RemarkKind::Repeatability, "real"));
}

void ReviewTest::canDoIt_isNamedByItsLabel()
{
    std::vector<ReadRepetition> three{repetitionWith(15, Verdict::Off), repetitionWith(16, Verdict::Off),
                                      repetitionWith(6, Verdict::OnTarget)};
    QVERIFY(says(calcReview(smallPack(), three, {}), RemarkKind::CanDoIt, "in repetition 3,"));
    three[2].label = "clip 2, repetition 1";
    QVERIFY(says(calcReview(smallPack(), three, {}), RemarkKind::CanDoIt, "in clip 2, repetition 1,"));
}

void ReviewTest::pain_noAdviceIsGiven_readingsStay()
{
    JudgeOptions options;
    options.pain = {BodyRegion::Elbow, BodyRegion::Back};
    options.tasks = 3;
    const Review r = calcReview(smallPack(), {repetitionWith(15, Verdict::Off)}, options);
    QVERIFY(!r.oneThing && r.alsoNow.empty() && r.later.empty() && r.next.empty());
    QVERIFY(r.stop.find("the elbow and the back") != std::string::npos);
    QVERIFY(r.stop.find("licensed clinician") != std::string::npos);
    QCOMPARE(*r.findReading("m1")->value, 15.0);
    QVERIFY(calcReview(smallPack(), {repetitionWith(15, Verdict::Off)}, {}).oneThing); // without pain there is
}

void ReviewTest::shadow_onTarget_saysTheyCanDoIt()
{
    const Review r = calcReview(smallPack(), {repetitionWith(5, Verdict::OnTarget, false), repetitionWith(15, Verdict::Off)}, {});
    QVERIFY(r.oneThing); // judged by the live one alone
    QVERIFY(says(r, RemarkKind::CanDoIt, "shadow swing"));
    const Review shadowsOnly = calcReview(smallPack(), {repetitionWith(5, Verdict::OnTarget, false)}, {});
    QVERIFY(!shadowsOnly.oneThing);
    QCOMPARE(shadowsOnly.readings.size(), std::size_t{1});
}

void ReviewTest::school_thatWouldJudgeOtherwise_isNamed()
{
    Pack p = smallPack();
    p.schools.push_back({"two", "The other way", ""});
    p.measures[0].bands.push_back({10.0, 20.0, Evidence::Taught, "two", {}, {}});
    const Review r = judge(p, {reading("m1", 15, Verdict::Off)});
    QVERIFY(says(r, RemarkKind::School, "on target for the school \"The other way\""));
    QVERIFY(!says(judge(p, {reading("m1", 40, Verdict::Off)}), RemarkKind::School, "other"));
}

void ReviewTest::tasks_asManyAsTheCoachSendsHome()
{
    const std::vector<Reading> all{reading("m1", 16, Verdict::Off), reading("m2", 15, Verdict::Off),
                                   reading("m3", 14, Verdict::Off), reading("m4", 13, Verdict::Off)};
    JudgeOptions options;
    options.tasks = 2;
    const Review r = calcReview(smallPack(), {{plainMarking(), all, {}}}, options);
    QCOMPARE(r.oneThing->fault, std::string("f1"));
    QCOMPARE(r.alsoNow.size(), std::size_t{1});
    QCOMPARE(r.alsoNow.front().fault, std::string("f2"));
    QCOMPARE(r.later, (std::vector<std::string>{"f3", "f4"}));
}

void ReviewTest::notYetTaught_isNext_neverBlamed()
{
    JudgeOptions options;
    options.notYetTaught = {"f1"};
    const std::vector<Reading> both{reading("m1", 16, Verdict::Off), reading("m2", 13, Verdict::Off)};
    const Review r = calcReview(smallPack(), {{plainMarking(), both, {}}}, options);
    QCOMPARE(r.oneThing->fault, std::string("f2"));
    QCOMPARE(r.next, (std::vector<std::string>{"f1"}));
    Pack young = smallPack();
    young.faults[1].teachable = {0, 1, 1, 1};
    QCOMPARE(judge(young, {reading("m2", 13, Verdict::Off)}, 8.0).next, (std::vector<std::string>{"f2"}));
    QVERIFY(!judge(young, {reading("m2", 13, Verdict::Off)}, 8.0).oneThing);
}

void ReviewTest::rules_andRisk_areStopAndLook()
{
    Pack p = smallPack();
    p.faults[0].costs = {Cost::Rules};
    p.faults[1].risk = 1.6;
    const Review r = judge(p, {reading("m1", 13, Verdict::Off), reading("m2", 13, Verdict::Off), reading("m3", 13, Verdict::Off),
                               reading("m4", 11, Verdict::Near)});
    QCOMPARE(finding(r, "f1")->severity, Severity::StopAndLook);
    QCOMPARE(finding(r, "f2")->severity, Severity::StopAndLook);
    QCOMPARE(finding(r, "f3")->severity, Severity::FixThis);
    QCOMPARE(finding(r, "f4")->severity, Severity::CouldBeBetter);
    QVERIFY(says(r, RemarkKind::Rules, "the official and the local code decide"));
}

void ReviewTest::observation_off_callsItsFault()
{
    Pack p = smallPack();
    p.observations = {{"eyes",
                       "Where are the eyes?",
                       "a",
                       {},
                       {},
                       {{"on", "on the target", Verdict::OnTarget, ""}, {"away", "away", Verdict::Off, ""}}}};
    p.faults[2].conditions = {{"eyes", Beyond::Either}};
    ReadRepetition one = repetitionWith(5, Verdict::OnTarget);
    one.marking.answers = {{"eyes", "away"}, {"unknown", "x"}};
    const Review r = calcReview(p, {one}, {});
    QVERIFY(r.oneThing);
    QCOMPARE(r.oneThing->fault, std::string("f3"));
    QVERIFY2(r.oneThing->why.find("Where are the eyes? away.") == 0, r.oneThing->why.c_str());
    QCOMPARE(r.observed.size(), std::size_t{1}); // what the pack does not ask is passed over
    p.variants = {"stretch", "windup"};          // answered before the variant was changed
    p.observations[0].variants = {"windup"};
    one.marking.variant = "stretch";
    QVERIFY(calcReview(p, {one}, {}).observed.empty() && !calcReview(p, {one}, {}).oneThing);
    one.marking.variant = "windup";
    QVERIFY(calcReview(p, {one}, {}).oneThing);
    one.marking.answers = {{"eyes", "on"}};
    QVERIFY(!calcReview(p, {one}, {}).oneThing);
}

void ReviewTest::age_growthAndEquipment_areSaid()
{
    Pack p = smallPack();
    p.equipment = {{9, "A smaller ball first."}};
    const std::vector<Reading> off{reading("m1", 16, Verdict::Off)};
    QVERIFY(says(judge(p, off, 8.0), RemarkKind::Equipment, "A smaller ball first."));
    QVERIFY(!says(judge(p, off, 12.0), RemarkKind::Equipment, "ball"));
    QVERIFY(says(judge(p, off, 12.0), RemarkKind::Growth, "body proportions"));
    QVERIFY(!says(judge(p, off, 18.0), RemarkKind::Growth, "body"));
}

void ReviewTest::stopAndLook_comesBeforeAnyScore()
{
    Pack p = smallPack();
    p.faults[1].costs = {Cost::Rules};
    const Review r = judge(p, {reading("m1", 16, Verdict::Off), reading("m2", 12.5, Verdict::Off)});
    QVERIFY(finding(r, "f1")->score > finding(r, "f2")->score);
    QCOMPARE(r.oneThing->fault, std::string("f2"));
    QCOMPARE(r.oneThing->severity, Severity::StopAndLook);
    QCOMPARE(judge(smallPack(), {reading("m1", 16, Verdict::Off)}).oneThing->severity, Severity::FixThis);
    p.faults[2].explains = {"f2"}; // what leads to it is worked on before it, and before the rest
    const Review caused =
        judge(p, {reading("m1", 16, Verdict::Off), reading("m2", 12.5, Verdict::Off), reading("m3", 13, Verdict::Off)});
    QCOMPARE(caused.oneThing->fault, std::string("f3"));
    QCOMPARE(caused.faults[1].fault, std::string("f2"));
}

void ReviewTest::underTen_oneThingGoesHome()
{
    const std::vector<Reading> off{reading("m1", 16, Verdict::Off), reading("m2", 15, Verdict::Off)};
    JudgeOptions three;
    three.tasks = 3;
    for (const auto& [age, more] : {std::pair{9.0, 0}, {10.0, 1}}) {
        Marking m = plainMarking();
        m.athlete.age = age;
        QCOMPARE(calcReview(smallPack(), {{m, off, {}}}, three).alsoNow.size(), static_cast<std::size_t>(more));
    }
}

void ReviewTest::cautions_areOfEveryCalledFault()
{
    Pack p = smallPack();
    for (std::size_t i = 0; i < 4; ++i)
        p.faults[i].caution = "Caution " + std::to_string(i + 1) + ".";
    const Review r = judge(p, {reading("m1", 16, Verdict::Off), reading("m2", 15, Verdict::Off), reading("m3", 14, Verdict::Off),
                               reading("m4", 11, Verdict::Near)});
    QCOMPARE(r.cautions.size(), std::size_t{3}); // one task, and still all three
    QCOMPARE(r.cautions[2].text, std::string("Caution 3."));
}

void ReviewTest::strengths_neverOfTheBlamedJoint_observationsCount()
{
    Pack p = smallPack();
    const auto knee = *findPointRole("knee.trail"), hip = *findPointRole("hip.trail"), ankle = *findPointRole("ankle.trail");
    p.measures[0].points = p.measures[1].points = {hip, knee, ankle};
    p.measures[2].points = {knee, hip, ankle};
    p.observations = {
        {"eyes", "Eyes?", "a", {}, {}, {{"on", "on it", Verdict::OnTarget, "Eyes on it."}, {"off", "off", Verdict::Off, ""}}}};
    Marking m = plainMarking();
    m.answers = {{"eyes", "on"}};
    const Review r = calcReview(
        p, {{m, {reading("m1", 16, Verdict::Off), reading("m2", 5, Verdict::OnTarget), reading("m3", 5, Verdict::OnTarget)}, {}}},
        {});
    QCOMPARE(r.strengths.size(), std::size_t{2}); // not the knee that is corrected
    QCOMPARE(r.strengths[0].measure, std::string("m3"));
    QCOMPARE(r.strengths[1].text, std::string("Eyes on it."));
}

void ReviewTest::leaveAlone_neverWhatAddsLoadOrBreaksRules()
{
    Pack p = smallPack();
    p.faults[0].costs = {Cost::Load};
    p.faults[1].costs = {Cost::Rules};
    p.faults[2].caution = "It can hurt.";
    const Review r = judge(p, {reading("m1", 11, Verdict::Near), reading("m2", 11, Verdict::Near),
                               reading("m3", 11, Verdict::Near), reading("m4", 11, Verdict::Near)});
    QCOMPARE(r.leaveAlone.size(), std::size_t{1});
    QVERIFY(r.leaveAlone[0].find("Measure 4") != std::string::npos);
}

void ReviewTest::observation_theUsualAnswerCounts_habitIsCounted()
{
    Pack p = smallPack();
    p.observations = {
        {"eyes", "Eyes?", "a", {}, {}, {{"on", "on it", Verdict::OnTarget, ""}, {"away", "away", Verdict::Off, ""}}}};
    p.faults[2].conditions = {{"eyes", Beyond::Either}};
    const auto answered = [](const char* choice) {
        ReadRepetition r = repetitionWith(5, Verdict::OnTarget);
        r.marking.answers = {{"eyes", choice}};
        return r;
    };
    QVERIFY(
        !calcReview(p, {answered("away"), answered("on"), answered("on")}, {}).oneThing); // the first one alone was heard before
    const Review r = calcReview(p, {answered("on"), answered("away"), answered("away")}, {});
    QCOMPARE(r.oneThing->fault, std::string("f3"));
    QCOMPARE(finding(r, "f3")->habit, (Habit{2, 3}));
    QCOMPARE(calcReview(p, {answered("on"), answered("away")}, {}).observed.front().choice, std::string("away"));
}

void ReviewTest::observation_withoutFault_isSaid()
{
    Pack p = smallPack();
    p.observations = {{"toes",
                       "Toes?",
                       "a",
                       {},
                       {},
                       {{"in", "in", Verdict::OnTarget, ""}, {"out", "out", Verdict::Off, "Toes at the plate."}}}};
    ReadRepetition one = repetitionWith(5, Verdict::OnTarget);
    one.marking.answers = {{"toes", "out"}};
    QVERIFY(says(calcReview(p, {one}, {}), RemarkKind::Seen, "Toes? out. Toes at the plate."));
    p.faults[2].conditions = {{"toes", Beyond::Either}};
    QVERIFY(!says(calcReview(p, {one}, {}), RemarkKind::Seen, "Toes"));
}

void ReviewTest::outcome_whatTellsThemApart_isSaid()
{
    const auto shot = [](const char* outcome, double m1, double m2) {
        Marking m = plainMarking();
        m.outcome = outcome;
        return ReadRepetition{m, {reading("m1", m1, Verdict::OnTarget), reading("m2", m2, Verdict::OnTarget)}, {}};
    };
    std::vector<ReadRepetition> day;
    for (int n = 0; n < 6; ++n) {
        day.push_back(shot("made", 8 + 0.1 * n, 5 + 0.5 * (n % 3)));
        day.push_back(shot("missed", 3 + 0.1 * n, 5 + 0.5 * (n % 2)));
    }
    QVERIFY(says(calcReview(smallPack(), day, {}), RemarkKind::ByOutcome, "Measure 1: made 8"));
    QVERIFY(says(calcReview(smallPack(), day, {}), RemarkKind::ByOutcome, "missed 3"));
    day.pop_back(); // five of one kind are too few
    QVERIFY(!says(calcReview(smallPack(), day, {}), RemarkKind::ByOutcome, ""));
    day.assign(6, shot("made", 5, 5));
    day.insert(day.end(), 6, shot("missed", 5, 5));
    QVERIFY(says(calcReview(smallPack(), day, {}), RemarkKind::ByOutcome, "Nothing that was read tells"));
}

void ReviewTest::cue_followsTheVariant()
{
    Pack p = smallPack();
    p.variants = {"wide", "narrow"};
    p.faults[0].variantCues = {{{"narrow"}, {"Feet kiss.", "Feet together.", "Feet together."}}};
    for (const auto& [variant, cue] : {std::pair{"wide", "Child."}, {"narrow", "Feet kiss."}}) {
        ReadRepetition one = repetitionWith(16, Verdict::Off);
        one.marking.variant = variant;
        QCOMPARE(calcReview(p, {one}, {}).oneThing->cue.child, std::string(cue));
    }
}

void ReviewTest::json_roundTrip()
{
    Review r = reviewOf(simulated(pitch(View::Side, {"head_drop"})).truth);
    r.readings.front().spread = Spread{3, 1.5, 0.25, 0.5};
    QTemporaryDir folder;
    const std::string file = folder.filePath(QStringLiteral("r.json")).toStdString();
    writeFile(file, toJson(r, pitchPack()).dump());
    const auto back = loadReview(file);
    QVERIFY2(back, back ? "" : back.error().text().c_str());
    QCOMPARE(back->oneThing->fault, r.oneThing->fault);
    QCOMPARE(back->readings.size(), r.readings.size());
    QVERIFY(back->strengths == r.strengths);
    QVERIFY(back->readings.front().spread == r.readings.front().spread);
    QVERIFY(!back->readings.back().spread);
    QCOMPARE(back->athlete.age, r.athlete.age);
    const Reading *a = back->findReading("head_dip"), *b = r.findReading("head_dip");
    QVERIFY(std::abs(*a->value - *b->value) < 0.01);
    QCOMPARE(a->figure.strokes.size(), b->figure.strokes.size()); // the page can be drawn from it
}

void ReviewTest::json_holdsTheKeysScriptsRelyOn()
{
    const auto json = toJson(reviewOf(simulated(pitch(View::Side, {"head_drop"})).truth), pitchPack());
    for (const auto* key : {"readings", "strengths", "faults", "oneThing", "later", "leaveAlone"})
        QVERIFY2(json.contains(key), key);
    for (const auto* key : {"measure", "keyPosition", "value", "uncertainty", "unit", "band", "verdict", "why"})
        QVERIFY2(json["readings"][0].contains(key), key);
    for (const auto* key : {"id", "verdict", "measures", "causedBy", "explains"})
        QVERIFY2(json["faults"][0].contains(key), key);
    for (const auto* key : {"fault", "cue", "drills", "why"})
        QVERIFY2(json["oneThing"].contains(key), key);
    for (const auto* voice : {"child", "teen", "adult"})
        QVERIFY(json["oneThing"]["cue"][voice].is_string());
    bool anyWithout = false;
    for (const auto& r : json["readings"])
        if (r["verdict"] == "not_from_this_view") {
            anyWithout = true;
            QVERIFY(r["value"].is_null() && r["uncertainty"].is_null());
        }
    QVERIFY(anyWithout);
    const auto calm = toJson(reviewOf(simulated(pitch()).truth), pitchPack());
    QVERIFY(calm["oneThing"].is_null());
}

void ReviewTest::json_broken_isRefusedWithItsPlace_data()
{
    QTest::addColumn<QString>("pointer");
    QTest::addColumn<QString>("value");
    QTest::newRow("verdict") << "/readings/0/verdict"
                             << "\"good\"";
    QTest::newRow("value as text") << "/readings/0/value"
                                   << "\"3\"";
    QTest::newRow("unit") << "/readings/0/unit"
                          << "\"furlong\"";
    QTest::newRow("readings") << "/readings"
                              << "3";
    QTest::newRow("format") << "/format"
                            << "\"jolly-kestrel/marking\"";
}

void ReviewTest::json_broken_isRefusedWithItsPlace()
{
    QFETCH(QString, pointer);
    QFETCH(QString, value);
    auto root = toJson(reviewOf(simulated(pitch(View::Side, {"head_drop"})).truth), pitchPack());
    root[nlohmann::json::json_pointer(pointer.toStdString())] = nlohmann::json::parse(value.toStdString());
    QTemporaryDir folder;
    const std::string file = folder.filePath(QStringLiteral("r.json")).toStdString();
    writeFile(file, root.dump());
    const auto back = loadReview(file);
    QVERIFY(!back);
    QVERIFY2(QString::fromStdString(back.error().text()).contains(pointer), back.error().text().c_str());
}

KESTREL_TEST(ReviewTest)
#include "review_test.moc"
