#pragma once

#include <QObject>

namespace kestrel::app {

/// What a press on the film does.
enum class Tool { Look, Mark, Point, ScaleLine, UpLine, TargetLine, PlayerBox, GroundMark, GroundLine };

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

signals:
    void toolChanged();

private:
    Tool m_tool = Tool::Look;
};

} // namespace kestrel::app
