#include "report/match_film.h"

#include "look/film_image.h"
#include "look/palette.h"
#include "media/film.h"
#include "report/picture_film.h"

#include <QPainter>
#include <QString>

#include <algorithm>

namespace kestrel::report {

namespace {

constexpr double kAround = 1, kRate = PictureFilm::kRate; // seconds about a rally; pictures a second
constexpr media::PixelSize kLargest{1280, 720};

void writeScore(QImage& image, const QString& words)
{
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(std::max(12, image.height() / 22));
    font.setWeight(QFont::DemiBold);
    painter.setFont(font);
    const QFontMetrics metrics(font);
    const int pad = font.pixelSize() / 2;
    const QRect box(pad, pad, metrics.horizontalAdvance(words) + 2 * pad, metrics.height() + pad);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0x1B, 0x22, 0x28, 215));
    painter.drawRoundedRect(box, 4, 4);
    painter.setPen(look::darkPalette().ink);
    painter.drawText(box, Qt::AlignCenter, words);
}

} // namespace

Expected<void> writeMatchFilm(const MatchLog& log, const MatchSport& sport, const MatchScore& score,
                              const std::vector<std::size_t>& rallies, const std::string& file,
                              const std::function<void(FrameIndex, QImage&)>& hide, const std::function<void(double)>& progress,
                              std::stop_token stop)
{
    auto written = PictureFilm::to(file);
    if (!written)
        return tl::unexpected(written.error());
    struct Part {
        std::size_t rally;
        double from, to;
    };
    std::vector<Part> parts;
    double whole = 0;
    for (const std::size_t n : rallies)
        if (n < log.rallies.size() && log.rallies[n].from && log.rallies[n].to) {
            parts.push_back({n, std::max(0.0, *log.rallies[n].from - kAround), *log.rallies[n].to + kAround});
            whole += parts.back().to - parts.back().from;
        }
    if (parts.empty())
        return fail(ErrorCode::BadArgument, "None of these rallies has a place on the film.", file);
    auto film = media::Film::open(log.film, {.stop = stop});
    if (!film)
        return tl::unexpected(film.error());
    const auto& shown = film->info().shown;
    for (const Part& part : parts) {
        const MatchState& before = score.before[part.rally];
        const QString words =
            QString::fromStdString(log.players[0] + "  " + pointsWords(before, sport, log.players) + "  " + log.players[1] +
                                   "   (" + std::to_string(before.games[0]) + "-" + std::to_string(before.games[1]) + ")");
        const int count = std::max(1, static_cast<int>((part.to - part.from) * kRate));
        for (int k = 0; k < count; ++k) {
            if (stop.stop_requested())
                return fail(ErrorCode::Cancelled, "Stopped; no film was written.", file);
            const auto at = std::upper_bound(shown.begin(), shown.end(), MediaTime::fromSeconds(part.from + k / kRate));
            const auto frame = std::max<std::ptrdiff_t>(0, at - shown.begin() - 1);
            const auto picture = film->frame(FrameIndex(frame), kLargest, stop);
            if (!picture)
                return tl::unexpected(picture.error());
            QImage shot = look::toImage(*picture).copy();
            if (hide)
                hide(FrameIndex(frame), shot);
            if (auto done = written->write(shot, [&](QImage& image) { writeScore(image, words); }); !done)
                return done;
            if (progress)
                progress(std::min(1.0, written->pictures() / (whole * kRate)));
        }
    }
    return written->finish();
}

} // namespace kestrel::report
