#include "support/runner.h"
#include "window_fixture.h"

#include "sim/film_maker.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMimeData>
#include <QPushButton>

using namespace kestrel;
using namespace kestrel::test;

/// As a new user meets it: an empty library, all packs, mouse and keys. Add an athlete, make a day, choose the skill, drop two
/// films, place and mark, and take the page.
class WalkTest : public QObject {
    Q_OBJECT
private slots:
    void emptyLibraryToPage_data();
    void emptyLibraryToPage();

private:
    struct Filmed {
        Marking truth;
        QString file;
    };
    Filmed film(const std::string& skill, std::uint32_t seed, const QString& folder);
    void drop(Window&, const QStringList& files);
    void markByHand(Window&, const Marking& truth);
};

void WalkTest::emptyLibraryToPage_data()
{
    QTest::addColumn<QString>("typed");
    QTest::addColumn<QString>("skill");
    QTest::newRow("a serve") << QStringLiteral("serve") << QStringLiteral("overhead-serve");
    QTest::newRow("a jump shot") << QStringLiteral("jump") << QStringLiteral("jump-shot");
    QTest::newRow("a two-handed backhand") << QStringLiteral("two-h") << QStringLiteral("two-handed-backhand");
}

WalkTest::Filmed WalkTest::film(const std::string& skill, std::uint32_t seed, const QString& folder)
{
    sim::SimulateOptions o;
    o.skill = skill;
    o.frameRate = 60;
    o.size = {480, 360};
    o.motion.seed = seed;
    const auto made = simulated(o);
    const Filmed filmed{made.truth, folder + QStringLiteral("/%1-%2.mp4").arg(QString::fromStdString(skill)).arg(seed)};
    if (const auto saved = sim::saveClip(made, filmed.file.toStdString()); !saved)
        qFatal("%s", saved.error().text().c_str());
    return filmed;
}

void WalkTest::drop(Window& w, const QStringList& files)
{
    QMimeData dropped;
    QList<QUrl> urls;
    for (const auto& f : files)
        urls << QUrl::fromLocalFile(f);
    dropped.setUrls(urls);
    QDragEnterEvent enter({600, 500}, Qt::CopyAction, &dropped, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(w->roster(), &enter);
    QVERIFY(enter.isAccepted());
    QDropEvent drop({600, 500}, Qt::CopyAction, &dropped, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(w->roster(), &drop);
}

/// By keys and clicks, at the places where the truth says they are.
void WalkTest::markByHand(Window& w, const Marking& truth)
{
    auto& bench = w.bench();
    const Pack& pack = *bench.context.pack();
    for (std::size_t i = 0; i < pack.keyPositions.size(); ++i)
        if (const Event* e = findEvent(truth, pack.keyPositions[i].id)) {
            bench.player.setFrame(e->frame.nearest());
            w.press(Qt::Key_1 + static_cast<int>(i));
        }
    bench.scene.setKnownLength(truth.scene.scale->metres);
    w.press(Qt::Key_S);
    w.dragFilm(truth.scene.scale->from, truth.scene.scale->to);
    QVERIFY(bench.context.marking().scene.scale);
    w.press(Qt::Key_Home);
    w.press(Qt::Key_M);
    for (int presses = 0; presses < 400; ++presses) {
        const auto next = bench.marks.nextLandmark();
        if (!next) { // to the next key position, until there is none
            const auto before = bench.player.frame();
            w.press(Qt::Key_Escape);
            w.press(Qt::Key_Down);
            w.press(Qt::Key_M);
            if (bench.player.frame() == before)
                break;
            continue;
        }
        if (const Mark* m = findMark(truth, bench.player.frame(), *next))
            w.clickFilm(m->at);
        else
            w.press(Qt::Key_X); // it cannot be seen
    }
    QVERIFY(bench.context.marking().marks.size() > 10);
}

void WalkTest::emptyLibraryToPage()
{
    QFETCH(QString, typed);
    QFETCH(QString, skill);
    QTemporaryDir films;
    const Filmed one = film(skill.toStdString(), 1, films.path()), two = film(skill.toStdString(), 2, films.path());
    Window w;
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("welcomeAdd")), Qt::LeftButton);
    QTest::keyClicks(w.find<QLineEdit>(QStringLiteral("name")), QStringLiteral("Ida Vale"));
    QTest::keyClicks(w.find<QLineEdit>(QStringLiteral("birthDate")), QStringLiteral("2013-03-08"));
    w.find<QDoubleSpinBox>(QStringLiteral("height"))->setValue(*one.truth.athlete.heightMetres);
    w.find<QCheckBox>(QStringLiteral("consent"))->click();
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("save")), Qt::LeftButton);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("addDay")), Qt::LeftButton);
    w.answer(typed);
    drop(w, {one.file, two.file});
    const auto& library = w->workspace().library();
    const auto day = library.days().of(w->roster()->current())->front();
    QCOMPARE(QString::fromStdString(day.skill), skill);
    QTRY_COMPARE_WITH_TIMEOUT(library.clips().of(day.id)->size(), std::size_t{2}, 20000);
    const auto clips = *library.clips().of(day.id);
    const Pack& pack = *w->workspace().findPack(day.skill);
    QCOMPARE(clips.front().scene.view, pack.usualView());
    QCOMPARE(clips.front().scene.target, one.truth.scene.target); // guessed from hand and view, with no click

    auto* tile = w.tileOf(clips.front().id);
    QVERIFY(tile);
    QTest::mouseClick(tile, Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(w.bench().player.isOpen(), 10000);
    QCOMPARE(QString::fromStdString(w.bench().context.pack()->id), skill);
    markByHand(w, one.truth);
    w.press(Qt::Key_Escape);
    w.press(Qt::Key_C); // the day's next clip
    QTRY_VERIFY_WITH_TIMEOUT(w.bench().player.isOpen() && w.bench().context.clip().id == clips.back().id, 10000);
    markByHand(w, two.truth);

    const Review review = w.review();
    QCOMPARE(review.pack, skill.toStdString());
    QCOMPARE(review.repetitions, 2);
    int read = 0;
    for (const auto& r : review.readings)
        read += hasValue(r.verdict);
    QVERIFY2(read > 5, qPrintable(QString::number(read)));
    QTest::keyClick(&*w, Qt::Key_P, Qt::ControlModifier);
    QTRY_VERIFY_WITH_TIMEOUT(w->showView()->page()->isReady(), 20000);
    const auto& page = *w->showView()->page()->page();
    QVERIFY2(page.subtitle.find(pack.name) != std::string::npos, page.subtitle.c_str());
    QVERIFY2(page.honesty.find("2 repetitions on 2 clips") != std::string::npos, page.honesty.c_str());
    QVERIFY2(page.warnings.empty(), page.warnings.empty() ? "" : page.warnings.front().c_str());
    w->showView()->page()->save(films.filePath(QStringLiteral("page.pdf")));
    QTRY_VERIFY(QFileInfo(films.filePath(QStringLiteral("page.pdf"))).size() > 10'000);
}

KESTREL_TEST(WalkTest)
#include "walk_test.moc"
