#include "support/runner.h"

#include "core/pack/pack_folder.h"
#include "vision/network.h"
#include "vision/tflite_model.h"

#include <QFile>
#include <QTemporaryDir>
#include <QtTest>

#include <cmath>
#include <optional>
#include <span>

using namespace kestrel;
using namespace kestrel::vision;

namespace {

void fillWithPattern(std::span<float> rgb, std::size_t side)
{
    for (std::size_t i = 0; i < rgb.size(); ++i) {
        const std::size_t c = i % 3, x = i / 3 % side, y = i / 3 / side;
        rgb[i] = static_cast<float>((3 * x + 5 * y + 7 * c) % 64) / 63;
    }
}

std::vector<std::vector<float>> resultsOf(Network& network, std::size_t side)
{
    fillWithPattern(network.input(), side);
    std::vector<std::vector<float>> results;
    if (network.run())
        for (std::size_t n = 0; n < network.outputs(); ++n)
            results.emplace_back(network.output(n).begin(), network.output(n).end());
    return results;
}

} // namespace

class NetworkTest : public QObject {
    Q_OBJECT
private slots:
    void result_asTheReferenceGivesIt_data();
    void result_asTheReferenceGivesIt();
    void another_outlivesTheFirst_andGivesTheSame();
    void wantedResults_areTheSameAlone();
    void file_cutAnywhere_isRefused();
    void file_ofAnotherKind_isRefused_data();
    void file_ofAnotherKind_isRefused();
    void file_withWrongBytes_neverCrashes();

private:
    static std::string model(const char* name) { return shippedFolder("models") + "/" + name; }
    static QByteArray bytesOf(const std::string& file)
    {
        QFile f(QString::fromStdString(file));
        return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
    }
    Expected<Model> loaded(const QByteArray& bytes)
    {
        QFile f(m_folder.filePath(QStringLiteral("net.tflite")));
        if (!f.open(QIODevice::WriteOnly) || f.write(bytes) != bytes.size())
            return fail(ErrorCode::CannotWrite, "no room");
        f.close();
        return loadTfliteModel(f.fileName().toStdString());
    }
    QTemporaryDir m_folder;
};

/// First numbers of the first result, as the networks' own runtime gives them, for an even grey picture and for a pattern.
void NetworkTest::result_asTheReferenceGivesIt_data()
{
    QTest::addColumn<QString>("file");
    QTest::addColumn<bool>("isPattern");
    QTest::addColumn<QList<double>>("expected");
    const QString lite = QStringLiteral("pose_landmark_lite.tflite"), full = QStringLiteral("pose_landmark_full.tflite");
    QTest::newRow("lite, grey") << lite << false << QList<double>{114.805, 36.8357, -119.4204, 5.506, 3.1061};
    QTest::newRow("lite, pattern") << lite << true << QList<double>{111.6476, 45.3558, -23.3591, 2.0089, 0.2205};
    QTest::newRow("full, grey") << full << false << QList<double>{147.5044, 67.6206, -58.7451, 6.464, 3.3439};
    QTest::newRow("full, pattern") << full << true << QList<double>{118.5298, 68.5595, 28.0303, 68.1053, 67.501};
}

void NetworkTest::result_asTheReferenceGivesIt()
{
    QFETCH(QString, file);
    QFETCH(bool, isPattern);
    QFETCH(QList<double>, expected);
    auto network = Network::load(model(qPrintable(file)));
    QVERIFY2(network, network ? "" : network.error().text().c_str());
    QCOMPARE(network->input().size(), std::size_t(256 * 256 * 3));
    if (isPattern)
        fillWithPattern(network->input(), 256);
    else
        std::fill(network->input().begin(), network->input().end(), 0.5f);
    QVERIFY(network->run());
    for (int i = 0; i < expected.size(); ++i)
        QVERIFY2(std::abs(network->output(0)[static_cast<std::size_t>(i)] - expected[i]) < 0.02, // half precision weights
                 qPrintable(QString::number(network->output(0)[static_cast<std::size_t>(i)])));
}

/// Of the one that finds people: its outputs are put together from parts.
void NetworkTest::another_outlivesTheFirst_andGivesTheSame()
{
    auto loadedFirst = Network::load(model("pose_detection.tflite"));
    QVERIFY(loadedFirst);
    std::optional<Network> first(std::move(*loadedFirst));
    auto another = first->another();
    QVERIFY(another);
    for (std::size_t n = 0; n < first->outputs(); ++n) // known before anything was computed
        QCOMPARE(another->output(n).size(), std::size_t(n == 0 ? 2254 * 12 : 2254));
    const auto expected = resultsOf(*first, 224);
    QVERIFY(expected.size() == 2 && expected[1][0] != expected[1][1]);
    first.reset();
    QVERIFY(resultsOf(*another, 224) == expected);
}

void NetworkTest::wantedResults_areTheSameAlone()
{
    const std::string file = model("pose_landmark_lite.tflite");
    auto whole = Network::load(file), some = Network::load(file, std::vector<std::size_t>{3, 0});
    QVERIFY(whole && some);
    const auto all = resultsOf(*whole, 256), wanted = resultsOf(*some, 256);
    QCOMPARE(all.size(), std::size_t(5));
    QVERIFY(wanted == (std::vector{all[3], all[0]}));
    const auto none = Network::load(file, std::vector<std::size_t>{5});
    QVERIFY(!none && none.error().code == ErrorCode::BadArgument);
}

void NetworkTest::file_cutAnywhere_isRefused()
{
    const QByteArray whole = bytesOf(model("pose_landmark_lite.tflite"));
    QVERIFY(whole.size() > 1000000);
    for (int tenth = 0; tenth < 10; ++tenth) {
        const auto cut = loaded(whole.left(whole.size() * tenth / 10));
        QVERIFY2(!cut, qPrintable(QString::number(tenth)));
        QVERIFY(!cut.error().message.empty() && !cut.error().file.empty());
    }
}

void NetworkTest::file_ofAnotherKind_isRefused_data()
{
    QTest::addColumn<QByteArray>("bytes");
    QTest::newRow("empty") << QByteArray();
    QTest::newRow("text") << QByteArray("not a network at all");
    QTest::newRow("only the name") << QByteArray("\x08\0\0\0TFL3", 8);
    QTest::newRow("offsets beyond the end") << QByteArray("\xff\xff\xff\x7fTFL3\0\0\0\0\0\0\0\0", 16);
}

void NetworkTest::file_ofAnotherKind_isRefused()
{
    QFETCH(QByteArray, bytes);
    QVERIFY(!loaded(bytes));
    const auto missing = loadTfliteModel(m_folder.filePath(QStringLiteral("gone")).toStdString());
    QVERIFY(!missing && missing.error().code == ErrorCode::CannotOpen);
}

/// The last fifth holds the structure, the rest mostly weights: whatever is flipped there, reading ends with an answer.
void NetworkTest::file_withWrongBytes_neverCrashes()
{
    const QByteArray whole = bytesOf(model("pose_landmark_lite.tflite"));
    std::uint32_t random = 12345;
    const auto next = [&] { return random = random * 1664525u + 1013904223u; };
    int refused = 0;
    for (int round = 0; round < 40; ++round) {
        QByteArray spoilt = whole;
        for (int n = 0; n < 30; ++n)
            spoilt[static_cast<qsizetype>(whole.size() - 1 - next() % (whole.size() / 20))] = static_cast<char>(next() >> 24);
        refused += !loaded(spoilt).has_value();
    }
    QVERIFY2(refused > 0, qPrintable(QString::number(refused)));
}

KESTREL_TEST(NetworkTest)
#include "network_test.moc"
