#pragma once

#include "report/document.h"
#include "report/page.h"

#include <QRectF>
#include <string>

class QPainter;

namespace kestrel::report {

/// Paints the page into a rectangle of A4's proportions. False when the text runs into the caution at the foot, or the picture
/// that the coach put on it had no room and was left out.
bool paintPage(QPainter&, const Page&, const QRectF& a4);

/// One file with the pictures inside it; nothing is fetched when it is opened.
std::string toHtml(const Page&);

/// One side of A4, upright.
Document documentOf(const Page&);

} // namespace kestrel::report
