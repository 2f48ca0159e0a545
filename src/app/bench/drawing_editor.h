#pragma once

#include "app/bench/clip_context.h"
#include "app/bench/key_positions.h"
#include "app/film/film_player.h"
#include "app/workspace/background.h"
#include "look/drawing_overlays.h"

#include <QTimer>

#include <map>
#include <memory>

namespace kestrel::app {

/// What is drawn on the repetition on the bench: which is chosen, how it lies on a picture, adding and changing it.
class DrawingEditor : public QObject {
    Q_OBJECT
public:
    DrawingEditor(Workspace&, ClipContext&, FilmPlayer&, KeyPositions&, QObject* parent = nullptr);

    const std::vector<store::DrawingRow>& all() const { return m_rows; } ///< in the order they were drawn
    const store::DrawingRow* find(store::DrawingId) const;               ///< null: it is not there
    /// The pictures on which it is seen; empty: its key position is not placed.
    std::optional<FrameRange> rangeOf(const Drawing&) const;
    /// As it lies on a picture; empty: not seen there, or what it follows is not marked there.
    std::optional<DrawnShape> shapeOn(const Drawing&, FrameIndex) const;
    /// A sentence why a drawing that should be seen on a picture is not: "left knee is not marked here"; empty: nothing is amiss.
    QString whyMissing(const Drawing&, FrameIndex) const;
    /// What it measures there; empty: nothing.
    QString wordsOn(const Drawing&, FrameIndex) const;

    store::DrawingId chosen() const { return m_chosen; }
    const store::DrawingRow* chosenRow() const { return find(m_chosen); } ///< null: none
    void choose(store::DrawingId);                                        ///< an invalid one: none
    bool areHidden() const { return m_areHidden; }
    void setHidden(bool);

    bool hidesAnything() const; ///< one of them hides what is inside it

    /// When a new drawing of a kind is seen, standing here.
    Lives usualLives(DrawingKind) const;
    void add(const Drawing&); ///< and chooses it
    void addStrobe();         ///< of the loop, or of the movement
    /// \param text  what the coach reads after "Undo"
    void change(const QString& text, const store::DrawingRow& after);
    void duplicateChosen();
    void removeChosen();
    /// What the chosen one follows stays where it is here, or follows the marks it lies on.
    void setChosenFollows(bool);

    /// A mark on a picture, near a place; null: none.
    const Mark* markNear(ImagePoint, double reach, FrameIndex) const;

    /// What is seen of them on a picture. \param hidden  one that is being dragged
    std::vector<look::Overlay> overlaysOn(FrameIndex, store::DrawingId hidden = {}) const;
    /// For a still: with every number, and none chosen.
    std::vector<look::Overlay> stillOverlaysOn(FrameIndex) const;

signals:
    void changed(); ///< drawings, which is chosen, or what they say
    void message(const QString& text);

private:
    void reload();
    void forget();
    void makeStrobes();
    std::vector<Drawing> drawings() const;
    const PreparedRepetition& prepared() const;
    FrameRange repetition() const;
    look::DrawingOverlay overlayOf(const store::DrawingRow&, DrawnShape) const;

    Workspace& m_workspace;
    ClipContext& m_context;
    FilmPlayer& m_player;
    KeyPositions& m_positions;
    std::vector<store::DrawingRow> m_rows;
    store::DrawingId m_chosen;
    bool m_areHidden = false;
    Background m_strobeWork;
    look::Strobes m_strobes; // of the drawings as they were when they were last made
    store::RepetitionId m_strobesOf;
    QTimer m_rest; // the coach stands on a picture: its numbers are worked out
    mutable std::shared_ptr<const PreparedRepetition> m_prepared;
    std::map<std::pair<store::DrawingId, FrameIndex>, QString> m_words;
};

/// "head circle", "angle": how the coach calls a kind.
QString nameOf(DrawingKind);

} // namespace kestrel::app
