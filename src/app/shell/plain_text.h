#pragma once

#include <QObject>

namespace kestrel::app {

/// Text is text: what a name, a pack or a file says is never read as formatting, in no label and no tooltip of the program.
/// A widget that shows formatting of its own, with everything else escaped, is told by setFormatted().
class PlainText : public QObject {
    Q_OBJECT
public:
    /// For the whole application; once is enough.
    static void install();
    static void setFormatted(QWidget*);

protected:
    bool eventFilter(QObject*, QEvent*) override;

private:
    using QObject::QObject;
};

} // namespace kestrel::app
