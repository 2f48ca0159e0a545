#include "app/window/shots.h"

#include "app/bench/bench_view.h"
#include "app/bench/film_strip.h"
#include "app/film/film_canvas.h"
#include "app/flight/sums_view.h"
#include "app/live/live_view.h"
#include "app/match/match_view.h"
#include "app/packs/packs_view.h"
#include "app/pair/pair_view.h"
#include "app/plan/plan_view.h"
#include "app/plan/weeks_view.h"
#include "app/roster/roster_view.h"
#include "app/shell/theme.h"
#include "app/show/change_view.h"
#include "app/show/checklist_view.h"
#include "app/show/page_view.h"
#include "app/show/sheet_view.h"
#include "app/show/show_view.h"
#include "app/show/walk_view.h"
#include "app/window/main_window.h"
#include "core/pack/pack_folder.h"
#include "look/film_image.h"

#include <QComboBox>
#include <QDir>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QListWidget>
#include <QPainter>
#include <QPushButton>
#include <QTemporaryDir>

#include <array>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr int kLongestWaitMs = 600000, kThumbnailsMs = 5000, kSettleMs = 400;

/// Lets the window work until the condition holds, and a little longer for what is painted after. False: it did not come to hold.
template <class Condition> bool comesToHold(Condition holds)
{
    QElapsedTimer time;
    time.start();
    bool isHeld = holds();
    while (!isHeld && time.elapsed() < kLongestWaitMs) {
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
        isHeld = holds();
    }
    time.restart();
    while (time.elapsed() < kSettleMs)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    return isHeld;
}

/// What a coach would draw on a pitch.
void draw(Bench& bench)
{
    const auto& marking = bench.context.marking();
    const auto add = [&](DrawingKind kind, std::vector<Pin> at, double radius, Lives::On on) {
        Drawing d;
        d.kind = kind;
        d.at = std::move(at);
        d.radius = radius;
        d.lives.on = on;
        d.lives.keyPosition = "strike";
        bench.drawings.add(d);
    };
    const auto pin = [](const char* landmark) { return Pin{{}, *findLandmark(landmark)}; };
    if (const Event* set = findEvent(marking, "set"))
        if (const Mark* ear = findMark(marking, set->frame.nearest(), *findLandmark("ear.right")))
            add(DrawingKind::Circle, {{ear->at, {}}}, 34, Lives::On::Repetition);
    add(DrawingKind::Angle, {pin("shoulder.right"), pin("elbow.right"), pin("wrist.right")}, 0, Lives::On::KeyPosition);
    add(DrawingKind::Line, {pin("ankle.right"), pin("shoulder.right")}, 0, Lives::On::KeyPosition);
    bench.drawings.choose({});
}

} // namespace

Expected<void> takeShots(MainWindow& window, const QString& folder)
{
    if (!QDir().mkpath(folder))
        return fail(ErrorCode::CannotWrite, "The folder cannot be made.", folder.toStdString());
    std::optional<Error> wrong;
    const auto save = [&](const QImage& picture, const QString& name) {
        const QString file = QDir(folder).filePath(name + QStringLiteral(".png"));
        if (const auto saved = look::saveImage(picture, file.toStdString()); !saved)
            wrong = saved.error();
    };
    QString last = QStringLiteral("the first picture");
    const auto waitFor = [&](const auto& holds) {
        if (!comesToHold(holds) && !wrong)
            wrong = Error{ErrorCode::CannotWrite, "The window was not ready in time after " + last.toStdString() + ".", {}, {}};
    };
    const auto shoot = [&](const QString& name) {
        if (!wrong) // a picture of something half done is none
            save(window.grab().toImage(), name);
        last = name;
    };
    window.resize(1280, 800);
    window.show();
    auto& library = window.workspace().library();
    store::ClipId marked, earlier, unmarked; // earlier: of the same skill, another day
    for (const auto& a : library.athletes().all().value_or(std::vector<store::Athlete>{}))
        for (const auto& d : library.days().of(a.id).value_or(std::vector<store::FilmingDay>{}))
            for (const auto& c : library.clips().of(d.id).value_or(std::vector<store::Clip>{}))
                if (const auto m = library.marking(c.id); m && m->events.size() > 5 && m->athlete.age > 12 &&
                                                          c.scene.view == View::Side && d.skill == "overhand-pitch") {
                    earlier = marked;
                    marked = c.id;
                    window.roster()->select(a.id);
                } else if (m && m->events.empty() && c.scene.view == View::Side && d.skill == "overhand-pitch") {
                    unmarked = c.id;
                }
    if (!marked.isValid())
        return fail(ErrorCode::NotFound, "The library has no marked clip to show; pictures are taken from the demo library.",
                    library.folder());
    QElapsedTimer shown;
    shown.start();
    waitFor([&] { return shown.elapsed() > kThumbnailsMs; });
    shoot(QStringLiteral("roster"));
    auto& bench = window.bench();
    window.openClip(marked);
    bool painted = false;
    const auto watch = QObject::connect(&bench.player, &FilmPlayer::pictureReady, &window, [&] { painted = true; });
    waitFor([&] { return bench.player.isOpen() && painted; });
    const auto goBy = [&](const auto& act) { // to another picture, if it leads there
        const FrameIndex before = bench.player.frame();
        painted = false;
        act();
        waitFor([&] { return painted || bench.player.frame() == before; });
    };
    // what the one thing rests on, and what is best
    std::string main, best;
    for (const auto& f : bench.review.review().faults)
        if (bench.review.review().oneThing && f.fault == bench.review.review().oneThing->fault && !f.measures.empty())
            main = f.measures.front();
    if (!bench.review.review().strengths.empty())
        best = bench.review.review().strengths.front().measure;
    goBy([&] { bench.review.selectReading(main); });
    waitFor([&] { return window.benchView()->strip()->picturesReady() >= 10; });
    shoot(QStringLiteral("bench"));
    draw(bench);
    goBy([&] { bench.positions.goTo("strike"); });
    shoot(QStringLiteral("bench-drawn"));
    Theme::instance().setDark(true);
    goBy([&] { bench.review.selectReading(best); });
    shoot(QStringLiteral("bench-dark"));
    Theme::instance().setDark(false);
    window.goTo(MainWindow::Place::Show);
    waitFor([&] { return window.showView()->page()->isReady(); });
    shoot(QStringLiteral("page"));
    window.showView()->turnTo(ShowView::Leaf::Sheet);
    waitFor([&] { return window.showView()->sheet()->isReady(); });
    shoot(QStringLiteral("photo-sheet"));
    window.showView()->turnTo(ShowView::Leaf::Checklist);
    waitFor([&] { return window.showView()->checklist()->isReady(); });
    shoot(QStringLiteral("checklist"));
    window.showView()->turnTo(ShowView::Leaf::Change);
    if (auto* since = window.showView()->change()->findChild<QComboBox*>(QStringLiteral("changeSince")); since->count() > 1) {
        since->setCurrentIndex(1); // the other day of the same skill
        emit since->activated(1);
        waitFor([&] { return window.showView()->change()->isReady(); });
    }
    shoot(QStringLiteral("what-changed"));
    window.showView()->turnTo(ShowView::Leaf::Walk);
    waitFor([&] { return window.showView()->walk()->editor().day() != nullptr; });
    if (auto* stops = window.findChild<QListWidget*>(QStringLiteral("walkStops")); stops && stops->count() > 1)
        stops->setCurrentRow(1);
    waitFor([&] { return !window.showView()->walk()->stage().isPlaying(); });
    shoot(QStringLiteral("walk-through"));
    if (earlier.isValid()) {
        window.goTo(MainWindow::Place::Pair);
        auto& pair = window.pair()->model();
        pair.open(library.repetitions().of(earlier)->front().id, library.repetitions().of(marked)->front().id);
        std::array<bool, 2> seen{};
        for (std::size_t n = 0; n < 2; ++n)
            QObject::connect(&pair.player(n), &FilmPlayer::pictureReady, &window,
                             [&, n] { seen[n] = pair.player(n).pictured() == pair.player(n).frame(); });
        waitFor([&] { return pair.isOpen() && seen[0] && seen[1]; });
        QObject::disconnect(&pair.player(0), &FilmPlayer::pictureReady, &window, nullptr);
        QObject::disconnect(&pair.player(1), &FilmPlayer::pictureReady, &window, nullptr);
        shoot(QStringLiteral("pair"));
    }
    window.goTo(MainWindow::Place::Plan);
    auto& plan = *window.plan();
    plan.context().setToday(*parseDate("2026-11-01")); // the day after the film
    plan.open(bench.context.athlete().id);
    plan.findChild<QDateEdit*>(QStringLiteral("planStart"))->setDate(QDate(2026, 11, 2));
    plan.weeks()->make();
    if (plan.context().plan() && plan.context().plan()->sessions.size() > 1)
        plan.weeks()->choose(plan.context().plan()->sessions[1].date);
    waitFor([] { return true; });
    shoot(QStringLiteral("plan"));
    plan.turnTo(PlanView::Leaf::Workload);
    waitFor([] { return true; });
    shoot(QStringLiteral("workload"));
    if (const auto matches = library.matches().all(); matches && !matches->empty()) {
        window.goTo(MainWindow::Place::Match);
        auto& match = window.match()->model();
        match.open(matches->front().id);
        painted = false;
        const auto seen = QObject::connect(&match.player(), &FilmPlayer::pictureReady, &window, [&] { painted = true; });
        waitFor([&] { return match.player().isOpen(); });
        match.player().setFrame(match.player().clock().frameAt(RealTime{*match.log().rallies[1].from + 0.8}));
        waitFor([&] { return painted; });
        shoot(QStringLiteral("match"));
        QObject::disconnect(seen);
        match.close();
    }
    window.goTo(MainWindow::Place::Sums);
    window.sums()->open("serve_window");
    waitFor([] { return true; });
    shoot(QStringLiteral("sums"));
    QImage cards(1600, 1066, QImage::Format_RGB32); // four of the cards as they are taken along
    QPainter cardPainter(&cards);
    int card = 0;
    for (const char* id : {"pitch_plane", "jump_shot", "step_in", "spin"}) {
        window.sums()->open(id);
        cardPainter.drawImage(QRect(800 * (card % 2), 533 * (card / 2), 800, 533), window.sums()->picture());
        ++card;
    }
    cardPainter.end();
    save(cards, QStringLiteral("sums-cards"));
    const auto markByItself = [&](store::ClipId clip) {
        painted = false;
        window.openClip(clip);
        waitFor([&] { return bench.player.isOpen() && painted; });
        auto& marker = window.benchView()->marker();
        marker.start();
        waitFor([&] { return !marker.isRunning(); });
        waitFor([&] { return window.benchView()->strip()->picturesReady() >= 10; });
    };
    if (unmarked.isValid()) {
        markByItself(unmarked);
        goBy([&] { bench.marks.goToUncertainMark(); }); // least sure, with its way
        shoot(QStringLiteral("marked-by-itself"));
    }
    window.goTo(MainWindow::Place::Live);
    window.live()->start();
    waitFor(
        [&] { return window.live()->camera().recorder().isStarted() && window.live()->camera().recorder().secondsHeld() > 2; });
    shoot(QStringLiteral("live"));
    window.live()->stop();
    window.goTo(MainWindow::Place::Packs);
    if (auto* mine = window.findChild<QPushButton*>(QStringLiteral("makeItMine"))) {
        window.packs()->choose("overhand-pitch");
        mine->click();
        if (auto* items = window.packs()->findChild<QListWidget*>(QStringLiteral("items")))
            for (auto* item : items->findItems(QStringLiteral("Head drop"), Qt::MatchExactly))
                items->setCurrentItem(item);
        waitFor([] { return true; });
        shoot(QStringLiteral("pack-edited"));
        window.workspace().undoStack().undo();
    }
    QObject::disconnect(watch);
    QTemporaryDir nowhere;
    if (auto empty = store::Library::open(nowhere.path().toStdString())) {
        MainWindow first(std::move(*empty), shippedFolder("packs"));
        first.resize(1280, 800);
        first.show();
        waitFor([] { return true; });
        save(first.grab().toImage(), QStringLiteral("empty-library"));
    }
    if (wrong)
        return tl::unexpected(*wrong);
    return {};
}

} // namespace kestrel::app
