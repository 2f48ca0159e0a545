#pragma once

#include "app/bench/clip_context.h"
#include "app/tools/tool_box.h"

namespace kestrel::app {

/// What has to be known to read the clip on the bench: scale, up, target, view, rates, the court's ground.
class SceneEditor : public QObject {
    Q_OBJECT
public:
    SceneEditor(Workspace&, ClipContext&, ToolBox&, QObject* parent = nullptr);

    double knownLength() const { return m_knownLength; }
    void setKnownLength(double metres) { m_knownLength = metres; }
    void drawLine(ImagePoint from, ImagePoint to); ///< for the line tool in hand; for a box, from corner to corner
    void setView(View);
    void setRates(Rates);
    void setVariant(const std::string&); ///< of the repetition

    /// Between two places on the ground; drawn until another tool is taken.
    struct GroundLine {
        ImagePoint from, to;
        QString text; ///< its length
    };
    const std::optional<GroundLine>& groundLine() const { return m_groundLine; }
    /// One that lies there already is put right.
    void addGroundMark(const GroundMark&);
    void forgetGround();

signals:
    void groundChanged();
    void groundPlaced(kestrel::ImagePoint at);                                 ///< its distances are wanted
    void playerDrawn(kestrel::ImagePoint corner, double width, double height); ///< a box round the player, on this picture
    void message(const QString& text);

private:
    void measureOnGround(ImagePoint from, ImagePoint to);
    void editClip(const QString& text, const store::Clip& after);

    Workspace& m_workspace;
    ClipContext& m_context;
    ToolBox& m_tools;
    std::optional<GroundLine> m_groundLine;
    double m_knownLength = 0.61;
};

} // namespace kestrel::app
