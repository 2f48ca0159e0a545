#include "support/runner.h"
#include "window_fixture.h"

using namespace kestrel;
using namespace kestrel::test;

/// A film without library and marks; two at once.
class FilmPlayerTest : public QObject {
    Q_OBJECT
private slots:
    void twoPlayers_eachShowsItsOwn_withinOneBudget();
    void missingFilm_saysSo_theOtherGoesOn();

private:
    static void open(app::FilmPlayer& player)
    {
        const auto& truth = filmedPitch().truth.truth;
        player.setPictureSize({640, 360});
        player.open(filmedPitch().file, {}, truth.film.frames, truth.clock);
        QVERIFY(QTest::qWaitFor([&] { return player.isOpen(); }, 10'000));
    }
    static bool goesTo(app::FilmPlayer& player, std::int64_t frame)
    {
        player.setFrame(FrameIndex(frame));
        return QTest::qWaitFor([&] { return player.pictured().value == frame; }, 10'000);
    }
};

void FilmPlayerTest::twoPlayers_eachShowsItsOwn_withinOneBudget()
{
    constexpr std::size_t kBudget = 48u << 20;
    app::FilmPlayer::setMemory(kBudget);
    app::FilmPlayer one, two;
    open(one);
    open(two);
    QVERIFY(goesTo(one, 10) && goesTo(two, 40));
    QCOMPARE(one.frame().value, std::int64_t{10}); // each stands where it was put
    for (int i = 0; i < 30; ++i) {
        QVERIFY(goesTo(one, 11 + i));
        QVERIFY(goesTo(two, 39 - i));
    }
    QVERIFY2(one.cachedBytes() + two.cachedBytes() <= kBudget * 11 / 10,
             qPrintable(QString::number(one.cachedBytes() + two.cachedBytes())));
    one.setPlaying(true);
    two.setPlaying(true, true);
    QVERIFY(one.isPlaying() && two.isPlaying() && two.isBackward() && !one.isBackward());
    one.setPlaying(false);
    QVERIFY(two.isPlaying());
    two.close();
    QVERIFY(goesTo(one, 5));
    app::FilmPlayer::setMemory({});
}

void FilmPlayerTest::missingFilm_saysSo_theOtherGoesOn()
{
    app::FilmPlayer one, two;
    open(one);
    two.open(QStringLiteral("/no/such/film.mp4"), {}, 90, {30, 30});
    QTRY_VERIFY(two.error());
    QVERIFY(!two.isOpen());
    QCOMPARE(two.frames(), std::int64_t{90}); // what was known stands
    QVERIFY(goesTo(one, 20));
}

KESTREL_TEST(FilmPlayerTest)
#include "film_player_test.moc"
