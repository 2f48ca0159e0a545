#include "app/pair/pair_output.h"

#include "look/palette.h"
#include "report/picture_film.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr int kGap = 8; // pixels
constexpr double kUnitWidth = 640;

QImage joined(const QImage& a, const QImage& b, bool isBeside)
{
    // both as high (or as wide) as the smaller one
    const QImage one = isBeside ? a.scaledToHeight(std::min(a.height(), b.height()), Qt::SmoothTransformation)
                                : a.scaledToWidth(std::min(a.width(), b.width()), Qt::SmoothTransformation);
    const QImage two = isBeside ? b.scaledToHeight(one.height(), Qt::SmoothTransformation)
                                : b.scaledToWidth(one.width(), Qt::SmoothTransformation);
    QImage all(isBeside ? QSize(one.width() + kGap + two.width(), one.height())
                        : QSize(one.width(), one.height() + kGap + two.height()),
               QImage::Format_RGB32);
    all.fill(look::darkPalette().ground);
    QPainter painter(&all);
    painter.drawImage(0, 0, one);
    painter.drawImage(isBeside ? QPoint(one.width() + kGap, 0) : QPoint(0, one.height() + kGap), two);
    return all;
}

void paintOver(QImage& image, const std::vector<look::Overlay>& overlays)
{
    QPainter painter(&image);
    look::paintOverlays(painter, overlays, {}, look::lightPalette(), std::max(1.0, image.width() / kUnitWidth));
}

} // namespace

PairPictures::PairPictures(const std::array<PairSide, 2>& sides, PairLook look, std::stop_token stop)
    : m_sides(sides),
      m_look(std::move(look)), m_pictures{FilmPictures(stop, sides[0].hidesFaces), FilmPictures(stop, sides[1].hidesFaces)}
{
}

QImage PairPictures::paint(FrameIndex a, FrameIndex b)
{
    QImage one = m_pictures[0].drawnOn(m_sides[0].film, a);
    QImage two = m_pictures[1].drawnOn(m_sides[1].film, b);
    if (one.isNull() || two.isNull())
        return {};
    std::vector<look::Overlay> overlays;
    const PairPlace place{a, b, m_look.anchor};
    if (m_look.layout == PairLayout::Ghost)
        addGhost(overlays, m_sides[0], m_sides[1], place, two, m_look.ghostShare);
    if (m_look.hasGrid)
        addGrid(overlays, m_sides[0], a, m_look.anchor);
    if (m_look.hasBodyLines)
        addBodyLines(overlays, m_sides[0], m_sides[1], place);
    paintOver(one, overlays);
    if (m_look.hasGrid) {
        std::vector<look::Overlay> grid;
        addGrid(grid, m_sides[1], b, m_look.anchor);
        paintOver(two, grid);
    }
    return m_look.layout == PairLayout::Ghost ? one : joined(one, two, m_look.layout == PairLayout::Beside);
}

std::vector<std::string> PairPictures::warnings() const
{
    auto said = m_pictures[0].warnings();
    for (const auto& w : m_pictures[1].warnings())
        said.push_back(w);
    return said;
}

Expected<std::vector<std::string>> savePairClip(const std::array<PairSide, 2>& sides, const Pack& pack, const PairLook& look,
                                                const PairRun& run, const std::string& file,
                                                const std::function<void(double)>& progress, std::stop_token stop)
{
    PairPictures pictures(sides, look, stop);
    const auto &a = sides[0].film, &b = sides[1].film;
    const LineUp lineUp(a.marking, a.clock, b.marking, b.clock, pack, run.at, run.by);
    const auto from = a.clock.timeOf(a.repetition.first), to = a.clock.timeOf(a.repetition.last);
    if (!from || !to)
        return fail(ErrorCode::BadArgument, "The first film has no pictures.", a.file);
    auto written = report::PictureFilm::to(file);
    if (!written)
        return tl::unexpected(written.error());
    constexpr double kRate = report::PictureFilm::kRate;
    const int count = std::max(1, static_cast<int>(std::lround((*to - *from) / run.speed * kRate)));
    for (int n = 0; n < count; ++n) {
        if (stop.stop_requested())
            return fail(ErrorCode::Cancelled, "Stopped; no film was written.", file);
        const FrameIndex frame = a.clock.frameAt(RealTime{from->seconds + n * run.speed / kRate});
        const QImage image = pictures.paint(frame, lineUp.ofB(FramePosition(frame), run.offset).nearest());
        if (image.isNull()) {
            const auto said = pictures.warnings();
            return fail(ErrorCode::CannotOpen, said.empty() ? "A film cannot be read." : said.front(), file);
        }
        if (auto done = written->write(image); !done)
            return tl::unexpected(done.error());
        if (progress)
            progress((n + 1.0) / count);
    }
    return written->finish().map([&] { return pictures.warnings(); });
}

} // namespace kestrel::app
