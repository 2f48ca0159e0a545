#include "report/document.h"

#include "core/base/part_file.h"
#include "look/film_image.h"

#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>

namespace kestrel::report {

namespace {

constexpr int kPrinted = 300;       // dots per inch
constexpr int kPictureWidth = 2000; // pixels of a sheet saved as a picture

Expected<void> savePdf(const Document& d, const std::string& file)
{
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&buffer);
        writer.setPageSize(QPageSize(d.paper, QPageSize::Millimeter));
        writer.setPageMargins(QMarginsF(0, 0, 0, 0));
        writer.setResolution(kPrinted);
        writer.setTitle(QString::fromStdString(d.title));
        writer.setCreator(QStringLiteral("Jolly Kestrel"));
        QPainter painter(&writer);
        d.paint(painter, QRectF(0, 0, writer.width(), writer.height()));
    }
    return saveText(file, bytes.toStdString());
}

} // namespace

QImage pictureOf(const Document& d, int width)
{
    QImage image(width, qRound(width * d.paper.height() / d.paper.width()), QImage::Format_RGB32);
    QPainter painter(&image);
    d.paint(painter, QRectF(image.rect()));
    return image;
}

Expected<void> saveDocument(const Document& d, const std::string& file)
{
    const QString name = QString::fromStdString(file).toLower();
    if (name.endsWith(QStringLiteral(".pdf")))
        return savePdf(d, file);
    if (name.endsWith(QStringLiteral(".png")))
        return look::saveImage(pictureOf(d, kPictureWidth), file);
    if (name.endsWith(QStringLiteral(".html")) || name.endsWith(QStringLiteral(".htm")))
        return saveText(file, d.html().toStdString());
    return fail(ErrorCode::BadArgument, "The name has to end in .pdf, .png or .html.", file);
}

QString escaped(const std::string& s)
{
    return QString::fromStdString(s).toHtmlEscaped();
}

QString pictureTag(const QImage& image, const std::string& caption)
{
    if (image.isNull())
        return {};
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "JPEG", 85);
    return QStringLiteral("<img alt=\"%1\" src=\"data:image/jpeg;base64,%2\">")
        .arg(escaped(caption), QString::fromLatin1(bytes.toBase64()));
}

QString htmlPage(const std::string& title, const QString& style, const QString& body)
{
    static const QString common = QStringLiteral(
        "body{margin:0 auto;max-width:820px;padding:24px;background:#FFFDF8;color:#24292E;"
        "font:16px/1.45 Inter,system-ui,sans-serif}h1{margin:0;font-size:30px}h2{font-size:18px;color:#35597A;margin:24px 0 8px}"
        ".sub,.note{color:#62676F}.warn{color:#B3261E;font-weight:600}"
        ".foot{border-top:1px solid #DCD4C6;margin-top:20px;padding-top:10px;font-weight:600}");
    return QStringLiteral("<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><meta name=\"viewport\" "
                          "content=\"width=device-width,initial-scale=1\"><title>%1</title><style>%2%3</style></head><body>\n"
                          "%4</body></html>\n")
        .arg(escaped(title), common, style, body);
}

} // namespace kestrel::report
