// Drawing on the film, with the mouse and the keys.

#include "support/runner.h"

#include "window_fixture.h"

#include "app/bench/draw_column.h"
#include "app/bench/drawing_options.h"
#include "core/drawing/drawing_value.h"

#include <QComboBox>
#include <QLineEdit>
#include <QMenu>
#include <QToolButton>

using namespace kestrel;
using namespace kestrel::app;
using namespace kestrel::test;

class DrawTest : public QObject {
    Q_OBJECT
private slots:
    void init();
    void everyTool_drawsWithTheMouse_data();
    void everyTool_drawsWithTheMouse();
    void everyTool_hasAKeyOnTheSheet_andATooltip();
    void nearAMark_itFollows_withShift_itStays();
    void circle_staysWhileTheHeadLeaves_saysByHowMuch();
    void onePicture_livesNowhereElse_stepThrough();
    void keyPosition_isSeenOnEveryRepetition();
    void drag_byItsEnd_andWhole_undo();
    void options_changeLifeWeightAndFollowing();
    void copyRemoveHide_byKeys();
    void label_isTypedOver();
    void path_endsWithEnter_orPressedTwice();
    void escape_leavesNothingHalfDrawn();
    void list_goesThere_andSaysWhyMissing();
    void trail_besideAMark_saysWhatToDo();
    void strobe_cutsOutWhatMoves_grows();
    void restart_keepsThem();
    void still_holdsThem();
    void readOnlyLibrary_saysSo();

private:
    Window& window() { return *m_window; }
    DrawingEditor& drawings() { return window().bench().drawings; }
    /// Where a landmark is on the picture stood at.
    ImagePoint at(const char* landmark);
    void draw(DrawingKind kind) { window().press(keyOf(kind), Qt::ShiftModifier); }
    static int keyOf(DrawingKind);
    std::vector<store::DrawingRow> stored();

    std::unique_ptr<Window> m_window;
    store::ClipId m_clip;
};

void DrawTest::init()
{
    m_window = std::make_unique<Window>();
    m_clip = window().addFilmedPitch();
    auto library = store::Library::open(window().folder().toStdString());
    Marking some = filmedPitch().truth.truth; // marked on every tenth picture
    std::erase_if(some.marks, [](const Mark& m) { return m.frame.value % 10 != 0; });
    QVERIFY(library->marks().addMarking(m_clip, some));
    QVERIFY(window().openOnBench(m_clip));
    window().bench().player.setFrame(FrameIndex(100));
    QTRY_COMPARE(window().bench().player.pictured().value, 100);
}

ImagePoint DrawTest::at(const char* landmark)
{
    const Mark* m = findMark(window().bench().context.marking(), window().bench().player.frame(), *findLandmark(landmark));
    return m ? m->at : ImagePoint{-1, -1};
}

int DrawTest::keyOf(DrawingKind kind)
{
    for (const auto& b : BenchTools::drawButtons())
        if (b.kind == kind)
            return b.key;
    return 0;
}

std::vector<store::DrawingRow> DrawTest::stored()
{
    const auto library = store::Library::open(window().folder().toStdString(), true);
    return *library->drawings().seenOn(window().bench().context.repetition().id);
}

void DrawTest::everyTool_drawsWithTheMouse_data()
{
    QTest::addColumn<int>("kind");
    for (int k = 0; k < static_cast<int>(DrawingKind::Strobe); ++k)
        QTest::newRow(std::string(wordOf(static_cast<DrawingKind>(k))).c_str()) << k;
}

void DrawTest::everyTool_drawsWithTheMouse()
{
    QFETCH(int, kind);
    const auto drawn = static_cast<DrawingKind>(kind);
    draw(drawn);
    QCOMPARE(window().bench().tools.tool(), Tool::Draw);
    const ImagePoint places[]{{60, 60}, {130, 90}, {180, 50}, {240, 110}};
    if (drawn == DrawingKind::Trail) {
        window().clickFilm(at("knee.right"));
    } else if (hasRadius(drawn)) {
        window().dragFilm(places[0], places[1]);
    } else {
        for (std::size_t i = 0; i < std::max<std::size_t>(1, pinCountOf(drawn).least); ++i)
            window().clickFilm(places[i]);
        if (drawn == DrawingKind::Path)
            window().press(Qt::Key_Return);
    }
    QCOMPARE(window().bench().tools.tool(), Tool::Look);
    const auto rows = stored();
    QCOMPARE(rows.size(), std::size_t{1});
    const Drawing& d = rows.front().drawing;
    QCOMPARE(d.kind, drawn);
    if (drawn != DrawingKind::Trail) {
        QVERIFY(!d.at.front().landmark);
        QVERIFY((d.at.front().at - places[0]).length() < 1.5);
    }
    QCOMPARE(drawings().chosen(), rows.front().id);
    auto* options = window().find<DrawingOptions>();
    QVERIFY(options && options->isVisible());
    QVERIFY(!drawings().overlaysOn(window().bench().player.frame()).empty());
    window()->workspace().undoStack().undo();
    QVERIFY(stored().empty());
    window()->workspace().undoStack().redo();
    QCOMPARE(stored(), rows); // under the same id
}

void DrawTest::everyTool_hasAKeyOnTheSheet_andATooltip()
{
    for (const auto& b : BenchTools::drawButtons()) {
        auto* button = window().find<QToolButton>(b.icon);
        QVERIFY2(button && button->isVisible(), qPrintable(b.icon));
        QVERIFY2(button->toolTip().contains(QStringLiteral("(Shift+")), qPrintable(button->toolTip()));
        QVERIFY(window()->benchView()->commands().find(b.icon));
        QVERIFY(!button->icon().isNull());
    }
}

void DrawTest::nearAMark_itFollows_withShift_itStays()
{
    draw(DrawingKind::Line);
    window().dragFilm(at("shoulder.right"), at("elbow.right"));
    const Drawing d = stored().front().drawing;
    QCOMPARE(nameOf(*d.at[0].landmark), std::string("shoulder.right"));
    QCOMPARE(nameOf(*d.at[1].landmark), std::string("elbow.right"));
    window().press(Qt::Key_Delete);
    QVERIFY(stored().empty());
    draw(DrawingKind::Line);
    auto* film = window()->benchView()->film();
    const auto p = [&](const char* l) { return film->toWidget().map(QPointF(at(l).x, at(l).y)).toPoint(); };
    QTest::mousePress(film, Qt::LeftButton, Qt::ShiftModifier, p("shoulder.right"));
    QTest::mouseMove(film, p("elbow.right"));
    QTest::mouseRelease(film, Qt::LeftButton, Qt::ShiftModifier, p("elbow.right"));
    QVERIFY(!stored().front().drawing.at[0].landmark && !stored().front().drawing.at[1].landmark);
}

void DrawTest::circle_staysWhileTheHeadLeaves_saysByHowMuch()
{
    window().bench().player.setFrame(FrameIndex(20));
    const ImagePoint head = midpoint(at("ear.left"), at("ear.right"));
    draw(DrawingKind::Circle);
    window().dragFilm(head, {head.x + 14, head.y});
    const Drawing d = stored().front().drawing;
    QVERIFY(!d.at.front().landmark);
    QCOMPARE(static_cast<int>(d.lives.on), static_cast<int>(Lives::On::Repetition));
    window().bench().player.setFrame(FrameIndex(160));
    const PreparedRepetition prepared(window().bench().context.marking(), window().bench().player.clock());
    const auto left = headLeave(d, prepared, {FrameIndex(0), FrameIndex(160)});
    QVERIFY(left && left->widths > 1); // a pitcher strides
    const QString expected = QStringLiteral("head out by %1 of its width").arg(left->widths, 0, 'f', 1);
    QTRY_VERIFY_WITH_TIMEOUT(
        [&] {
            for (const auto& o : drawings().overlaysOn(FrameIndex(160)))
                if (const auto* shape = std::get_if<look::DrawingOverlay>(&o))
                    return shape->label.startsWith(expected);
            return false;
        }(),
        3000);
}

void DrawTest::onePicture_livesNowhereElse_stepThrough()
{
    window().bench().player.setFrame(FrameIndex(101)); // no key position
    QVERIFY(!window().bench().positions.here());
    draw(DrawingKind::Box);
    window().dragFilm({60, 60}, {120, 100});
    draw(DrawingKind::Arrow);
    window().dragFilm({200, 60}, {220, 100});
    for (int f = 90; f < 115; ++f) {
        window().bench().player.setFrame(FrameIndex(f));
        QTRY_COMPARE(window().bench().player.pictured().value, f);
        QCOMPARE(drawings().overlaysOn(window().bench().player.pictured()).size(),
                 std::size_t{f == 101 ? 2u : 1u}); // the box stays
        auto* options = window().find<DrawingOptions>();
        QCOMPARE(options->isVisible(), f == 101); // of the arrow, which is chosen
    }
}

void DrawTest::keyPosition_isSeenOnEveryRepetition()
{
    window().press(Qt::Key_5); // on a picture with marks
    const std::string id5 = pitchPack().keyPositions[4].id;
    auto library = store::Library::open(window().folder().toStdString());
    draw(DrawingKind::Line);
    window().dragFilm(at("hip.left"), at("shoulder.left"));
    const Drawing d = stored().front().drawing;
    QCOMPARE(d.lives.keyPosition, id5);
    QVERIFY(isShared(d));
    // a second repetition of the same film: the line is there as well
    const auto first = window().bench().context.repetition();
    auto second = first;
    second.id = {};
    const auto id = *library->add(second);
    QCOMPARE(library->drawings().seenOn(id)->size(), std::size_t{1});
}

void DrawTest::drag_byItsEnd_andWhole_undo()
{
    draw(DrawingKind::Line);
    window().dragFilm({60, 60}, {160, 60});
    window().dragFilm({160, 60}, {160, 100}); // its end
    QVERIFY((stored().front().drawing.at[1].at - ImagePoint{160, 100}).length() < 1.5);
    QVERIFY((stored().front().drawing.at[0].at - ImagePoint{60, 60}).length() < 1.5);
    window().dragFilm({110, 80}, {130, 80}); // its middle
    QVERIFY((stored().front().drawing.at[0].at - ImagePoint{80, 60}).length() < 2);
    QVERIFY((stored().front().drawing.at[1].at - ImagePoint{180, 100}).length() < 2);
    window()->workspace().undoStack().undo();
    QVERIFY((stored().front().drawing.at[0].at - ImagePoint{60, 60}).length() < 1.5);
    window()->workspace().undoStack().undo();
    QVERIFY((stored().front().drawing.at[1].at - ImagePoint{160, 60}).length() < 1.5);
    window().clickFilm({300, 300}); // beside everything: lets go
    QVERIFY(!drawings().chosen().isValid());
    draw(DrawingKind::Circle);
    window().dragFilm({300, 120}, {330, 120});
    window().dragFilm({330, 120}, {350, 120}); // its rim
    QVERIFY(std::abs(stored().back().drawing.radius - 50) < 2);
}

void DrawTest::options_changeLifeWeightAndFollowing()
{
    draw(DrawingKind::Line);
    window().dragFilm(at("shoulder.right"), at("elbow.right"));
    auto* lives = window().find<QComboBox>(QStringLiteral("drawingLives"));
    lives->setCurrentIndex(lives->findText(QStringLiteral("whole repetition")));
    emit lives->activated(lives->currentIndex());
    QCOMPARE(static_cast<int>(stored().front().drawing.lives.on), static_cast<int>(Lives::On::Repetition));
    window().find<QToolButton>(QStringLiteral("drawingThick"))->click();
    QVERIFY(stored().front().drawing.isThick);
    auto* follows = window().find<QToolButton>(QStringLiteral("drawingFollows"));
    QVERIFY(follows->isChecked());
    follows->click();
    QVERIFY(!stored().front().drawing.at[0].landmark);
    follows->click(); // there are marks under its ends
    QCOMPARE(nameOf(*stored().front().drawing.at[0].landmark), std::string("shoulder.right"));
    for (int i = 0; i < 4; ++i)
        window()->workspace().undoStack().undo();
    QVERIFY(!stored().front().drawing.isThick);
    QVERIFY(stored().front().drawing.at[0].landmark);
}

void DrawTest::copyRemoveHide_byKeys()
{
    draw(DrawingKind::Line);
    window().dragFilm({60, 60}, {160, 60});
    window().press(Qt::Key_D, Qt::ControlModifier);
    QCOMPARE(stored().size(), std::size_t{2});
    QVERIFY(stored()[1].drawing.at[0].at != stored()[0].drawing.at[0].at);
    window().press(Qt::Key_H);
    QVERIFY(drawings().overlaysOn(window().bench().player.frame()).empty());
    QVERIFY(window().find<QToolButton>(QStringLiteral("draw-hide"))->isChecked());
    window().press(Qt::Key_H);
    QCOMPARE(drawings().overlaysOn(window().bench().player.frame()).size(), std::size_t{2});
    drawings().choose(stored()[1].id);
    window().press(Qt::Key_Delete);
    QCOMPARE(stored().size(), std::size_t{1});
}

void DrawTest::label_isTypedOver()
{
    draw(DrawingKind::Label);
    window().clickFilm({200, 80});
    auto* words = window().find<QLineEdit>(QStringLiteral("drawingWords"));
    QTRY_VERIFY(words->hasFocus());
    QTest::keyClicks(words, QStringLiteral("<b>firm</b> knee"));
    QTest::keyClick(words, Qt::Key_Return);
    QCOMPARE(stored().front().drawing.text, std::string("<b>firm</b> knee"));
}

void DrawTest::path_endsWithEnter_orPressedTwice()
{
    draw(DrawingKind::Path);
    window().clickFilm({60, 60});
    window().clickFilm({90, 80});
    window().clickFilm({120, 60});
    QVERIFY(stored().empty());
    window().press(Qt::Key_Return);
    QCOMPARE(stored().front().drawing.at.size(), std::size_t{3});
    draw(DrawingKind::Path);
    window().clickFilm({200, 60});
    window().clickFilm({230, 80});
    window().clickFilm({230, 80});
    QCOMPARE(stored().size(), std::size_t{2});
    QCOMPARE(stored()[1].drawing.at.size(), std::size_t{2});
}

void DrawTest::escape_leavesNothingHalfDrawn()
{
    draw(DrawingKind::Angle);
    window().clickFilm({60, 60});
    window().clickFilm({90, 80});
    window().press(Qt::Key_Escape);
    QCOMPARE(window().bench().tools.tool(), Tool::Look);
    draw(DrawingKind::Angle);
    window().clickFilm({200, 60});
    window().clickFilm({230, 80});
    QVERIFY(stored().empty());
    window().clickFilm({260, 60});
    QVERIFY((stored().front().drawing.at[0].at - ImagePoint{200, 60}).length() < 1.5);
}

void DrawTest::list_goesThere_andSaysWhyMissing()
{
    draw(DrawingKind::Level);
    window().clickFilm(at("knee.left"));
    drawings().change(QStringLiteral("x"), [&] {
        auto row = drawings().all().front();
        row.drawing.lives = {Lives::On::Repetition, {}, {}};
        return row;
    }());
    window().bench().player.setFrame(FrameIndex(101)); // not marked
    auto* menu = window().find<QMenu>(QStringLiteral("drawingList"));
    emit menu->aboutToShow();
    QCOMPARE(menu->actions().size(), 1);
    QVERIFY2(menu->actions().front()->text().contains(QStringLiteral("is not marked on this picture")),
             qPrintable(menu->actions().front()->text()));
    QVERIFY(drawings().overlaysOn(FrameIndex(101)).empty());
    drawings().choose({});
    menu->actions().front()->trigger();
    QCOMPARE(drawings().chosen(), stored().front().id);
}

void DrawTest::trail_besideAMark_saysWhatToDo()
{
    draw(DrawingKind::Trail);
    window().clickFilm({5, 5});
    QVERIFY(stored().empty());
    QTRY_VERIFY(window()->messageText().contains(QStringLiteral("Click a marked point")));
}

void DrawTest::strobe_cutsOutWhatMoves_grows()
{
    window().press(Qt::Key_S, Qt::ShiftModifier);
    QCOMPARE(stored().size(), std::size_t{1});
    const auto range = stored().front().drawing.lives.stretch;
    const auto cutOuts = [&](FrameIndex f) {
        const auto overlays = drawings().overlaysOn(f);
        return std::count_if(overlays.begin(), overlays.end(),
                             [](const look::Overlay& o) { return std::holds_alternative<look::CutOutOverlay>(o); });
    };
    QTRY_VERIFY_WITH_TIMEOUT(cutOuts(range.last) >= 5, 20000);
    QVERIFY(cutOuts(range.first) <= 1);
    QVERIFY(cutOuts(FrameIndex((range.first.value + range.last.value) / 2)) < cutOuts(range.last));
    QCOMPARE(cutOuts(FrameIndex(range.last.value + 1)), 0);
}

void DrawTest::restart_keepsThem()
{
    draw(DrawingKind::Box);
    window().dragFilm({60, 60}, {120, 100});
    const auto before = stored();
    window().restart();
    QVERIFY(window().openOnBench(m_clip));
    QCOMPARE(drawings().all(), before);
}

void DrawTest::still_holdsThem()
{
    draw(DrawingKind::Box);
    window().dragFilm({60, 60}, {120, 100});
    const auto overlays = drawings().stillOverlaysOn(window().bench().player.frame());
    QCOMPARE(overlays.size(), std::size_t{1});
    QVERIFY(!std::get<look::DrawingOverlay>(overlays.front()).isChosen);
}

void DrawTest::readOnlyLibrary_saysSo()
{
    auto look = store::Library::open(window().folder().toStdString(), true);
    QVERIFY(look);
    QVERIFY(!look->add(store::DrawingRow{{}, window().bench().context.repetition().id, {}}));
}

KESTREL_TEST(DrawTest)
#include "draw_test.moc"
