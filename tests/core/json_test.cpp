#include "support/markings.h"
#include "support/runner.h"

#include "core/base/json_reader.h"

#include <QTemporaryDir>
#include <QtTest>

#include <limits>

#include <unistd.h>

using namespace kestrel;

class JsonTest : public QObject {
    Q_OBJECT
private slots:
    void parseJson_broken_namesLineAndColumn_data();
    void parseJson_broken_namesLineAndColumn();
    void parseJson_hostileNesting_isRefusedQuickly_data();
    void parseJson_hostileNesting_isRefusedQuickly();
    void parseJson_bracketsInText_areNotNesting();
    void loadJson_unreadable_namesTheFile();
    void node_wrongTypes_areAllReported();
    void node_notFinite_isRefused();
    void checkFormat_versions_data();
    void checkFormat_versions();
    void list_tooLong_isRefused();
    void problems_areAHundredAtMost();
    void printed_namesOfFiles_mayHoldAnyBytes();
    void finiteOrNull_neverWritesWhatJsonLacks();
};

void JsonTest::parseJson_broken_namesLineAndColumn_data()
{
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("place");
    QTest::newRow("empty") << ""
                           << "";
    QTest::newRow("cut off") << "{\n  \"a\": [1, 2"
                             << "line 2, column";
    QTest::newRow("a comma too many") << "{\n\"a\": 1,\n}"
                                      << "line 3, column";
    QTest::newRow("NaN is not JSON") << "{\"x\": NaN}"
                                     << "line 1, column";
    QTest::newRow("binary") << QString::fromLatin1("\x01\x02\x03") << "line 1, column 1";
    QTest::newRow("number too large") << "{\"x\": 1e999}"
                                      << "";
}

void JsonTest::parseJson_broken_namesLineAndColumn()
{
    QFETCH(QString, text);
    QFETCH(QString, place);
    const auto parsed = parseJson(text.toStdString(), "notes.json");
    QVERIFY(!parsed);
    QCOMPARE(parsed.error().code, ErrorCode::NotJson);
    QCOMPARE(parsed.error().file, std::string("notes.json"));
    QVERIFY2(QString::fromStdString(parsed.error().place).startsWith(place), parsed.error().text().c_str());
    QVERIFY(parsed.error().message.size() > 10 && parsed.error().message.back() == '.');
}

void JsonTest::parseJson_hostileNesting_isRefusedQuickly_data()
{
    QTest::addColumn<QString>("opening");
    QTest::newRow("arrays") << "[";
    QTest::newRow("objects") << "{\"a\":";
    QTest::newRow("both") << "[{\"a\":";
}

void JsonTest::parseJson_hostileNesting_isRefusedQuickly()
{
    QFETCH(QString, opening);
    const auto parsed =
        parseJson(opening.repeated(200'000).toStdString(), "deep.json"); // would overflow a recursive parser's stack
    QVERIFY(!parsed);
    QCOMPARE(parsed.error().code, ErrorCode::NotJson);
}

void JsonTest::parseJson_bracketsInText_areNotNesting()
{
    const std::string brackets(500, '[');
    const auto parsed = parseJson("{\"note\": \"" + brackets + "\\\"[[\"}", "x.json");
    QVERIFY(parsed);
    QCOMPARE(parsed->at("note").get<std::string>(), brackets + "\"[[");
}

void JsonTest::loadJson_unreadable_namesTheFile()
{
    QTemporaryDir folder;
    for (const auto& file : {folder.filePath(QStringLiteral("missing.json")), folder.path()}) {
        const auto loaded = loadJson(file.toStdString());
        QVERIFY(!loaded);
        QCOMPARE(loaded.error().code, ErrorCode::CannotOpen);
        QVERIFY(loaded.error().text().find(file.toStdString()) != std::string::npos);
    }
}

void JsonTest::node_wrongTypes_areAllReported()
{
    const auto root = nlohmann::json::parse(R"({"name": 3, "age": "old", "list": {}, "deep": {"flag": 1}})");
    JsonProblems problems("x.json");
    const JsonNode node(root, "", problems);
    QCOMPARE(node.at("name").text(), std::string());
    QCOMPARE(node.at("age").number(), 0.0);
    QVERIFY(node.at("list").items().empty());
    node.at("deep").at("flag").boolean();
    node.at("gone").number();
    std::vector<std::string> places;
    for (const auto& e : problems.list())
        places.push_back(e.place);
    QCOMPARE(places, (std::vector<std::string>{"/name", "/age", "/list", "/deep/flag", "/gone"}));
    QVERIFY(problems.list()[1].message.find("text") != std::string::npos);   // what was found
    QVERIFY(problems.list()[1].message.find("number") != std::string::npos); // what was expected
}

void JsonTest::node_notFinite_isRefused()
{
    nlohmann::json root;
    root["x"] = std::numeric_limits<double>::quiet_NaN();
    root["y"] = std::numeric_limits<double>::infinity();
    root["z"] = 7;
    JsonProblems problems("x.json");
    const JsonNode node(root, "", problems);
    node.at("x").number();
    node.at("y").number();
    node.at("z").numberIn(0, 5);
    QCOMPARE(problems.list().size(), std::size_t{3});
}

void JsonTest::checkFormat_versions_data()
{
    QTest::addColumn<QString>("json");
    QTest::addColumn<bool>("accepted");
    QTest::newRow("this one") << R"({"format": "jolly-kestrel/marking", "version": 1})" << true;
    QTest::newRow("newer minor") << R"({"format": "jolly-kestrel/marking", "version": 1.4})" << true;
    QTest::newRow("newer major") << R"({"format": "jolly-kestrel/marking", "version": 2})" << false;
    QTest::newRow("older") << R"({"format": "jolly-kestrel/marking", "version": 0})" << false;
    QTest::newRow("another format") << R"({"format": "jolly-kestrel/pack", "version": 1})" << false;
    QTest::newRow("no format") << R"({"version": 1})" << false;
    QTest::newRow("version as text") << R"({"format": "jolly-kestrel/marking", "version": "1"})" << false;
    QTest::newRow("a list") << "[]" << false;
}

void JsonTest::checkFormat_versions()
{
    QFETCH(QString, json);
    QFETCH(bool, accepted);
    const auto error = checkFormat(nlohmann::json::parse(json.toStdString()), "jolly-kestrel/marking", "m.json");
    QCOMPARE(!error.has_value(), accepted);
    if (error)
        QVERIFY(error->text().find("m.json") != std::string::npos);
}

void JsonTest::finiteOrNull_neverWritesWhatJsonLacks()
{
    QVERIFY(finiteOrNull(std::numeric_limits<double>::infinity()).is_null());
    QVERIFY(finiteOrNull(-std::numeric_limits<double>::quiet_NaN()).is_null());
    QVERIFY(finiteOrNull(std::optional<double>()).is_null());
    QCOMPARE(finiteOrNull(2.5).get<double>(), 2.5);
}

void JsonTest::list_tooLong_isRefused()
{
    const nlohmann::json root{{"list", std::vector<int>(1001, 1)}};
    JsonProblems problems("a.json");
    QVERIFY(JsonNode(root, "", problems).at("list").items().empty());
    QCOMPARE(problems.list().size(), std::size_t{1});
    QCOMPARE(problems.list().front().place, std::string("/list"));
    QVERIFY(problems.list().front().message.find("1001") != std::string::npos);
    QCOMPARE(JsonNode(root, "", problems).at("list").items(2000).size(), std::size_t{1001});
}

void JsonTest::problems_areAHundredAtMost()
{
    JsonProblems problems("a.json");
    for (int i = 0; i < 1000; ++i)
        problems.add("/" + std::to_string(i), "Wrong.");
    QCOMPARE(problems.list().size(), kMostProblems);
    QCOMPARE(problems.list().front().place, std::string("/0"));
}

void JsonTest::printed_namesOfFiles_mayHoldAnyBytes()
{
    const nlohmann::json named{{"file", "clip-\xff.mp4"}};
    QCOMPARE(printed(named, -1), std::string("{\"file\":\"clip-\xef\xbf\xbd.mp4\"}\n")); // it threw before
}

KESTREL_TEST(JsonTest)
#include "json_test.moc"
