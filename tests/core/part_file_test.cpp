#include "support/markings.h"
#include "support/runner.h"

#include "core/base/part_file.h"

#include <QTemporaryDir>
#include <QtTest>

#include <csignal>
#include <filesystem>
#include <fstream>

#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace kestrel;

/// Files that are written whole or not at all.
class PartFileTest : public QObject {
    Q_OBJECT
private slots:
    void saveText_replacesWhole_leavesNoNeighbour();
    void saveText_impossiblePlace_saysSo();
    void saveText_failing_keepsTheOldFile();
    void link_stays_whatItLeadsToIsReplaced();
    void device_isRefused();
    void unfinished_isRemoved_theOldFileStays();
    void killedWriter_leftOvers_goWithTheNext_aLivingOnesStay();
    void sameFileTwiceAtOnce_secondIsRefused();

private:
    static QStringList namesIn(const QTemporaryDir& folder)
    {
        return QDir(folder.path()).entryList(QDir::Files | QDir::Hidden | QDir::System, QDir::Name);
    }
};

void PartFileTest::saveText_replacesWhole_leavesNoNeighbour()
{
    QTemporaryDir folder;
    const std::string file = folder.filePath(QStringLiteral("a.json")).toStdString();
    QVERIFY(saveText(file, "first"));
    QVERIFY(saveText(file, "second, longer"));
    QCOMPARE(test::contentOf(file), std::string("second, longer"));
    QCOMPARE(QDir(folder.path()).entryList(QDir::Files).size(), 1);
}

void PartFileTest::saveText_impossiblePlace_saysSo()
{
    const auto saved = saveText("/proc/no/such/place.json", "x");
    QVERIFY(!saved);
    QCOMPARE(saved.error().code, ErrorCode::CannotWrite);
    QCOMPARE(saved.error().file, std::string("/proc/no/such/place.json"));
}

void PartFileTest::saveText_failing_keepsTheOldFile()
{
    QTemporaryDir folder;
    const QString target = folder.filePath(QStringLiteral("kept"));
    QVERIFY(QDir().mkpath(target + QStringLiteral("/inside"))); // a folder that is not empty cannot be replaced by a file
    QVERIFY(!saveText(target.toStdString(), "x"));
    QVERIFY(QFileInfo(target + QStringLiteral("/inside")).isDir());
    QCOMPARE(QDir(folder.path()).entryList(QDir::Files | QDir::Hidden).size(), 0); // and no half-written neighbour stays
}

void PartFileTest::link_stays_whatItLeadsToIsReplaced()
{
    QTemporaryDir folder;
    const std::string target = folder.filePath(QStringLiteral("real.txt")).toStdString();
    const std::string link = folder.filePath(QStringLiteral("link.txt")).toStdString();
    test::writeFile(target, "old");
    std::filesystem::create_symlink("real.txt", link);
    QVERIFY(saveText(link, "new"));
    QVERIFY(std::filesystem::is_symlink(link));
    QCOMPARE(test::contentOf(target), std::string("new"));
}

void PartFileTest::device_isRefused()
{
    QTemporaryDir folder;
    const std::string pipe = folder.filePath(QStringLiteral("pipe")).toStdString();
    QCOMPARE(::mkfifo(pipe.c_str(), 0600), 0);
    for (const std::string& place : {pipe, std::string("/dev/null")}) {
        const auto saved = saveText(place, "x");
        QVERIFY(!saved);
        QCOMPARE(saved.error().code, ErrorCode::BadArgument);
    }
    QVERIFY(std::filesystem::is_fifo(pipe));
}

void PartFileTest::unfinished_isRemoved_theOldFileStays()
{
    QTemporaryDir folder;
    const std::string file = folder.filePath(QStringLiteral("a.txt")).toStdString();
    test::writeFile(file, "old");
    {
        auto part = PartFile::begin(file);
        QVERIFY(part);
        std::ofstream(part->path()) << "half";
        QCOMPARE(namesIn(folder).size(), 2);
    }
    QCOMPARE(namesIn(folder), QStringList{QStringLiteral("a.txt")});
    QCOMPARE(test::contentOf(file), std::string("old"));
}

void PartFileTest::killedWriter_leftOvers_goWithTheNext_aLivingOnesStay()
{
    QTemporaryDir folder;
    const std::string at = folder.path().toStdString();
    const pid_t child = ::fork();
    if (child == 0) {
        const auto part = PartFile::begin(at + "/killed.txt");
        std::ofstream(part->path()) << "half";
        ::raise(SIGKILL);
    }
    ::waitpid(child, nullptr, 0);
    QCOMPARE(namesIn(folder).size(), 1);
    auto living = PartFile::begin(at + "/living.txt");
    QVERIFY(living);
    QVERIFY(saveText(at + "/other.txt", "x"));
    QCOMPARE(namesIn(folder).size(), 2); // that of the killed one is gone, that of the living one is not
    QVERIFY(living->finish());
    QCOMPARE(namesIn(folder), (QStringList{QStringLiteral("living.txt"), QStringLiteral("other.txt")}));
}

void PartFileTest::sameFileTwiceAtOnce_secondIsRefused()
{
    QTemporaryDir folder;
    const std::string file = folder.filePath(QStringLiteral("a.txt")).toStdString();
    auto first = PartFile::begin(file);
    QVERIFY(first);
    const auto second = saveText(file, "x");
    QVERIFY(!second);
    QVERIFY(second.error().message.find("already") != std::string::npos);
    QVERIFY(first->finish());
}

KESTREL_TEST(PartFileTest)
#include "part_file_test.moc"
