#pragma once

#include "app/bench/key_positions.h"
#include "app/tools/tool_box.h"

#include <set>

namespace kestrel::app {

/// The marks of the body on the clip on the bench, the guide that asks for them one by one, and what the coach answers.
class MarkingEditor : public QObject {
    Q_OBJECT
public:
    MarkingEditor(Workspace&, ClipContext&, FilmPlayer&, KeyPositions&, ToolBox&, QObject* parent = nullptr);

    // the guide
    /// The landmark the guide asks for at this frame; empty: none here.
    std::optional<Landmark> nextLandmark() const;
    /// Marked and asked for at this key position.
    std::pair<int, int> guideCount() const;
    void skipLandmark();
    MarkExtent extent() const { return m_extent; }
    void setExtent(MarkExtent); ///< how much the guide asks for

    // marks
    void placeMark(ImagePoint); ///< the guide's landmark; goes on to the next one, or the next key position
    void moveMark(const Landmark&, ImagePoint);
    void placePoint(ImagePoint); ///< a point of no name, to be followed
    /// To the next of the programs' marks that readings rest on, least sure first.
    void goToUncertainMark();
    void nudgeSelected(double dx, double dy);
    void removeSelected();
    const std::optional<Landmark>& selectedMark() const { return m_selectedMark; }
    void selectMark(std::optional<Landmark>);
    std::vector<Mark> marksHere() const { return marksOn(m_player.frame()); }
    std::vector<Mark> marksOn(FrameIndex) const;

    // answers
    /// Whether the athlete has been taught to avoid that fault; what is not yet taught is never blamed.
    void setTaught(const std::string& fault, bool);
    bool isTaught(const std::string& fault) const;
    /// The coach's answer to an observation of the pack; empty takes it back.
    void answer(const std::string& observation, const std::optional<std::string>& choice);

signals:
    void selectionChanged();
    void guideChanged();                                    ///< what it asks for
    void pointCorrected(const kestrel::Landmark& landmark); ///< one that was followed, or is to be
    void message(const QString& text);

private:
    /// \param mergeKey  as EditNote
    void editMark(const QString& text, FrameIndex, const Landmark&, const std::optional<Mark>& after,
                  const QString& mergeKey = {});
    void setMark(const Landmark&, ImagePoint, const QString& mergeKey);
    std::vector<Landmark> landmarksAsked(const std::string& keyPosition) const;
    void goOn();
    void forget();

    Workspace& m_workspace;
    ClipContext& m_context;
    FilmPlayer& m_player;
    KeyPositions& m_positions;
    ToolBox& m_tools;
    MarkExtent m_extent = MarkExtent::Measured;
    std::optional<Landmark> m_selectedMark;
    std::set<std::pair<std::int64_t, Landmark>> m_skipped, m_lookedAt; // of the guide; of the doubtful ones
};

/// "front (lead) knee": how the guide names a landmark for this athlete.
QString plainName(const Landmark&, Hand, const Pack*);

} // namespace kestrel::app
