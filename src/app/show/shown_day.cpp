#include "app/show/shown_day.h"

#include "core/pack/pack_folder.h"
#include "look/film_image.h"

#include <QDate>
#include <QFileInfo>
#include <QPainter>

#include <algorithm>

#include <nlohmann/json.hpp>

namespace kestrel::app {

namespace {

constexpr double kUnitWidth = 500; // a picture so wide is drawn over with thin lines; documents show them small

} // namespace

std::optional<ShownDayRequest> ShownDayRequest::of(const Workspace& workspace, const Bench& bench)
{
    if (!bench.context.isOpen() || !bench.context.pack())
        return std::nullopt;
    ShownDayRequest request;
    request.m_review = bench.review.review(); // judges where that is still to be done
    request.m_pack = *bench.context.pack();
    request.m_facts = {bench.context.athlete().name, bench.context.day().date, {}};
    request.m_together = bench.review.together();
    request.m_onBench = bench.context.repetition().id;
    request.m_hidesFaces = bench.context.hidesFaces();
    request.openLibrary = workspace.library().again(true);
    return request;
}

Expected<ShownDay> ShownDayRequest::gather(const store::Library& library) const
{
    ShownDay day{m_pack, m_review, m_facts, {}, {}, m_hidesFaces, 0};
    for (const auto& one : m_together) {
        auto film = filmOf(library, one.id, one.read);
        if (!film)
            return tl::unexpected(film.error());
        if (one.id == m_onBench)
            day.onBench = day.films.size();
        day.films.push_back(std::move(*film));
        day.names.push_back("repetition " + std::to_string(day.films.size()));
    }
    return day;
}

void keepSent(Workspace& workspace, const Bench& bench, const std::string& kind, const QString& file, std::string content)
{
    if (!bench.context.isOpen() || !bench.context.pack())
        return;
    store::SentRow sent;
    sent.day = bench.context.day().id;
    sent.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    sent.kind = kind;
    sent.name = QFileInfo(file).fileName().toStdString();
    sent.review = toJson(bench.review.review(), *bench.context.pack()).dump();
    sent.content = std::move(content);
    workspace.saveSilently([sent](store::Library& l) { return l.sent().add(sent).map([](store::SentId) {}); });
}

void hideFaces(vision::FaceHider& hider, QImage& image, const report::WalkFilm& film, FrameIndex frame)
{
    hider.hide({image.bits(), static_cast<int>(image.bytesPerLine()), {image.width(), image.height()}}, film.file, film.marking,
               film.repetition, frame);
}

QImage FilmPictures::picture(const report::WalkFilm& film, FrameIndex frame)
{
    auto it = m_films.find(film.file);
    if (it == m_films.end())
        it = m_films.emplace(film.file, media::Film::open(film.file, {.stop = m_stop, .knownIndex = film.knownIndex})).first;
    const auto picture = it->second.and_then([&](media::Film& open) { return open.frame(frame, {}, m_stop); });
    if (!picture && !m_wrong)
        m_wrong = picture.error();
    if (!picture)
        return {};
    QImage image = look::toImage(*picture);
    const auto& drawings = film.marking.drawings;
    if (!m_hidesFaces && std::none_of(drawings.begin(), drawings.end(), [](const Drawing& d) { return d.hides; }))
        return image;
    if (!m_hider) {
        auto hider = vision::FaceHider::load(shippedFolder("models"));
        if (!hider) {
            m_wrong = hider.error();
            return {};
        }
        m_hider.emplace(std::move(*hider));
    }
    image = image.copy();
    hideFaces(*m_hider, image, film, frame);
    return image;
}

QImage FilmPictures::drawnOn(const report::WalkFilm& film, FrameIndex frame)
{
    QImage image = picture(film, frame);
    if (image.isNull() || film.marking.drawings.empty())
        return image;
    image = image.copy();
    const PreparedRepetition prepared(film.marking, film.clock);
    const auto strobes = m_films.at(film.file).and_then(
        [&](media::Film& open) { return look::makeStrobes(open, film.marking.drawings, film.marking, film.repetition, m_stop); });
    QPainter painter(&image);
    look::paintOverlays(
        painter,
        look::drawingOverlays(film.marking.drawings, prepared, film.repetition, frame, strobes.value_or(look::Strobes())), {},
        look::lightPalette(), std::max(1.0, image.width() / kUnitWidth));
    return image;
}

} // namespace kestrel::app
