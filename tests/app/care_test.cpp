#include "support/runner.h"
#include "window_fixture.h"

#include "app/shell/message_line.h"
#include "app/shell/plain_text.h"
#include "app/window/open_library.h"
#include "app/workspace/background.h"
#include "app/workspace/library_keeper.h"
#include "store/library_copies.h"

#include <QLabel>
#include <QMessageBox>
#include <QPushButton>
#include <QThreadPool>
#include <QToolTip>

#include <atomic>

using namespace kestrel;
using namespace kestrel::test;

namespace {

constexpr int kTakesOverWithinMs = 8000; // it looks every two seconds

std::unique_ptr<app::MainWindow> windowOn(const QTemporaryDir& folder)
{
    auto window = app::openLibrary(folder.path().toStdString(), packFolder());
    if (!window)
        qFatal("%s", window.error().text().c_str());
    (*window)->show();
    return std::move(*window);
}

} // namespace

/// Days on which something is wrong: two windows, broken files, names that look like something else, much to do at once.
class CareTest : public QObject {
    Q_OBJECT
private slots:
    void secondWindow_looks_seesChanges_takesOver();
    void libraryOfAnotherComputer_isLookedAt_takenOverWhenFree();
    void brokenLibrary_offersItsNewestCopy_data();
    void brokenLibrary_offersItsNewestCopy();
    void removedAthlete_offersToDeleteItsFilms();
    void names_areNeverReadAsFormatting();
    void longNames_doNotWidenTheWindow();
    void longError_leavesRoomForItsButtons();
    void backgroundWork_leavesPaintingAlone();
    void tooLittleMemory_endsTheWork_notTheProgram();
};

void CareTest::secondWindow_looks_seesChanges_takesOver()
{
    QTemporaryDir folder;
    auto first = windowOn(folder);
    auto second = windowOn(folder);
    QVERIFY(!first->workspace().library().isReadOnly());
    QVERIFY(second->workspace().library().isReadOnly());
    QVERIFY2(second->messageText().contains(QStringLiteral("Another window has this library open since")),
             qPrintable(second->messageText()));
    const auto* line = second->findChild<app::MessageLine*>();
    QVERIFY(line->isVisible() && line->width() > second->width() / 2); // said before the window was shown
    QVERIFY(line->geometry().bottom() > second->height() - 40);
    QVERIFY(first->workspace().edit(
        QStringLiteral("add"),
        [](store::Library& l) {
            return l.add(store::Athlete{{}, "Ida", "", Hand::Right, {}, true}).map([](auto) {});
        },
        [](store::Library&) { return Expected<void>{}; }));
    auto* list = second->findChild<QListWidget*>(QStringLiteral("athletes"));
    QVERIFY(list);
    QTRY_COMPARE_WITH_TIMEOUT(list->count(), 1, kTakesOverWithinMs);
    const auto refused = second->workspace().edit(
        QStringLiteral("add"),
        [](store::Library& l) {
            return l.add(store::Athlete{{}, "Ben", "", Hand::Right, {}, true}).map([](auto) {});
        },
        [](store::Library&) { return Expected<void>{}; });
    QVERIFY(!refused);
    QCOMPARE(refused.error().code, ErrorCode::ReadOnly);
    std::optional<bool> isStored; // nor what takes long, nor a pack
    second->workspace().editLater(
        QStringLiteral("add"),
        [](store::Library& l) {
            return l.add(store::Athlete{{}, "Ben", "", Hand::Right, {}, true}).map([](auto) {});
        },
        [](store::Library&) { return Expected<void>{}; }, [&](bool stored) { isStored = stored; });
    QTRY_VERIFY(isStored);
    QVERIFY(!*isStored);
    QCOMPARE(first->workspace().library().athletes().all()->size(), std::size_t{1});
    QVERIFY(!second->workspace().editPack(QStringLiteral("mine"), "overhand-pitch", nlohmann::json::object()));
    QVERIFY(!QFile::exists(folder.filePath(QStringLiteral("packs/overhand-pitch.json"))));
    first.reset();
    QTRY_VERIFY_WITH_TIMEOUT(!second->workspace().library().isReadOnly(), kTakesOverWithinMs);
    QVERIFY2(second->messageText().contains(QStringLiteral("free now")), qPrintable(second->messageText()));
    QVERIFY(second->workspace().edit(
        QStringLiteral("add"),
        [](store::Library& l) {
            return l.add(store::Athlete{{}, "Ben", "", Hand::Right, {}, true}).map([](auto) {});
        },
        [](store::Library&) { return Expected<void>{}; }));
    QCOMPARE(list->count(), 2);
}

void CareTest::libraryOfAnotherComputer_isLookedAt_takenOverWhenFree()
{
    QTemporaryDir folder;
    auto theirs = store::Library::open(folder.path().toStdString());
    QVERIFY(theirs && theirs->add(store::Athlete{{}, "Ida", "", Hand::Right, {}, true}));
    writeFile(folder.filePath(QStringLiteral("library.lock")).toStdString(), "4242\njolly-kestrel\nclubhouse\n");
    const auto window = windowOn(folder);
    auto* list = window->findChild<QListWidget*>(QStringLiteral("athletes"));
    QCOMPARE(list->count(), 1); // from the journal, which the other has not brought in
    QVERIFY(window->workspace().library().isReadOnly() && window->workspace().library().isFromAfar());
    QVERIFY2(window->messageText().contains(QStringLiteral("The computer clubhouse has this library open")),
             qPrintable(window->messageText()));
    QVERIFY(theirs->add(store::Athlete{{}, "Ben", "", Hand::Right, {}, true}));
    QTRY_COMPARE_WITH_TIMEOUT(list->count(), 2, kTakesOverWithinMs);
    theirs = tl::unexpected(Error{});
    QVERIFY(QFile::remove(folder.filePath(QStringLiteral("library.lock"))));
    QTRY_VERIFY_WITH_TIMEOUT(!window->workspace().library().isReadOnly(), kTakesOverWithinMs);
    QVERIFY(!window->workspace().library().isFromAfar());
    QCOMPARE(list->count(), 2);
}

void CareTest::brokenLibrary_offersItsNewestCopy_data()
{
    QTest::addColumn<QString>("press");
    QTest::addColumn<bool>("isTaken");
    QTest::newRow("taken") << QStringLiteral("Take the copy") << true;
    QTest::newRow("left") << QStringLiteral("Leave everything") << false;
}

void CareTest::brokenLibrary_offersItsNewestCopy()
{
    QFETCH(QString, press);
    QFETCH(bool, isTaken);
    QTemporaryDir folder;
    const std::string place = folder.path().toStdString();
    {
        auto library = store::Library::open(place);
        QVERIFY(library->add(store::Athlete{{}, "Ida", "", Hand::Right, {}, true}));
    }
    QVERIFY(store::makeDailyCopy(place, QDate::currentDate()));
    QVERIFY(QFile::resize(folder.filePath(QStringLiteral("library.db")), 0));
    bool isAsked = false;
    QTimer answer;
    connect(&answer, &QTimer::timeout, this, [&] {
        if (auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget())) {
            isAsked = true;
            for (auto* button : box->buttons())
                if (button->text().remove(QLatin1Char('&')) == press)
                    QTest::mouseClick(button, Qt::LeftButton);
        }
    });
    answer.start(20);
    const auto window = app::openLibrary(place, packFolder());
    QVERIFY(isAsked);
    QCOMPARE(window.has_value(), isTaken);
    if (isTaken)
        QCOMPARE((*window)->workspace().library().athletes().all()->size(), std::size_t{1});
    else
        QCOMPARE(QFileInfo(folder.filePath(QStringLiteral("library.db"))).size(), qint64{0});
}

void CareTest::removedAthlete_offersToDeleteItsFilms()
{
    Window w;
    const QString film = QDir(w.folder()).filePath(QStringLiteral("own.mp4"));
    QVERIFY(QFile::copy(filmedPitch().file, film));
    const auto clip = w.addFilmedPitch();
    w.restart();
    {
        auto store = store::Library::open(w.folder().toStdString());
        store::Clip c = *store->clips().find(clip);
        c.file = "own.mp4";
        QVERIFY(store->save(c));
    }
    w.restart();
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("removeAthlete")), Qt::LeftButton);
    auto* offer = w.find<QPushButton>(QStringLiteral("messageOffer"));
    QVERIFY(offer->isVisible());
    QVERIFY2(w->messageText().contains(QStringLiteral("own.mp4")), qPrintable(w->messageText()));
    QVERIFY(QFile::exists(film));
    QTest::mouseClick(offer, Qt::LeftButton);
    QVERIFY(!QFile::exists(film));
    QVERIFY(QFile::exists(filmedPitch().file)); // another's
    QVERIFY(!offer->isVisible());
}

void CareTest::names_areNeverReadAsFormatting()
{
    app::PlainText::install();
    QWidget window;
    QLabel label(QStringLiteral("<h1>Ida</h1>"), &window);
    QLabel formatted(QStringLiteral("<b>Ida</b>"), &window);
    app::PlainText::setFormatted(&formatted);
    window.show();
    QCOMPARE(label.textFormat(), Qt::PlainText);
    QCOMPARE(formatted.textFormat(), Qt::RichText);
    label.setToolTip(QStringLiteral("<img src='/etc/passwd'>Ida"));
    QHelpEvent asks(QEvent::ToolTip, QPoint(1, 1), label.mapToGlobal(QPoint(1, 1)));
    QApplication::sendEvent(&label, &asks);
    QVERIFY2(QToolTip::text().contains(QStringLiteral("&lt;img")), qPrintable(QToolTip::text()));

    Window w; // and wherever a name stands in the program
    auto store = store::Library::open(w.folder().toStdString());
    QVERIFY(store->add(store::Athlete{{}, "<h1>Ida</h1>", "", Hand::Right, {}, true}));
    w.restart();
    for (const int place : {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4, Qt::Key_5}) {
        QTest::keyClick(&*w, static_cast<Qt::Key>(place), Qt::ControlModifier);
        for (const auto* shown : w->findChildren<QLabel*>())
            if (shown->isVisible())
                QVERIFY2(shown->textFormat() != Qt::AutoText, qPrintable(shown->objectName() + QLatin1Char(' ') + shown->text()));
    }
}

void CareTest::longNames_doNotWidenTheWindow()
{
    Window w;
    const std::string name(400, 'W');
    auto store = store::Library::open(w.folder().toStdString());
    store::Athlete athlete{{}, name, "", Hand::Right, {}, true};
    athlete.level = name;
    athlete.goal = name;
    const auto id = store->add(athlete);
    store::FilmingDay day{{}, *id, "2026-05-01", "overhand-pitch", ""};
    day.note = name;
    QVERIFY(store->add(day));
    store::FilmingDay unknown{{}, *id, "2026-05-02", name, ""}; // of a pack that is gone
    QVERIFY(store->add(unknown));
    w.restart();
    QApplication::processEvents();
    QString widest;
    for (const auto* part : w->findChildren<QWidget*>())
        if (part->isVisible() && part->minimumWidth() == 0 && part->minimumSizeHint().width() > 900)
            widest += QStringLiteral("%1 %2 in %3: %4; ")
                          .arg(part->objectName(), QString::fromLatin1(part->metaObject()->className()),
                               QString::fromLatin1(part->parentWidget()->metaObject()->className()))
                          .arg(part->minimumSizeHint().width());
    QVERIFY2(w->minimumSizeHint().width() <= 1280, qPrintable(widest));
    QCOMPARE(w->width(), 1280);
}

void CareTest::longError_leavesRoomForItsButtons()
{
    Window w;
    const Error error{ErrorCode::CannotOpen,
                      QString(20'000, QLatin1Char('e')).toStdString(),
                      QString(3000, QLatin1Char('/')).toStdString(),
                      {}};
    emit w->workspace().failed(error);
    auto* close = w.find<QToolButton>(QStringLiteral("closeMessage"));
    QVERIFY(close->isVisible());
    QVERIFY(w->rect().contains(close->mapTo(&*w, close->rect().bottomRight())));
    QTest::mouseClick(close, Qt::LeftButton);
    QVERIFY(!close->isVisible());
}

void CareTest::backgroundWork_leavesPaintingAlone()
{
    QWidget context;
    std::atomic<bool> mayEnd = false;
    std::atomic<int> begun = 0, ended = 0;
    for (int n = 0; n < 16; ++n) // more than there are cores: the pool that painting waits for would be full
        app::Background::run(
            &context,
            [&](std::stop_token) {
                for (++begun; !mayEnd;)
                    QThread::msleep(1);
                return 0;
            },
            [&](int) { ++ended; });
    QTRY_VERIFY(begun > 0);
    QTest::qWait(50);
    QCOMPARE(QThreadPool::globalInstance()->activeThreadCount(), 0);
    QElapsedTimer time;
    time.start();
    QImage large(1920, 1080, QImage::Format_RGB32);
    large.fill(Qt::red);
    QVERIFY(!large.convertToFormat(QImage::Format_RGBA8888).isNull()); // in parts, on Qt's pool
    const auto elapsed = time.elapsed();
    mayEnd = true;
    QTRY_COMPARE(ended.load(), 16);
    QVERIFY2(elapsed < 2000, qPrintable(QString::number(elapsed)));
}

void CareTest::tooLittleMemory_endsTheWork_notTheProgram()
{
    QWidget context;
    std::optional<Expected<int>> result;
    app::Background::run(
        &context, [](std::stop_token) -> Expected<int> { throw std::bad_alloc(); },
        [&](Expected<int> r) { result = std::move(r); });
    QTRY_VERIFY(result);
    QVERIFY(!*result);
    QVERIFY(result->error().message.find("memory") != std::string::npos);
}

KESTREL_TEST(CareTest)
#include "care_test.moc"
