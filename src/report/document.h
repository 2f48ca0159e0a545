#pragma once

#include "core/base/error.h"

#include <QImage>
#include <QRectF>
#include <QString>

#include <functional>
#include <string>

class QPainter;

namespace kestrel::report {

inline constexpr QSizeF kUpright{210, 297}, kLying{297, 210}; ///< A4, millimetres

/// Something that leaves the program on one sheet: to be printed, as a picture, or as a page for a telephone.
struct Document {
    std::string title;
    QSizeF paper = kUpright;                             ///< millimetres
    std::function<void(QPainter&, const QRectF&)> paint; ///< into a rectangle of the paper's proportions
    std::function<QString()> html;                       ///< one file with the pictures inside it; nothing is fetched
};

/// By the name's ending: .pdf, .png, .html or .htm. Whole or not at all. Errors: BadArgument for another ending, CannotWrite.
Expected<void> saveDocument(const Document&, const std::string& file);

/// The sheet as a picture of that width, pixels.
QImage pictureOf(const Document&, int width);

// what the web pages share
QString escaped(const std::string&);
QString pictureTag(const QImage&, const std::string& caption); ///< empty for a null picture
QString htmlPage(const std::string& title, const QString& style, const QString& body);

} // namespace kestrel::report
