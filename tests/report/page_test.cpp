#include "support/markings.h"
#include "support/runner.h"

#include "look/figure_painter.h"
#include "look/film_image.h"
#include "look/fonts.h"
#include "report/page.h"
#include "report/page_output.h"

#include <QFontInfo>
#include <QPainter>
#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>

using namespace kestrel;
using namespace kestrel::report;
using namespace kestrel::test;

namespace {

Review headDropReview(std::optional<double> age = 13.0)
{
    auto o = pitch(View::Side, {"head_drop"});
    Marking m = simulated(o).truth;
    m.athlete.age = age;
    return reviewOf(m);
}

QImage grey(std::size_t, FrameIndex)
{
    QImage image(1280, 720, QImage::Format_RGB32);
    image.fill(QColor(120, 130, 120));
    return image;
}

Page pageOf(const Review& r, const PageFacts& facts = {"Juno", "2026-10-31", {}})
{
    return makePage(pitchPack(), r, facts, grey);
}

} // namespace

class PageTest : public QObject {
    Q_OBJECT
private slots:
    void page_holdsStrengthsTaskCautionAndWhatToFilm();
    void page_voice_followsTheAge_data();
    void page_voice_followsTheAge();
    void page_child_seesNoNumberWithoutASentence();
    void page_voice_canBeChosen();
    void page_secondTask_isSaidWithItsDrill();
    void page_nothingOff_saysSo();
    void page_nothingRead_saysSo();
    void page_oneRepetition_isHonest();
    void page_oneOfSeveral_saysHowOften_notHowItVaries();
    void page_because_isSaidToThePlayer();
    void page_notes_theWeightiestTwoForTheFamily();
    void page_filmMissing_lineDrawingsAndAWarning();
    void still_showsTheLineOnThePicture();
    void html_isOneFileWithoutTheNetwork();
    void html_escapesNames();
    void pdf_isOneA4PageWithTheWords();
    void savePage_wrongEndingOrPlace_saysSo_data();
    void savePage_wrongEndingOrPlace_saysSo();
    void everyFault_fitsOnOneSide_data();
    void everyFault_fitsOnOneSide();
    void tooMuchText_isNoticed();
    void extraPicture_isOnSheetAndWebPage();
    void figurePainter_drawsWhereItIsTold();
    void font_isTheShippedOne();
    void toImage_sharesThePixels();
};

void PageTest::page_holdsStrengthsTaskCautionAndWhatToFilm()
{
    const Review r = headDropReview();
    const Page p = pageOf(r);
    QCOMPARE(p.title, std::string("For Juno"));
    QVERIFY(p.subtitle.find("Overhand pitch") != std::string::npos && p.subtitle.find("13 years") != std::string::npos &&
            p.subtitle.find("Sat 31 October 2026") != std::string::npos);
    QCOMPARE(p.strengths.size(), std::size_t{2});
    for (const auto& s : p.strengths)
        QVERIFY(!s.text.empty() && !s.still.image.isNull());
    QVERIFY(p.task);
    QCOMPARE(p.task->cue, r.oneThing->cue.teen);
    QVERIFY(!p.task->still.image.isNull());
    QVERIFY(!p.task->drill.steps.empty() && !p.task->drill.dose.empty());
    QCOMPARE(p.caution, pitchPack().caution);
    QCOMPARE(p.filmNext, pitchPack().filmNext);
    QVERIFY(p.warnings.empty());
}

void PageTest::page_voice_followsTheAge_data()
{
    QTest::addColumn<double>("age"); // 0: not known
    QTest::addColumn<int>("voice");
    QTest::newRow("six") << 6.0 << static_cast<int>(Voice::Child);
    QTest::newRow("ten and a half") << 10.5 << static_cast<int>(Voice::Child);
    QTest::newRow("eleven") << 11.0 << static_cast<int>(Voice::Teen);
    QTest::newRow("eighteen") << 18.9 << static_cast<int>(Voice::Teen);
    QTest::newRow("thirty") << 30.0 << static_cast<int>(Voice::Adult);
    QTest::newRow("not known") << 0.0 << static_cast<int>(Voice::Teen);
}

void PageTest::page_voice_followsTheAge()
{
    QFETCH(double, age);
    QFETCH(int, voice);
    const Review r = headDropReview(age > 0 ? std::optional(age) : std::nullopt);
    const Page p = pageOf(r);
    QCOMPARE(static_cast<int>(p.voice), voice);
    const Cue& cue = r.oneThing->cue;
    QCOMPARE(p.task->cue, p.voice == Voice::Child ? cue.child : p.voice == Voice::Teen ? cue.teen : cue.adult);
}

void PageTest::page_child_seesNoNumberWithoutASentence()
{
    const Page p = pageOf(headDropReview(8.0));
    QVERIFY2(p.task->because.find_first_of("0123456789") == std::string::npos, p.task->because.c_str());
    QVERIFY2(p.task->because.find("band") == std::string::npos, p.task->because.c_str());
}

void PageTest::page_voice_canBeChosen()
{
    const Review r = headDropReview(8.0);
    QCOMPARE(pageOf(r, {"", "", Voice::Adult}).task->cue, r.oneThing->cue.adult);
}

void PageTest::page_secondTask_isSaidWithItsDrill()
{
    Review r = headDropReview();
    QVERIFY(pageOf(r).also.empty());
    const Fault& second = pitchPack().faults.back();
    r.alsoNow.push_back({second.id, second.cue, second.drills, "because"});
    const Page p = pageOf(r);
    QCOMPARE(p.also.size(), std::size_t(1));
    const Drill* drill = pitchPack().findDrill(second.drills.front());
    QCOMPARE(p.also.front(), second.cue.teen + " Drill: " + drill->name + ", " + drill->dose + ".");
    QVERIFY(toHtml(p).find("Then: " + second.cue.teen) != std::string::npos);
}

void PageTest::page_nothingOff_saysSo()
{
    const Page p = pageOf(reviewOf(simulated(pitch()).truth));
    QVERIFY(!p.task);
    QVERIFY2(p.noTask.find("Nothing here is clearly off") != std::string::npos, p.noTask.c_str());
    QVERIFY(toHtml(p).find(p.noTask) != std::string::npos);
}

void PageTest::page_nothingRead_saysSo()
{
    const Page p = pageOf(reviewOf(plainMarking()));
    QVERIFY(!p.task && p.strengths.empty());
    QVERIFY2(p.noTask.find("Too little is marked") != std::string::npos, p.noTask.c_str());
}

void PageTest::page_oneRepetition_isHonest()
{
    QVERIFY(pageOf(headDropReview()).honesty.find("One repetition proves nothing") != std::string::npos);
    Review typical = headDropReview();
    typical.repetitions = 4;
    QVERIFY(pageOf(typical).honesty.find("4 repetitions") != std::string::npos);
}

void PageTest::page_oneOfSeveral_saysHowOften_notHowItVaries()
{
    Review shown = headDropReview();
    shown.readings.front().spread = Spread{3, 1, 1, 1};
    shown.repetitions = 3;
    shown.films = {"one.mp4", "two.mp4", "two.mp4"};
    shown.remarks = {{RemarkKind::Habit, "Seen in 3 of 3 repetitions: a habit."},
                     {RemarkKind::Repeatability, "Head drop varies by 1 %."},
                     {RemarkKind::School, "Another school would allow it."}};
    const std::string honesty = pageOf(shown).honesty;
    QVERIFY2(honesty.find("typical one of 3 repetitions on 2 clips. Seen in 3 of 3") != std::string::npos, honesty.c_str());
    QVERIFY(honesty.find("varies") == std::string::npos); // that is for the coach
    QVERIFY(honesty.find("school") == std::string::npos);
}

void PageTest::page_because_isSaidToThePlayer()
{
    Review r = headDropReview();
    const Fault& head = *pitchPack().findFault("head_drop");
    const auto called =
        std::find_if(r.faults.begin(), r.faults.end(), [](const FaultFinding& f) { return f.fault == "head_drop"; });
    QVERIFY(called != r.faults.end());
    r.oneThing = OneThing{head.id, head.cue, head.drills, "Figures.", Severity::FixThis};
    called->explains.clear();
    QCOMPARE(pageOf(r).task->because, "Your head drops on the way to the plate. " + head.why);
    called->explains = {"pulls_off_line"};
    QCOMPARE(pageOf(r).task->because,
             "Your head drops on the way to the plate, so your head leaves the line to the plate. " + head.why);
    QCOMPARE(pageOf(r).task->severity, std::string("fix this"));
    QVERIFY2(pageOf(r).task->otherDrill.find("Or instead: ") == 0, pageOf(r).task->otherDrill.c_str());
    const Fault& risky = *pitchPack().findFault("late_arm");
    QVERIFY(!risky.caution.empty());
    r.oneThing = OneThing{risky.id, risky.cue, risky.drills, "Figures.", Severity::StopAndLook};
    r.cautions.clear(); // as in a review written before there was a list
    QVERIFY(pageOf(r).task->caution.find(risky.caution) != std::string::npos);
    r.cautions = {{"late_arm", "It adds load to the elbow."}}; // of a fault that is not the one thing
    QVERIFY(pageOf(r).task->caution.find("It adds load to the elbow.") != std::string::npos);
}

void PageTest::page_notes_theWeightiestTwoForTheFamily()
{
    Review r = headDropReview();
    r.remarks = {{RemarkKind::School, "school"},
                 {RemarkKind::Growth, "growth"},
                 {RemarkKind::CanDoIt, "can"},
                 {RemarkKind::Rules, "rules"}};
    QCOMPARE(pageOf(r).notes, (std::vector<std::string>{"rules", "can"}));
    r.remarks = {{RemarkKind::Rules, "The official decides."}};
    QVERIFY(toHtml(pageOf(r)).find("The official decides.") != std::string::npos); // the web page says what the sheet says
}

void PageTest::page_filmMissing_lineDrawingsAndAWarning()
{
    const Review r = headDropReview();
    const Page unreadable = makePage(pitchPack(), r, {}, [](std::size_t, FrameIndex) { return QImage(); });
    QVERIFY(!unreadable.warnings.empty());
    QVERIFY(!unreadable.task->still.image.isNull());
    const Page none = makePage(pitchPack(), r, {}, {});
    QVERIFY(none.warnings.empty()); // no film was promised
    QVERIFY(!none.task->still.image.isNull());
}

void PageTest::still_showsTheLineOnThePicture()
{
    const Page p = pageOf(headDropReview());
    const QImage& still = p.task->still.image;
    int bright = 0;
    for (int y = 0; y < still.height(); ++y)
        for (int x = 0; x < still.width(); ++x) {
            const QColor c = still.pixelColor(x, y);
            bright += c.red() > 200 && c.green() > 130 && c.blue() < 60; // the eye-ring tone
        }
    QVERIFY2(bright > 300, qPrintable(QString::number(bright)));
}

void PageTest::html_isOneFileWithoutTheNetwork()
{
    const std::string html = toHtml(pageOf(headDropReview()));
    QVERIFY(html.find("<!doctype html>") == 0);
    for (const auto* outside : {"http:", "https:", "<script", "<link", "@import", "url("})
        QVERIFY2(html.find(outside) == std::string::npos, outside);
    QCOMPARE(QString::fromStdString(html).count(QStringLiteral("data:image/jpeg;base64,")), 3);
    for (const auto& part : {pitchPack().caution, std::string("Ride tall"), std::string("Already good")})
        QVERIFY2(html.find(QString::fromStdString(part).toHtmlEscaped().toStdString()) != std::string::npos, part.c_str());
}

void PageTest::html_escapesNames()
{
    const std::string html = toHtml(pageOf(headDropReview(), {"<img src=x onerror=alert(1)> & Co", "", {}}));
    QVERIFY(html.find("<img src=x") == std::string::npos);
    QVERIFY(html.find("&lt;img src=x onerror=alert(1)&gt; &amp; Co") != std::string::npos);
}

void PageTest::pdf_isOneA4PageWithTheWords()
{
    QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("page.pdf"));
    const Page p = pageOf(headDropReview());
    QVERIFY(saveDocument(documentOf(p), file.toStdString()));
    QProcess info;
    info.start(QStringLiteral("pdfinfo"), {file});
    QVERIFY(info.waitForFinished());
    const QString facts = QString::fromUtf8(info.readAllStandardOutput());
    QVERIFY2(facts.contains(QRegularExpression(QStringLiteral("Pages:\\s+1\\b"))), qPrintable(facts));
    QVERIFY2(facts.contains(QStringLiteral("(A4)")), qPrintable(facts));
    QProcess words;
    words.start(QStringLiteral("pdftotext"), {QStringLiteral("-layout"), file, QStringLiteral("-")});
    QVERIFY(words.waitForFinished());
    const QString text = QString::fromUtf8(words.readAllStandardOutput()).simplified();
    for (const auto* part :
         {"For Juno", "Already good", "The one thing", "Ride tall on the back leg", "Film next", "licensed clinician"})
        QVERIFY2(text.contains(QLatin1String(part)), part);
}

void PageTest::savePage_wrongEndingOrPlace_saysSo_data()
{
    QTest::addColumn<QString>("file");
    QTest::addColumn<int>("code");
    QTest::newRow("ending") << "/tmp/page.doc" << static_cast<int>(ErrorCode::BadArgument);
    QTest::newRow("no ending") << "/tmp/page" << static_cast<int>(ErrorCode::BadArgument);
    QTest::newRow("pdf nowhere") << "/proc/none/page.pdf" << static_cast<int>(ErrorCode::CannotWrite);
    QTest::newRow("html nowhere") << "/proc/none/page.html" << static_cast<int>(ErrorCode::CannotWrite);
}

void PageTest::savePage_wrongEndingOrPlace_saysSo()
{
    QFETCH(QString, file);
    QFETCH(int, code);
    const auto saved = saveDocument(documentOf(pageOf(headDropReview())), file.toStdString());
    QVERIFY(!saved);
    QCOMPARE(static_cast<int>(saved.error().code), code);
    QVERIFY(saved.error().text().find(file.toStdString()) != std::string::npos);
}

void PageTest::everyFault_fitsOnOneSide_data()
{
    QTest::addColumn<QString>("fault");
    for (const auto& f : pitchPack().faults)
        QTest::newRow(f.id.c_str()) << QString::fromStdString(f.id);
}

/// The foot's caution keeps its own ground: what stands above it ends before its rule.
void PageTest::everyFault_fitsOnOneSide()
{
    QFETCH(QString, fault);
    Review r = headDropReview();
    const Fault& f = *pitchPack().findFault(fault.toStdString());
    r.oneThing = OneThing{f.id, f.cue, f.drills,
                          "A measure with a name: 123 % of height is 45 % of height above the band, 67 to 89 % of height. It "
                          "also explains: this and that. " +
                              f.why};
    r.later = {"head_drop", "short_stride"};
    QImage sheet(840, 1188, QImage::Format_RGB32);
    QPainter painter(&sheet);
    QVERIFY(paintPage(painter, pageOf(r), QRectF(sheet.rect())));
}

/// As large as there is room; without any it is left out, and that is noticed.
void PageTest::extraPicture_isOnSheetAndWebPage()
{
    QImage red(300, 200, QImage::Format_RGB32);
    red.fill(qRgb(250, 10, 10));
    const auto redOn = [&](const Page& page, bool& isWhole) {
        QImage sheet(840, 1188, QImage::Format_RGB32);
        sheet.fill(Qt::white);
        QPainter painter(&sheet);
        isWhole = paintPage(painter, page, QRectF(sheet.rect()));
        int count = 0;
        for (int y = 0; y < sheet.height(); ++y)
            for (int x = 0; x < sheet.width(); ++x)
                count += sheet.pixel(x, y) == qRgb(250, 10, 10);
        return count;
    };
    Page page = pageOf(headDropReview());
    page.task->still = {};
    page.task->drill.steps.resize(1);
    bool isWhole = false;
    QCOMPARE(redOn(page, isWhole), 0);
    QVERIFY(isWhole);
    page.extra = {red, "Between 3 and 4 degrees."};
    QVERIFY(redOn(page, isWhole) > 100 * 100);
    QVERIFY(isWhole);
    QVERIFY(toHtml(page).find("Between 3 and 4 degrees.") != std::string::npos);
    for (int i = 0; i < 22; ++i)
        page.task->drill.steps.push_back("Another step that takes its line.");
    QCOMPARE(redOn(page, isWhole), 0);
    QVERIFY(!isWhole);
}

void PageTest::tooMuchText_isNoticed()
{
    Page p = pageOf(headDropReview());
    for (int i = 0; i < 60; ++i)
        p.task->drill.steps.push_back("One step more than anybody will read at home on a Tuesday.");
    QImage sheet(840, 1188, QImage::Format_RGB32);
    QPainter painter(&sheet);
    QVERIFY(!paintPage(painter, p, QRectF(sheet.rect())));
}

void PageTest::figurePainter_drawsWhereItIsTold()
{
    QImage image(400, 300, QImage::Format_RGB32);
    image.fill(Qt::black);
    Figure figure;
    figure.strokes = {{Stroke::Kind::Segment, {{10, 10}, {20, 10}}},
                      {Stroke::Kind::Dot, {{40, 30}}},
                      {Stroke::Kind::Arc, {{5, 5}, {5, 5}, {5, 5}}},
                      {Stroke::Kind::Segment, {}}};
    QPainter painter(&image);
    look::paintFigure(painter, figure, QTransform::fromScale(5, 5), QStringLiteral("47°"), QColor(255, 160, 0), 1);
    painter.end();
    QVERIFY(image.pixelColor(75, 50).red() > 200);   // on the segment, scaled
    QVERIFY(image.pixelColor(200, 150).red() > 200); // the dot
    QCOMPARE(image.pixelColor(75, 90), QColor(Qt::black));
}

void PageTest::font_isTheShippedOne()
{
    QCOMPARE(QFontInfo(look::font(13)).family(), QStringLiteral("Inter"));
    QVERIFY(QFontMetricsF(look::font(20)).height() > QFontMetricsF(look::font(10)).height());
}

void PageTest::toImage_sharesThePixels()
{
    QVERIFY(look::toImage({}).isNull());
    media::Picture p;
    p.size = {2, 1};
    p.stride = 8;
    p.pixels = std::shared_ptr<const std::uint8_t[]>(new std::uint8_t[8]{10, 20, 30, 255, 40, 50, 60, 255});
    QImage image = look::toImage(p);
    QCOMPARE(image.pixelColor(0, 0), QColor(30, 20, 10));
    QCOMPARE(static_cast<const void*>(image.constBits()), static_cast<const void*>(p.pixels.get()));
    p.pixels.reset();
    QCOMPARE(image.pixelColor(1, 0), QColor(60, 50, 40)); // the image keeps them alive
}

KESTREL_TEST(PageTest)
#include "page_test.moc"
