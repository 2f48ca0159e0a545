#pragma once

#include "app/show/shown_day.h"
#include "app/workspace/background.h"

#include <QImage>
#include <QObject>

#include <memory>

namespace kestrel::app {

/// The walk-through of the day on the bench: proposed from its review until the coach changes it, then the coach's own, with
/// undo.
class WalkEditor : public QObject {
    Q_OBJECT
public:
    WalkEditor(Workspace&, Bench&, QObject* parent = nullptr);

    /// Looks again what is on the bench; changed() follows.
    void refresh();
    /// Null: nothing is on the bench, or it is being gathered.
    const std::shared_ptr<const ShownDay>& day() const { return m_day; }
    const report::WalkScript& script() const { return m_script; }
    bool isOwn() const { return m_isOwn; } ///< the coach changed it
    bool isGathering() const { return m_isGathering; }
    /// With the voices' whole paths, for playing and writing.
    report::WalkScript scriptToPlay() const;

    void change(const QString& text, const report::WalkScript&);
    void changeStop(const QString& text, std::size_t n, const report::WalkStop&);
    void move(std::size_t from, std::size_t to);
    void remove(std::size_t n);
    /// After a stop: the picture that is stood at on the Bench, with the chosen reading.
    void addFromBench(std::size_t after);
    /// At the end: a picture in place of the film, such as two films together or a sum, and what is said of it. What is on the
    /// bench is gathered first where that is still to be done.
    void addPicture(const QImage&, const std::string& text);

    /// Of which repetition a stop is; an invalid id: of none.
    store::RepetitionId repetitionOf(std::size_t n) const;
    /// What is drawn on the film and seen on the picture on which a stop stands.
    std::vector<store::DrawingRow> filmDrawingsOn(std::size_t n) const;
    void keepOnStopOnly(std::size_t n, const store::DrawingRow&); ///< off the film, onto this stop alone
    void putOnFilm(std::size_t n, std::size_t drawing);           ///< one of the stop's own, onto the film
    void removeDrawing(std::size_t n, std::size_t drawing);       ///< one of the stop's own
    /// Whether a drawing can belong to a stop alone: a strobe is made from the film, and what hides a face hides it everywhere.
    static bool canLeaveTheFilm(const Drawing& d) { return d.kind != DrawingKind::Strobe && !d.hides; }
    void proposeAnew();

signals:
    void changed();
    void message(const QString& text);

private:
    void apply(ShownDay);
    void readScript();
    std::string content(const report::WalkScript&) const;
    void append(const report::WalkStop&);
    /// A change of the talk and of what is drawn on the film, as one.
    void changeWithFilm(const QString& text, const report::WalkScript& after, Workspace::Work onFilm, Workspace::Work offFilm);

    Workspace& m_workspace;
    Bench& m_bench;
    Background m_work;
    bool m_isGathering = false, m_isOwn = false;
    store::DayId m_dayId;
    std::vector<store::RepetitionId> m_ids; // by which a kept script names its repetitions
    std::shared_ptr<const ShownDay> m_day;
    report::WalkScript m_script;
    struct Waiting {
        store::DayId day;
        report::WalkStop stop;
    };
    std::vector<Waiting> m_waiting; // to be added once their day is gathered
};

} // namespace kestrel::app
