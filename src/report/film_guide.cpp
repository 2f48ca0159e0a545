#include "report/film_guide.h"

#include "core/pack/film_support.h"
#include "report/document.h"

#include <QBuffer>
#include <QImage>
#include <QPainter>
#include <QPainterPath>
#include <QString>

#include <algorithm>
#include <cmath>

#include "look/fonts.h"
#include "look/palette.h"

namespace kestrel::report {

namespace {

/// Degrees from the target line to the camera, seen from the athlete: 0 in front, 90 at the chest side.
double directionOf(View view)
{
    switch (view) {
    case View::Front:
        return 0;
    case View::Diagonal:
        return 45;
    case View::Side:
        return 90;
    case View::SideBack:
        return -90;
    case View::Rear:
        return 180;
    case View::Overhead:
        break;
    }
    return 90;
}

/// The athlete, the line to the target and the camera, seen from above.
QImage drawn(View view)
{
    const look::Palette t = look::lightPalette();
    QImage image(560, 260, QImage::Format_RGB32);
    image.fill(t.panel);
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(look::font(14));
    const QPointF athlete(280, 110);
    p.setPen(QPen(t.muted, 1.5, Qt::DashLine));
    p.drawLine(athlete, QPointF(535, athlete.y()));
    p.setPen(t.muted);
    p.drawText(QRectF(400, athlete.y() - 26, 140, 20), Qt::AlignRight, QStringLiteral("to the target"));
    p.setPen(Qt::NoPen);
    p.setBrush(t.chestnut);
    p.drawEllipse(athlete, 13, 18);
    p.setBrush(t.ink);
    p.drawEllipse(athlete, 7, 7);
    const double angle = directionOf(view) * M_PI / 180;
    const QPointF away(std::cos(angle), std::sin(angle));
    const double reach = view == View::Overhead ? 34 : view == View::Front || view == View::Rear ? 190 : 112;
    const QPointF camera = athlete + away * reach;
    QPainterPath cone(camera);
    const QPointF across(-away.y(), away.x());
    cone.lineTo(athlete + across * 70);
    cone.lineTo(athlete - across * 70);
    cone.closeSubpath();
    QColor light = t.slatePale;
    light.setAlpha(130);
    p.fillPath(cone, light);
    p.setPen(QPen(t.slate, 2));
    p.setBrush(t.slate);
    p.drawRoundedRect(QRectF(camera.x() - 14, camera.y() - 9, 28, 18), 4, 4);
    p.setPen(t.slate);
    p.drawText(QRectF(camera.x() - 60, std::min(camera.y() + 12, 236.0), 120, 20), Qt::AlignHCenter, QStringLiteral("camera"));
    return image;
}

} // namespace

std::string viewWords(View view)
{
    switch (view) {
    case View::Side:
        return "side view";
    case View::SideBack:
        return "side view from the back";
    case View::Front:
        return "front view";
    case View::Rear:
        return "rear view";
    case View::Overhead:
        return "view from above";
    case View::Diagonal:
        return "diagonal view";
    }
    return "view";
}

Expected<FilmGuide> makeFilmGuide(const Pack& pack, View view)
{
    const auto place =
        std::find_if(pack.filming.begin(), pack.filming.end(), [view](const FilmingPlace& f) { return f.view == view; });
    if (place == pack.filming.end()) {
        std::string known;
        for (const auto& f : pack.filming)
            known += (known.empty() ? "" : ", ") + std::string(wordOf(f.view));
        return fail(ErrorCode::NotFound, "The pack does not say how to film this from there; it knows: " + known + ".",
                    pack.file);
    }
    FilmGuide guide;
    guide.view = view;
    guide.title = "How to film: " + pack.name + ", " + viewWords(view);
    guide.where = place->where;
    guide.height = place->height;
    guide.frame = place->frame;
    const double rate = neededRate(pack);
    std::string shortest;
    double holds = 1e9;
    for (const auto& k : pack.keyPositions)
        if (k.holdsMs > 0 && k.holdsMs < holds) {
            holds = k.holdsMs;
            shortest = k.name;
        }
    guide.rate = rate > 0 ? "At least " + std::to_string(std::llround(rate)) + " pictures a second: " + shortest +
                                " lasts about " + std::to_string(std::llround(holds)) +
                                " thousandths of a second, and a slower film may miss it. 240 is better; note the rate."
                          : "As many pictures a second as the camera can; note the rate.";
    for (const auto& m : pack.measures)
        if (std::find(m.views.begin(), m.views.end(), view) != m.views.end())
            guide.shows.push_back(m.name);
    guide.checklist = {"A guardian has agreed to filming.",
                       "The camera stands still, on a stand; its horizon is level.",
                       "The sun or the lamps are behind the camera.",
                       "Head, hands and both feet stay in the picture all the time.",
                       "Three repetitions at least, and nobody walks through.",
                       "Nobody stands where a ball, bat or racket can come."};
    return guide;
}

std::string toHtml(const FilmGuide& g)
{
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    drawn(g.view).save(&buffer, "PNG");
    QString shows, checks;
    for (const auto& s : g.shows)
        shows += (shows.isEmpty() ? QString() : QStringLiteral(" · ")) + escaped(s);
    for (const auto& c : g.checklist)
        checks += QStringLiteral("<li>%1</li>").arg(escaped(c));
    return QStringLiteral(
               "<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><title>%1</title><style>"
               "body{margin:0 auto;max-width:640px;padding:20px;font:16px/1.45 Inter,sans-serif;color:#24292E;"
               "background:#FFFDF8}h1{font-size:22px}h2{font-size:16px;color:#35597A;margin-bottom:2px}"
               "p{margin:2px 0 10px}</style></head><body><h1>%1</h1>"
               "<p><img width=\"560\" alt=\"The camera and the athlete from above\" src=\"data:image/png;base64,%2\"></p>"
               "<h2>Where</h2><p>%3</p><h2>How high</h2><p>%4</p><h2>In the picture</h2><p>%5</p>"
               "<h2>How fast</h2><p>%6</p><h2>Before you press the button</h2><ul>%7</ul>"
               "<h2>What this view shows</h2><p>%8</p></body></html>\n")
        .arg(escaped(g.title), QString::fromLatin1(bytes.toBase64()), escaped(g.where), escaped(g.height), escaped(g.frame),
             escaped(g.rate), checks, shows)
        .toStdString();
}

} // namespace kestrel::report
