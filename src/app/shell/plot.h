#pragma once

// the library is written with a word of Qt's that is not used here any more
#define foreach(variable, container) for (variable : container)
#include <qcustomplot.h>
#undef foreach

namespace kestrel::app {

/// Gives a plot the window's colours and type; to be called again when the theme has changed.
void dressPlot(QCustomPlot&);

} // namespace kestrel::app
