#include "support/runner.h"
#include "window_fixture.h"

#include "app/bench/gauge.h"
#include "app/bench/sequence_chart.h"
#include "app/packs/packs_view.h"
#include "app/shell/settings.h"
#include "app/shell/theme.h"
#include "core/base/json_reader.h"

#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTabBar>

using namespace kestrel;
using namespace kestrel::test;

/// Packs of the coach's own, and what the bench asks and shows of them.
class PacksTest : public QObject {
    Q_OBJECT
private slots:
    void init();
    void cleanup() { m_window.reset(); }

    void shipped_cannotBeTypedInto();
    void makeItMine_copiesWithItsDrills_undoTakesItBack();
    void band_edited_isStored_andJudgesAnew_undoRestores();
    void band_unsound_isSaid_andNotStored();
    void cue_tooLong_isSaidWhileTyping();
    void school_added_canHaveABand();
    void drill_edited_isStored();
    void exportAndImport_goRound();
    void import_idThatNamesAnotherFolder_isRefused();
    void editedByHand_undoGivesItBackToTheLetter();
    void brokenPack_leavesTheOthersWorking();
    void observation_answered_isStored_callsItsFault_undo();
    void sequence_isDrawnWithItsSentence();
    void tasks_setToTwo_secondCueIsShown();
    void reportedMeasure_saysReported();

private:
    Window& window() { return *m_window; }
    template <class W> W* find(const char* name) { return view()->findChild<W*>(QLatin1String(name)); }
    app::PacksView* view() { return (*m_window)->packs(); }
    QString ownFile() { return m_window->folder() + QStringLiteral("/packs/overhand-pitch.json"); }
    nlohmann::json stored() { return nlohmann::json::parse(contentOf(ownFile().toStdString())); }
    /// The form of the item with that name.
    void open(int section, const QString& name);
    void type(QLineEdit* edit, const QString& text);
    void markAll(store::ClipId);
    std::unique_ptr<Window> m_window;
};

void PacksTest::init()
{
    m_window = std::make_unique<Window>();
    (*m_window)->goTo(app::MainWindow::Place::Packs);
    view()->choose("overhand-pitch");
}

void PacksTest::open(int section, const QString& name)
{
    find<QTabBar>("sections")->setCurrentIndex(section);
    auto* items = find<QListWidget>("items");
    const auto found = items->findItems(name, Qt::MatchExactly);
    QVERIFY2(!found.isEmpty(), qPrintable(name));
    items->setCurrentItem(found.front());
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
}

void PacksTest::type(QLineEdit* edit, const QString& text)
{
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, text);
    QTest::keyClick(edit, Qt::Key_Return);
}

void PacksTest::markAll(store::ClipId clip)
{
    const auto& truth = filmedPitch().truth.truth;
    Marking m;
    m.events = truth.events;
    m.marks = truth.marks;
    for (auto& mark : m.marks)
        mark.sigma = 0.5;
    auto library = store::Library::open(m_window->folder().toStdString());
    QVERIFY(library->marks().addMarking(clip, m));
    QVERIFY(m_window->openOnBench(clip));
}

void PacksTest::shipped_cannotBeTypedInto()
{
    open(0, QStringLiteral("Stride"));
    QVERIFY(find<QLineEdit>("field_low")->isReadOnly());
    QVERIFY(find<QPushButton>("makeItMine")->isVisible());
    QVERIFY(!find<QPushButton>("backToShipped")->isVisible());
}

void PacksTest::makeItMine_copiesWithItsDrills_undoTakesItBack()
{
    QTest::mouseClick(find<QPushButton>("makeItMine"), Qt::LeftButton);
    QVERIFY(QFile::exists(ownFile()));
    const auto pack = stored();
    for (const auto& d : pack.at("drills"))
        QVERIFY(d.is_object()); // needs no other file
    QVERIFY(find<QListWidget>("packs")->currentItem()->text().contains(QStringLiteral("yours")));
    QTest::keyClick(&**m_window, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(QTest::qWaitFor([&] { return !QFile::exists(ownFile()); }));
}

void PacksTest::band_edited_isStored_andJudgesAnew_undoRestores()
{
    const auto clip = m_window->addFilmedPitch();
    markAll(clip);
    const auto verdict = [&] { return m_window->review().findReading("trunk_lean_lift")->verdict; };
    QVERIFY(verdict() != Verdict::Off);
    (*m_window)->goTo(app::MainWindow::Place::Packs);
    QTest::mouseClick(find<QPushButton>("makeItMine"), Qt::LeftButton);
    open(0, QStringLiteral("Trunk upright at the lift"));
    type(find<QLineEdit>("field_low"), QStringLiteral("-60"));
    type(find<QLineEdit>("field_high"), QStringLiteral("-40"));
    const auto bandOf = [&] {
        const auto pack = stored();
        for (const auto& m : pack.at("measures"))
            if (m.at("id") == "trunk_lean_lift")
                return m.at("bands").at(0);
        return nlohmann::json();
    };
    QCOMPARE(bandOf().at("high").get<double>(), -40.0);
    QCOMPARE(verdict(), Verdict::Off);
    (*m_window)->workspace().undoStack().undo();
    QCOMPARE(bandOf().at("high").get<double>(), 6.0);
    QVERIFY(verdict() != Verdict::Off);
}

void PacksTest::band_unsound_isSaid_andNotStored()
{
    QTest::mouseClick(find<QPushButton>("makeItMine"), Qt::LeftButton);
    const auto before = contentOf(ownFile().toStdString());
    open(0, QStringLiteral("Stride"));
    type(find<QLineEdit>("field_low"), QStringLiteral("99"));
    QVERIFY2(find<QLabel>("packWrong")->text().contains(QStringLiteral("low is not below high")),
             qPrintable(find<QLabel>("packWrong")->text()));
    type(find<QLineEdit>("field_low"), QStringLiteral("about 70"));
    QVERIFY(find<QLabel>("packWrong")->text().contains(QStringLiteral("number")));
    QCOMPARE(contentOf(ownFile().toStdString()), before);
    type(find<QLineEdit>("field_low"), QStringLiteral("65"));
    QVERIFY(find<QLabel>("packWrong")->text().isEmpty());
    QVERIFY(contentOf(ownFile().toStdString()) != before);
}

void PacksTest::cue_tooLong_isSaidWhileTyping()
{
    QTest::mouseClick(find<QPushButton>("makeItMine"), Qt::LeftButton);
    open(1, QStringLiteral("The head drops"));
    auto* child = find<QLineEdit>("field_child");
    child->selectAll();
    QTest::keyClicks(child, QStringLiteral("one two three four five six seven eight nine ten eleven twelve thirteen"));
    QVERIFY2(find<QLabel>("packWrong")->text().contains(QStringLiteral("13 words")),
             qPrintable(find<QLabel>("packWrong")->text()));
}

void PacksTest::school_added_canHaveABand()
{
    QTest::mouseClick(find<QPushButton>("makeItMine"), Qt::LeftButton);
    find<QTabBar>("sections")->setCurrentIndex(2);
    const auto schools = stored().at("schools").size();
    QTest::mouseClick(find<QPushButton>("addSchool"), Qt::LeftButton);
    QCOMPARE(stored().at("schools").size(), schools + 1);
    open(0, QStringLiteral("Stride"));
    const auto* combo = find<QComboBox>("field_school");
    QVERIFY(combo->findText(QStringLiteral("My way")) > 0);
    QTest::mouseClick(find<QPushButton>("addBand"), Qt::LeftButton);
    QVERIFY((*m_window)->workspace().findPack("overhand-pitch")->findMeasure("stride_length")->bands.size() >= 3);
}

void PacksTest::drill_edited_isStored()
{
    QTest::mouseClick(find<QPushButton>("makeItMine"), Qt::LeftButton);
    const auto& drill = (*m_window)->workspace().findPack("overhand-pitch")->drills.back();
    open(3, QString::fromStdString(drill.name));
    type(find<QLineEdit>("field_dose"), QStringLiteral("1 x 4, at a walk"));
    QCOMPARE((*m_window)->workspace().findPack("overhand-pitch")->drills.back().dose, std::string("1 x 4, at a walk"));
}

void PacksTest::exportAndImport_goRound()
{
    QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("given.json"));
    QVERIFY(view()->exportTo(file));
    auto pack = nlohmann::json::parse(contentOf(file.toStdString()));
    pack["id"] = "club-pitch";
    pack["name"] = "Club pitch";
    writeFile(file.toStdString(), pack.dump());
    QVERIFY(view()->importFrom(file));
    const Pack* imported = (*m_window)->workspace().findPack("club-pitch");
    QVERIFY(imported);
    QCOMPARE(imported->drills.size(), pitchPack().drills.size());
    pack["measures"][0]["bands"] = nlohmann::json::array();
    writeFile(file.toStdString(), pack.dump());
    const auto refused = view()->importFrom(file);
    QVERIFY(!refused);
    QVERIFY2(QString::fromStdString(refused.error().place).startsWith(QStringLiteral("/measures/0/bands")),
             refused.error().text().c_str());
    QVERIFY((*m_window)->workspace().findPack("club-pitch")); // what was there stays
}

void PacksTest::import_idThatNamesAnotherFolder_isRefused()
{
    QTemporaryDir folder;
    const auto file = folder.filePath(QStringLiteral("evil.json"));
    auto pack = nlohmann::json::parse(contentOf(pitchPack().file));
    pack["id"] = "../evil";
    writeFile(file.toStdString(), pack.dump());
    const auto refused = view()->importFrom(file);
    QVERIFY(!refused);
    QCOMPARE(refused.error().place, std::string("/id"));
    QVERIFY(!QFile::exists(m_window->folder() + QStringLiteral("/evil.json")));
}

void PacksTest::editedByHand_undoGivesItBackToTheLetter()
{
    QDir(m_window->folder()).mkpath(QStringLiteral("packs"));
    const std::string byHand = "  " + contentOf(pitchPack().file) + "\n\n";
    writeFile(ownFile().toStdString(), byHand);
    m_window->restart();
    (*m_window)->goTo(app::MainWindow::Place::Packs);
    view()->choose("overhand-pitch");
    open(0, QStringLiteral("Stride"));
    type(find<QLineEdit>("field_low"), QStringLiteral("61"));
    QVERIFY(contentOf(ownFile().toStdString()) != byHand);
    (*m_window)->workspace().undoStack().undo();
    QCOMPARE(contentOf(ownFile().toStdString()), byHand);
}

void PacksTest::brokenPack_leavesTheOthersWorking()
{
    QDir(m_window->folder()).mkpath(QStringLiteral("packs"));
    writeFile(m_window->folder().toStdString() + "/packs/broken.json", "{ \"format\": \"jolly-kestrel/pack\", \"version\": 9 }");
    m_window->restart();
    QVERIFY((*m_window)->workspace().findPack("overhand-pitch"));
    auto* message = m_window->find<QLabel>(QStringLiteral("message"));
    QVERIFY(message->text().contains(QStringLiteral("broken.json")));
    (*m_window)->goTo(app::MainWindow::Place::Packs);
    QVERIFY(message->isVisible()); // an error stays until it is closed
}

void PacksTest::observation_answered_isStored_callsItsFault_undo()
{
    const auto clip = m_window->addFilmedPitch();
    markAll(clip);
    m_window->bench().positions.goTo("lift");
    auto* eyes = m_window->find<QComboBox>(QStringLiteral("answer_eyes_fixed"));
    QVERIFY(eyes);
    eyes->setCurrentIndex(eyes->findData(QStringLiteral("later")));
    emit eyes->activated(eyes->currentIndex());
    const auto answers = [&] { return (*m_window)->workspace().library().marking(clip)->answers; };
    QCOMPARE(answers().at("eyes_fixed"), std::string("later"));
    QCOMPARE(m_window->review().observed.size(), std::size_t{1});
    m_window->restart();
    QCOMPARE(answers().size(), std::size_t{1}); // it is in the library
    QVERIFY(m_window->openOnBench(clip));
    m_window->bench().marks.answer("eyes_fixed", std::nullopt);
    QVERIFY(answers().empty());
    (*m_window)->workspace().undoStack().undo();
    QCOMPARE(answers().size(), std::size_t{1});
}

void PacksTest::tasks_setToTwo_secondCueIsShown()
{
    auto twoFaults = pitch(View::Side, {"head_drop", "late_hands"});
    twoFaults.frameRate = 120; // as the fixture's film
    const auto truth = simulated(twoFaults).truth;
    const auto clip = m_window->addFilmedPitch();
    Marking m;
    m.events = truth.events;
    m.marks = truth.marks;
    QVERIFY(store::Library::open(m_window->folder().toStdString())->marks().addMarking(clip, m));
    QVERIFY(m_window->openOnBench(clip));
    auto* also = m_window->find<QLabel>(QStringLiteral("also"));
    QVERIFY(!m_window->review().later.empty()); // something to be the second
    QVERIFY(m_window->review().oneThing && m_window->review().alsoNow.empty() && also->isHidden());
    QTest::mouseClick(m_window->find<QToolButton>(QStringLiteral("showSettings")), Qt::LeftButton);
    auto* form = m_window->find<QFrame>(QStringLiteral("settings"));
    auto* tasks = form->findChild<QComboBox*>(QStringLiteral("tasks"));
    tasks->setCurrentIndex(1);
    emit tasks->activated(1);
    form->close();
    QCOMPARE(app::Settings::tasks(), 2);
    QCOMPARE(m_window->review().alsoNow.size(), std::size_t(1));
    QVERIFY(QTest::qWaitFor([&] { return !also->isHidden(); }));
    const auto& second = m_window->review().alsoNow;
    QCOMPARE(second.size(), std::size_t(1));
    QVERIFY2(also->text().contains(QString::fromStdString(second.front().cue.teen)), qPrintable(also->text()));
    app::Settings::setTasks(1);
}

void PacksTest::sequence_isDrawnWithItsSentence()
{
    markAll(m_window->addFilmedPitch());
    m_window->bench().player.setFrame(FrameIndex(1)); // at no key position
    auto* sentence = m_window->find<QLabel>(QStringLiteral("sequence"));
    QVERIFY(QTest::qWaitFor([&] { return sentence->isVisible(); }));
    QVERIFY2(sentence->text().contains(QStringLiteral("side view")), qPrintable(sentence->text()));
    auto* chart = m_window->find<app::SequenceChart>(QStringLiteral("sequenceChart"));
    QVERIFY(chart->isVisible());
    // five curves and their peaks are drawn: pixels in the colours of pelvis and forearm, more than their keys alone
    const QImage drawn = chart->grab().toImage().convertToFormat(QImage::Format_RGB32);
    int slate = 0, chestnut = 0;
    for (int y = 0; y < drawn.height(); ++y)
        for (int x = 0; x < drawn.width() - 80; ++x) { // the keys stand at the right
            slate += drawn.pixelColor(x, y) == app::colours().slate;
            chestnut += drawn.pixelColor(x, y) == app::colours().chestnut;
        }
    QVERIFY2(slate > 60 && chestnut > 30, qPrintable(QStringLiteral("%1 %2").arg(slate).arg(chestnut)));
    QCOMPARE(chart->accessibleName(), sentence->text());
}

void PacksTest::reportedMeasure_saysReported()
{
    markAll(m_window->addFilmedPitch());
    const Reading* r = m_window->review().findReading("release_height");
    QVERIFY(r && r->value && !r->low && !r->high);
    QVERIFY2(r->why.find("reported only") != std::string::npos, r->why.c_str());
}

KESTREL_TEST(PacksTest)
#include "packs_test.moc"
