#pragma once

#include "app/workspace/workspace.h"

#include <vector>

namespace kestrel::app {

/// Which clip and repetition are on the bench, of which day and athlete, and what is marked on them: as the library has it.
class ClipContext : public QObject {
    Q_OBJECT
public:
    explicit ClipContext(Workspace&, QObject* parent = nullptr);

    void open(store::ClipId);
    void close();
    bool isOpen() const { return m_clip.id.isValid(); }
    const store::Clip& clip() const { return m_clip; }
    const store::FilmingDay& day() const { return m_day; }
    const store::Athlete& athlete() const { return m_athlete; }
    /// Of the day, in the order they were added; the one on the bench is among them.
    const std::vector<store::Clip>& clipsOfDay() const { return m_clips; }
    std::size_t clipNumber() const; ///< its place among them, from 0
    /// Of the clip, in the order of the film; empty only while nothing is open.
    const std::vector<store::RepetitionRow>& repetitions() const { return m_repetitions; }
    const store::RepetitionRow& repetition() const { return m_repetition; }
    /// Null: nothing is open, or the day's skill has no pack.
    const Pack* pack() const { return m_pack; }
    const Marking& marking() const { return m_marking; }
    std::string filmPath() const;
    /// Standing height on the day.
    std::optional<double> heightMetres() const { return m_marking.athlete.heightMetres; }

    /// A child whose guardian has not agreed to films.
    bool isConsentMissing() const;
    /// Whether faces are hidden on what leaves of this athlete, as the coach has set it.
    bool hidesFaces() const;

    void setRepetition(store::RepetitionId);
    void stepRepetition(int direction);
    void stepClip(int direction); ///< to the day's next clip, or the one before; round at the ends

signals:
    void clipChanged();    ///< another clip, or none
    void markingChanged(); ///< anything that is shown of it
    void repetitionChosen();
    void message(const QString& text);

private:
    void reload();

    Workspace& m_workspace;
    store::Clip m_clip;
    store::FilmingDay m_day;
    store::Athlete m_athlete;
    std::vector<store::Clip> m_clips;
    std::vector<store::RepetitionRow> m_repetitions;
    store::RepetitionRow m_repetition;
    const Pack* m_pack = nullptr;
    Marking m_marking;
};

} // namespace kestrel::app
