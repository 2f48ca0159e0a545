#pragma once

#include "app/bench/bench.h"

class QPoint;
class QWidget;

namespace kestrel::app {

/// Asks how far a place on the ground lies along and across the court, in a small form beside it. Enter takes it, Escape does
/// not. \param beside  on the screen
void askForGroundPlace(Bench&, ImagePoint, QWidget* parent, QPoint beside);

} // namespace kestrel::app
