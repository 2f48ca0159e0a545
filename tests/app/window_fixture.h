#pragma once

#include "support/coded_film.h"
#include "support/markings.h"

#include "app/bench/bench_view.h"
#include "app/bench/ribbon_view.h"
#include "app/film/film_canvas.h"
#include "app/roster/roster_view.h"
#include "app/show/page_view.h"
#include "app/show/show_view.h"
#include "app/window/main_window.h"

#include <QTemporaryDir>
#include <QtTest>

#include <memory>

namespace kestrel::test {

/// A simulated pitch with its film, made once for the whole program: 640x360 at 120 pictures a second.
struct FilmedPitch {
    sim::Simulated truth;
    QString file;
};
const FilmedPitch& filmedPitch();

/// The main window on a library in a folder of its own, with every pack that comes with the program.
class Window {
public:
    Window();
    ~Window();
    /// Closes the window and opens it again on the same library.
    void restart();

    app::MainWindow& operator*() { return *m_window; }
    app::MainWindow* operator->() { return m_window.get(); }
    app::Bench& bench() { return m_window->bench(); }
    /// Of what is on the bench now; waits where it is judged on another thread.
    const Review& review();
    QString folder() const { return m_folder.path(); }

    /// An athlete as tall as the filmed one, with a filming day and the film; stored without the window.
    store::ClipId addFilmedPitch();
    /// The same with another film of it.
    store::ClipId addFilm(const std::string& file, std::int64_t frames, double rate);
    /// Brings the clip to the bench and waits for its first picture.
    bool openOnBench(store::ClipId);

    // what a person does
    void answer(const QString& typed); ///< to the question that is asked: types, and presses Enter
    void popupHasGone();               ///< a form was closed: the window is in front again
    bool isAsked() const;
    QAbstractButton* tileOf(store::ClipId);                      ///< in the Roster, once it is there; null: it does not come
    void press(int key, Qt::KeyboardModifiers = Qt::NoModifier); ///< to the bench
    void clickFilm(ImagePoint);                                  ///< at a point of the film's picture
    void dragFilm(ImagePoint from, ImagePoint to);
    template <class W> W* find(const QString& name = {}) { return m_window->findChild<W*>(name); }

private:
    void open();
    QTemporaryDir m_folder;
    std::unique_ptr<app::MainWindow> m_window;
};

} // namespace kestrel::test
