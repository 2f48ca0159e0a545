#pragma once

#include <QFont>

namespace kestrel::look {

/// Makes the shipped typeface known to Qt, once. Needs a QGuiApplication.
void loadFonts();

/// The shipped typeface with digits of equal width. Sizes in pixels.
QFont font(double pixels, QFont::Weight weight = QFont::Normal);

} // namespace kestrel::look
