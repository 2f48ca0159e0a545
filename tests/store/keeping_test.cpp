#include "support/markings.h"
#include "support/runner.h"

#include "store/db/migrations.h"
#include "store/library.h"
#include "store/library_copies.h"
#include "store/library_lock.h"

#include <QDirIterator>
#include <QProcess>
#include <QRegularExpression>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QtTest>

#include <csignal>

#include <sys/wait.h>
#include <unistd.h>

using namespace kestrel;
using namespace kestrel::store;
using namespace kestrel::test;

/// Who may write, what others may read, what stays behind, and what happens to broken files.
class KeepingTest : public QObject {
    Q_OBJECT
private slots:
    void init() { m_folder = std::make_unique<QTemporaryDir>(); }
    void lock_isOnePersons_untilItLetsGo();
    void lock_ofAKilledProgram_isFree();
    void lock_ofAnotherComputer_isKept_untilNoSignOfLife();
    void snapshot_seesTheJournal_touchesNothing_tellsOfChanges();
    void snapshot_ofAKilledProgram_isRemovedByTheNext();
    void snapshot_ofADamagedLibrary_isRefused();
    void files_areTheOwnersAlone();
    void removedAthlete_leavesNoTrace_data();
    void removedAthlete_leavesNoTrace();
    void brokenFile_isRefusedAndKept_data();
    void brokenFile_isRefusedAndKept();
    void foreignDatabase_getsNoTablesOfOurs();
    void damagedInside_isFound();
    void killedWhileItIsMade_nothingIsThere();
    void dailyCopy_isMadeWhileOpen_sevenAreKept();
    void restoredCopy_isTheLibrary_theBrokenOneStays();

private:
    std::string folder() const { return m_folder->filePath(QStringLiteral("library")).toStdString(); }
    QString file(const char* name = "library.db") const { return QString::fromStdString(folder() + "/" + name); }
    static AthleteId addMarked(Library& l)
    {
        const auto athlete = *l.add(Athlete{{}, "Marvella Quick", "2013-11-27", Hand::Right, {{"2026-01-01", 1.5}}, true});
        const auto day = *l.add(FilmingDay{{}, athlete, "2026-05-17", "overhand-pitch", ""});
        Clip clip;
        clip.day = day;
        clip.file = "films/marvella-serve.mp4";
        clip.contentHash = "abc";
        clip.film = {{}, 64, 48, 100};
        clip.clock = {60, 60};
        (void)l.add(clip);
        return athlete;
    }
    /// Files below the folder that hold the words.
    QStringList holding(const QByteArray& words) const
    {
        QStringList names;
        for (QDirIterator it(m_folder->path(), QDir::Files | QDir::Hidden, QDirIterator::Subdirectories); it.hasNext();) {
            QFile f(it.next());
            if (f.open(QIODevice::ReadOnly) && f.readAll().contains(words))
                names << f.fileName();
        }
        return names;
    }
    std::unique_ptr<QTemporaryDir> m_folder;
};

void KeepingTest::lock_isOnePersons_untilItLetsGo()
{
    auto first = std::make_unique<LibraryLock>(folder());
    QVERIFY(first->isHeld() && !first->holder());
    LibraryLock second(folder());
    QVERIFY(!second.isHeld());
    const auto holder = second.holder();
    QVERIFY(holder && holder->isHere);
    QCOMPARE(holder->process, std::int64_t{QCoreApplication::applicationPid()});
    QVERIFY(std::abs(holder->since.secsTo(QDateTime::currentDateTime())) < 60);
    QVERIFY(first->renew());
    first.reset();
    QVERIFY(second.tryAgain());
    QVERIFY(!second.holder());
}

void KeepingTest::lock_ofAKilledProgram_isFree()
{
    const pid_t child = ::fork();
    if (child == 0) {
        const LibraryLock theirs(folder());
        ::raise(theirs.isHeld() ? SIGKILL : SIGTERM);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    QCOMPARE(WTERMSIG(status), SIGKILL);
    QVERIFY(QFile::exists(file("library.lock")));
    QVERIFY(LibraryLock(folder()).isHeld());
}

void KeepingTest::lock_ofAnotherComputer_isKept_untilNoSignOfLife()
{
    QVERIFY(QDir().mkpath(QString::fromStdString(folder())));
    writeFile(file("library.lock").toStdString(), "4242\njolly-kestrel\nclubhouse\n");
    LibraryLock ours(folder());
    QVERIFY(!ours.isHeld());
    QCOMPARE(ours.holder()->computer, std::string("clubhouse"));
    QVERIFY(!ours.holder()->isHere);
    QFile sign(file("library.lock"));
    QVERIFY(sign.open(QIODevice::ReadWrite));
    QVERIFY(sign.setFileTime(QDateTime::currentDateTime().addSecs(-120), QFileDevice::FileModificationTime));
    sign.close();
    QVERIFY(ours.tryAgain());
}

void KeepingTest::snapshot_seesTheJournal_touchesNothing_tellsOfChanges()
{
    auto theirs = Library::open(folder());
    QVERIFY(theirs && theirs->add(Athlete{{}, "Ida", "", Hand::Right, {}, true}));
    QVERIFY(QFileInfo(file("library.db-wal")).size() > 0);
    const std::string shared = contentOf(file("library.db-shm").toStdString());
    const auto ours = Library::openFromAfar(folder());
    QVERIFY2(ours, ours ? "" : ours.error().text().c_str());
    QCOMPARE(ours->athletes().all()->size(), std::size_t{1});
    QCOMPARE(ours->folder(), theirs->folder());
    QVERIFY(contentOf(file("library.db-shm").toStdString()) == shared); // the other computer's is left alone
    const auto refused = Library::openFromAfar(folder())->add(Athlete{{}, "Ben", "", Hand::Right, {}, true});
    QCOMPARE(refused.error().code, ErrorCode::ReadOnly);
    const auto before = ours->state();
    QCOMPARE(*ours->state(), *before);
    QVERIFY(theirs->add(Athlete{{}, "Ben", "", Hand::Right, {}, true}));
    QVERIFY(*ours->state() != *before);
    QCOMPARE(ours->again(true)()->athletes().all()->size(), std::size_t{1}); // the same look, also on another thread
    QCOMPARE(Library::openFromAfar(folder())->athletes().all()->size(), std::size_t{2});
}

/// Children's names do not stay behind on this computer.
void KeepingTest::snapshot_ofAKilledProgram_isRemovedByTheNext()
{
    QVERIFY(Library::open(folder()));
    const auto copies = [] {
        return QDir(QStandardPaths::writableLocation(QStandardPaths::RuntimeLocation))
            .entryList({QStringLiteral("jolly-kestrel-look-*")}, QDir::Dirs);
    };
    const pid_t child = ::fork();
    if (child == 0) {
        const auto look = Library::openFromAfar(folder());
        ::raise(look ? SIGKILL : SIGTERM);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    QCOMPARE(WTERMSIG(status), SIGKILL);
    const QString left = QStringLiteral("jolly-kestrel-look-%1-*").arg(child);
    const auto isLeft = [&] {
        return !copies().filter(QRegularExpression(QRegularExpression::wildcardToRegularExpression(left))).isEmpty();
    };
    QVERIFY(isLeft());
    {
        const auto look = Library::openFromAfar(folder());
        QVERIFY(look && !isLeft() && !copies().isEmpty());
    }
    QVERIFY(copies().filter(QStringLiteral("look-%1-").arg(QCoreApplication::applicationPid())).isEmpty());
}

void KeepingTest::snapshot_ofADamagedLibrary_isRefused()
{
    {
        auto library = Library::open(folder());
        for (int n = 0; n < 300; ++n)
            QVERIFY(library->add(Athlete{{}, "Number " + std::to_string(n), "", Hand::Right, {}, true}));
    }
    const std::string path = file("library.db").toStdString();
    std::string bytes = contentOf(path);
    for (std::size_t at = 4096; at < bytes.size(); at += 64)
        bytes[at] = 'x';
    writeFile(path, bytes);
    const auto look = Library::openFromAfar(folder());
    QVERIFY(!look);
    QCOMPARE(look.error().code, ErrorCode::Damaged);
    QVERIFY(contentOf(path) == bytes);
}

void KeepingTest::files_areTheOwnersAlone()
{
    auto library = Library::open(folder());
    QVERIFY(library);
    addMarked(*library);
    QVERIFY(makeDailyCopy(folder(), QDate(2026, 5, 1)));
    const auto others =
        QFile::ReadGroup | QFile::WriteGroup | QFile::ExeGroup | QFile::ReadOther | QFile::WriteOther | QFile::ExeOther;
    QVERIFY(!(QFile::permissions(QString::fromStdString(folder())) & others));
    int files = 0;
    for (QDirIterator it(QString::fromStdString(folder()), QDir::Files | QDir::Hidden, QDirIterator::Subdirectories);
         it.hasNext(); ++files) {
        const QString name = it.next();
        QVERIFY2(!(QFile::permissions(name) & others), qPrintable(name));
    }
    QVERIFY(files >= 2);
}

void KeepingTest::removedAthlete_leavesNoTrace_data()
{
    QTest::addColumn<bool>("killed");
    QTest::newRow("at once") << false;
    QTest::newRow("the program killed right after") << true;
}

void KeepingTest::removedAthlete_leavesNoTrace()
{
    QFETCH(bool, killed);
    {
        auto library = Library::open(folder());
        addMarked(*library);
    }
    QVERIFY(makeDailyCopy(folder(), QDate(2026, 5, 1)));
    for (const char* words : {"Marvella", "2013-11-27", "2026-05-17", "marvella-serve"})
        QVERIFY2(holding(words).size() >= 2, words); // in the library and in its copy
    const auto remove = [this] {
        auto library = Library::open(folder());
        const auto taken = library->take(library->athletes().all()->front().id);
        return taken && library->forgetRemoved();
    };
    if (killed) {
        const pid_t child = ::fork();
        if (child == 0)
            ::raise(remove() ? SIGKILL : SIGTERM);
        int status = 0;
        ::waitpid(child, &status, 0);
        QCOMPARE(WTERMSIG(status), SIGKILL);
    } else {
        auto library = Library::open(folder());
        const auto taken = library->take(library->athletes().all()->front().id);
        QVERIFY(taken);
        QVERIFY(library->forgetRemoved());
        for (const char* words : {"Marvella", "2013-11-27", "2026-05-17", "marvella-serve"}) // while it is open
            QVERIFY2(holding(words).isEmpty(), qPrintable(holding(words).join(QLatin1Char(' '))));
        QVERIFY(library->restore(*taken)); // and still it can be given back
        QCOMPARE(library->athletes().all()->size(), std::size_t{1});
        QVERIFY(remove());
    }
    for (const char* words : {"Marvella", "2013-11-27", "2026-05-17", "marvella-serve"})
        QVERIFY2(holding(words).isEmpty(), qPrintable(holding(words).join(QLatin1Char(' '))));
}

void KeepingTest::brokenFile_isRefusedAndKept_data()
{
    QTest::addColumn<int>("bytes");   // that are left; -1: all
    QTest::addColumn<QString>("sql"); // done to it before
    QTest::addColumn<int>("code");
    QTest::newRow("zero length") << 0 << QString() << static_cast<int>(ErrorCode::Damaged);
    QTest::newRow("a byte") << 1 << QString() << static_cast<int>(ErrorCode::Damaged);
    QTest::newRow("half a page") << 300 << QString() << static_cast<int>(ErrorCode::Damaged);
    QTest::newRow("one page of many") << 4096 << QString() << static_cast<int>(ErrorCode::Damaged);
    QTest::newRow("version -5") << -1 << QStringLiteral("PRAGMA user_version = -5") << static_cast<int>(ErrorCode::WrongVersion);
    QTest::newRow("version 0") << -1 << QStringLiteral("PRAGMA user_version = 0") << static_cast<int>(ErrorCode::WrongVersion);
    QTest::newRow("newer") << -1 << QStringLiteral("PRAGMA user_version = 900") << static_cast<int>(ErrorCode::WrongVersion);
}

void KeepingTest::brokenFile_isRefusedAndKept()
{
    QFETCH(int, bytes);
    QFETCH(QString, sql);
    QFETCH(int, code);
    {
        auto library = Library::open(folder());
        addMarked(*library);
    }
    if (!sql.isEmpty())
        QVERIFY(Database::open(file().toStdString(), Database::Mode::ReadWrite)->run(sql));
    if (bytes >= 0)
        QVERIFY(QFile::resize(file(), bytes));
    const std::string before = contentOf(file().toStdString());
    const auto opened = Library::open(folder());
    QVERIFY(!opened);
    QVERIFY2(static_cast<int>(opened.error().code) == code, opened.error().text().c_str());
    QVERIFY(opened.error().message.size() > 30);
    QVERIFY(contentOf(file().toStdString()) == before);
}

void KeepingTest::foreignDatabase_getsNoTablesOfOurs()
{
    QVERIFY(QDir().mkpath(QString::fromStdString(folder())));
    {
        QSqlDatabase other = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("other"));
        other.setDatabaseName(file());
        QVERIFY(other.open());
        QSqlQuery q(other);
        QVERIFY(q.exec(QStringLiteral("CREATE TABLE recipe (name TEXT)")) && q.exec(QStringLiteral("PRAGMA user_version = 3")));
    }
    QSqlDatabase::removeDatabase(QStringLiteral("other"));
    const std::string before = contentOf(file().toStdString());
    const auto opened = Library::open(folder());
    QVERIFY(!opened);
    QCOMPARE(opened.error().code, ErrorCode::WrongVersion);
    QVERIFY2(opened.error().message.find("another program") != std::string::npos, opened.error().text().c_str());
    QVERIFY(contentOf(file().toStdString()) == before);
    QVERIFY(!QFile::exists(file("library.db-wal")));
}

void KeepingTest::damagedInside_isFound()
{
    {
        auto library = Library::open(folder());
        for (int n = 0; n < 200; ++n)
            addMarked(*library);
        QVERIFY(library->check());
    }
    QFile f(file());
    QVERIFY(f.open(QIODevice::ReadWrite));
    for (qint64 page = 6; page < 14; ++page) {
        f.seek(page * 4096);
        f.write(QByteArray(2000, '\xaa'));
    }
    f.close();
    auto library = Library::open(folder(), true);
    const auto sound = library ? library->check() : tl::unexpected(library.error());
    QVERIFY(!sound);
    QCOMPARE(sound.error().code, ErrorCode::Damaged);
}

void KeepingTest::killedWhileItIsMade_nothingIsThere()
{
    for (int n = 0; n < 20; ++n) {
        const pid_t child = ::fork();
        if (child == 0) {
            ::ualarm(static_cast<unsigned>(500 + 1500 * n), 0); // dies by SIGALRM somewhere on the way
            (void)Library::open(folder());
            ::_exit(0);
        }
        ::waitpid(child, nullptr, 0);
        if (QFile::exists(file()))
            QVERIFY(Library::open(folder())); // whole
        QVERIFY(!QFile::exists(file()) || QFile::remove(file()));
    }
    QVERIFY(Library::open(folder()));
}

void KeepingTest::dailyCopy_isMadeWhileOpen_sevenAreKept()
{
    auto library = Library::open(folder());
    addMarked(*library);
    for (int day = 1; day <= 9; ++day)
        QVERIFY(makeDailyCopy(folder(), QDate(2026, 5, day)));
    QVERIFY(makeDailyCopy(folder(), QDate(2026, 5, 9))); // there already
    const auto names = QDir(file("copies")).entryList(QDir::Files, QDir::Name);
    QCOMPARE(names.size(), 7);
    QCOMPARE(names.front(), QStringLiteral("library-2026-05-03.db"));
    QCOMPARE(libraryCopies(folder()).size(), std::size_t{7});
    QTemporaryDir other;
    QVERIFY(QFile::copy(file("copies/") + names.back(), other.filePath(QStringLiteral("library.db"))));
    const auto copy = Library::open(other.path().toStdString());
    QVERIFY(copy);
    QCOMPARE(copy->athletes().all()->front().name, std::string("Marvella Quick"));
}

void KeepingTest::restoredCopy_isTheLibrary_theBrokenOneStays()
{
    {
        auto library = Library::open(folder());
        addMarked(*library);
    }
    QVERIFY(makeDailyCopy(folder(), QDate(2026, 5, 9)));
    QVERIFY(QFile::resize(file(), 100));
    QVERIFY(!Library::open(folder()));
    QVERIFY(restoreCopy(folder(), libraryCopies(folder()).front().file));
    const auto library = Library::open(folder());
    QVERIFY(library);
    QCOMPARE(library->athletes().all()->size(), std::size_t{1});
    QCOMPARE(QFileInfo(file("library-damaged-1.db")).size(), qint64{100});
}

KESTREL_TEST(KeepingTest)
#include "keeping_test.moc"
