#pragma once

#include "core/scene/drawing.h"

#include <QObject>

namespace kestrel::app {

/// What a press on the film does.
enum class Tool { Look, Mark, Point, ScaleLine, UpLine, TargetLine, PlayerBox, GroundMark, GroundLine, Draw, Seam };

/// Which tool is in hand.
class ToolBox : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    Tool tool() const { return m_tool; }
    void setTool(Tool tool)
    {
        if (tool == m_tool)
            return;
        m_tool = tool;
        emit toolChanged();
    }
    /// What the tool Draw draws.
    DrawingKind drawing() const { return m_drawing; }
    void setDrawing(DrawingKind kind)
    {
        if (m_tool == Tool::Draw && kind == m_drawing)
            return;
        m_drawing = kind;
        m_tool = Tool::Draw;
        emit toolChanged();
    }

signals:
    void toolChanged();

private:
    Tool m_tool = Tool::Look;
    DrawingKind m_drawing = DrawingKind::Line;
};

} // namespace kestrel::app
