#include "window_fixture.h"

#include "store/content_hash.h"

#include "app/roster/clip_tile.h"
#include "app/shell/chooser.h"

#include <QLineEdit>
#include <QSettings>

namespace kestrel::test {

const FilmedPitch& filmedPitch()
{
    static QTemporaryDir folder;
    static const FilmedPitch made = [] {
        auto o = pitch(View::Side, {"head_drop"});
        o.frameRate = 120;
        o.size = {640, 360};
        FilmedPitch f{simulated(o), folder.filePath(QStringLiteral("pitch.mp4"))};
        if (const auto saved = sim::saveClip(f.truth, f.file.toStdString()); !saved)
            qFatal("%s", saved.error().text().c_str());
        return f;
    }();
    return made;
}

Window::Window()
{
    QSettings::setPath(QSettings::IniFormat, QSettings::UserScope, m_folder.path() + QStringLiteral("/settings"));
    open();
}
Window::~Window() = default;

void Window::open()
{
    auto library = store::Library::open(m_folder.path().toStdString());
    if (!library)
        qFatal("%s", library.error().text().c_str());
    m_window = std::make_unique<app::MainWindow>(std::move(*library), packFolder());
    m_window->resize(1280, 800);
    m_window->show();
    if (!QTest::qWaitForWindowExposed(m_window.get()))
        qFatal("the window does not show");
}

void Window::restart()
{
    m_window.reset();
    open();
}

store::ClipId Window::addFilmedPitch()
{
    const auto& truth = filmedPitch().truth.truth;
    return addFilm(filmedPitch().file.toStdString(), truth.film.frames, truth.clock.capture);
}

const Review& Window::review()
{
    bench().review.review(); // asks
    if (!QTest::qWaitFor([&] { return bench().review.isJudged(); }, 10000))
        qFatal("never judged");
    return bench().review.review();
}

store::ClipId Window::addFilm(const std::string& file, std::int64_t frames, double rate)
{
    const auto& truth = filmedPitch().truth.truth;
    auto library = store::Library::open(m_folder.path().toStdString());
    const auto athlete = *library->add(
        store::Athlete{{}, "Ida Vale", "2013-03-08", Hand::Right, {{"2026-05-01", *truth.athlete.heightMetres}}, true});
    const auto day = *library->add(store::FilmingDay{{}, athlete, "2026-05-01", "overhand-pitch", "tall"});
    store::Clip clip;
    clip.day = day;
    clip.file = file;
    clip.contentHash = *store::calcContentHash(clip.file);
    clip.film = truth.film;
    clip.film.file.clear();
    clip.film.frames = frames;
    clip.clock = {rate, rate};
    clip.scene = truth.scene;
    return *library->add(clip, "stretch");
}

bool Window::openOnBench(store::ClipId id)
{
    QSignalSpy painted(&bench().player, &app::FilmPlayer::pictureReady);
    m_window->openClip(id);
    return QTest::qWaitFor([&] { return bench().player.isOpen() && painted.count() > 0; }, 10000);
}

void Window::answer(const QString& typed)
{
    if (!QTest::qWaitFor([this] { return isAsked(); })) // what is asked about may be looked up first
        qFatal("nothing is asked");
    auto* chooser = m_window->findChild<app::Chooser*>();
    auto* field = chooser->findChild<QLineEdit*>(QStringLiteral("chooserFilter"));
    QTest::keyClicks(field, typed);
    QTest::keyClick(field, Qt::Key_Return);
    popupHasGone();
}

void Window::popupHasGone()
{
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    m_window->activateWindow(); // as a window manager does
    if (!QTest::qWaitForWindowActive(m_window.get()))
        qFatal("the window does not become active again");
}

bool Window::isAsked() const
{
    const auto* chooser = m_window->findChild<app::Chooser*>();
    return chooser && chooser->isVisible();
}

QAbstractButton* Window::tileOf(store::ClipId clip)
{
    QAbstractButton* tile = nullptr;
    (void)QTest::qWaitFor([&] {
        for (auto* b : m_window->roster()->findChildren<app::ClipTile*>())
            if (b->property("clip").toLongLong() == clip.value && b->isVisible())
                tile = b;
        return tile != nullptr;
    });
    return tile;
}

void Window::press(int key, Qt::KeyboardModifiers modifiers)
{
    QTest::keyClick(m_window->benchView(), static_cast<Qt::Key>(key), modifiers);
}

void Window::clickFilm(ImagePoint p)
{
    auto* film = m_window->benchView()->film();
    QTest::mouseClick(film, Qt::LeftButton, {}, film->toWidget().map(QPointF(p.x, p.y)).toPoint());
}

void Window::dragFilm(ImagePoint from, ImagePoint to)
{
    auto* film = m_window->benchView()->film();
    const QPoint a = film->toWidget().map(QPointF(from.x, from.y)).toPoint(),
                 b = film->toWidget().map(QPointF(to.x, to.y)).toPoint();
    QTest::mousePress(film, Qt::LeftButton, {}, a);
    QTest::mouseMove(film, (a + b) / 2);
    QTest::mouseMove(film, b);
    QTest::mouseRelease(film, Qt::LeftButton, {}, b);
}

} // namespace kestrel::test
