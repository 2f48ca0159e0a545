#pragma once

#include "core/base/error.h"
#include "report/page.h"

#include <QRectF>
#include <string>

class QPainter;

namespace kestrel::report {

/// Paints the page into a rectangle of A4's proportions. False when the text runs into the caution at the foot.
bool paintPage(QPainter&, const Page&, const QRectF& a4);

/// One side of A4. Errors: CannotWrite.
Expected<void> savePdf(const Page&, const std::string& file);

/// One file with the pictures inside it; nothing is fetched when it is opened.
std::string toHtml(const Page&);

/// By the name's ending: .pdf, .html or .htm. Errors: BadArgument for another ending, CannotWrite.
Expected<void> savePage(const Page&, const std::string& file);

} // namespace kestrel::report
