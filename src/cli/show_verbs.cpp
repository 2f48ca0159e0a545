#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking_json.h"
#include "look/film_image.h"
#include "media/film.h"
#include "report/checklist.h"
#include "report/photo_sheet.h"
#include "report/walk_film.h"
#include "vision/face_hider.h"

#include <nlohmann/json.hpp>

#include <memory>

namespace kestrel::cli {

namespace {

/// A repetition with its film, open.
struct Shown {
    report::RepetitionFilm film;
    std::shared_ptr<media::Film> open;
};

Expected<Shown> load(const Pack& pack, const std::string& film, const std::string& markingFile)
{
    auto marking = loadMarking(markingFile);
    if (!marking)
        return tl::unexpected(marking.error());
    auto opened = media::Film::open(film);
    if (!opened)
        return tl::unexpected(opened.error());
    if (opened->info().frames() != marking->film.frames)
        return fail(ErrorCode::WrongField,
                    "The film has " + std::to_string(opened->info().frames()) + " pictures, the marking is of one with " +
                        std::to_string(marking->film.frames) + ".",
                    markingFile, "/film/frames");
    Shown shown;
    shown.film.file = film;
    shown.film.knownIndex = opened->indexBytes();
    shown.film.clock = FrameClock(opened->info().shown, marking->clock.slowFactor());
    shown.film.repetition = {FrameIndex(0), FrameIndex(marking->film.frames - 1)};
    shown.film.readings = calcReadings(pack, PreparedRepetition(*marking, shown.film.clock), {});
    shown.film.marking = std::move(*marking);
    shown.open = std::make_shared<media::Film>(std::move(*opened));
    return shown;
}

/// What was judged, of that pack's skill.
Expected<Review> loadReviewOf(const Pack& pack, const std::string& file)
{
    auto review = loadReview(file);
    if (review && review->pack != pack.id)
        return fail(ErrorCode::WrongField,
                    "The review is of the skill \"" + review->pack + "\", the pack is for \"" + pack.id + "\".", file, "/pack");
    return review;
}

/// A null one when it cannot be had.
QImage pictureOf(media::Film& film, FrameIndex frame)
{
    const auto picture = film.frame(frame);
    return picture ? look::toImage(*picture).copy() : QImage();
}

void hideOn(vision::FaceHider& hider, const report::RepetitionFilm& film, FrameIndex frame, QImage& image)
{
    if (!image.isNull())
        hider.hide({image.bits(), static_cast<int>(image.bytesPerLine()), {image.width(), image.height()}}, film.file,
                   film.marking, film.repetition, frame);
}

/// A film for each marking, or one for all.
Expected<std::vector<Shown>> loadAll(const Pack& pack, const std::vector<std::string>& films,
                                     const std::vector<std::string>& markings)
{
    if (films.size() != 1 && films.size() != markings.size())
        return fail(ErrorCode::BadArgument, "Give one --film for each --marking, or one for all of them.");
    std::vector<Shown> all;
    for (std::size_t n = 0; n < markings.size(); ++n) {
        auto shown = load(pack, films[films.size() == 1 ? 0 : n], markings[n]);
        if (!shown)
            return tl::unexpected(shown.error());
        all.push_back(std::move(*shown));
    }
    return all;
}

int said(const std::vector<std::string>& warnings, Streams io)
{
    for (const auto& w : warnings)
        io.err << w << "\n";
    return warnings.empty() ? Done : PartlyDone;
}

} // namespace

VerbResult sheet(const Words& words, Streams io)
{
    Arguments args(words, {"pack", "film", "marking", "out"}, {"readings", "blur-faces"});
    args.noPlain();
    const std::string packName = args.required("pack");
    args.required("film");
    args.required("marking");
    const std::string out = args.required("out");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto pack = findPack(packName);
    if (!pack)
        return tl::unexpected(pack.error());
    const auto all = loadAll(*pack, args.all("film"), args.all("marking"));
    if (!all)
        return tl::unexpected(all.error());
    auto hider = vision::FaceHider::load(shippedFolder("models"), args.has("blur-faces"));
    if (!hider)
        return tl::unexpected(hider.error());
    std::vector<report::SheetFilm> films;
    for (std::size_t n = 0; n < all->size(); ++n) {
        const Shown& s = (*all)[n];
        films.push_back({all->size() > 1 ? "film " + std::to_string(n + 1) : std::string(), s.film, [&](FrameIndex f) {
                             QImage image = pictureOf(*s.open, f);
                             hideOn(*hider, s.film, f, image);
                             return image;
                         }});
    }
    report::SheetOptions options;
    options.hasReadings = args.has("readings");
    const auto made = report::makeSheet(*pack, films, {}, options);
    if (made.isEmpty())
        return fail(ErrorCode::WrongField, "No key position of the pack is placed on these films.", args.all("marking").front(),
                    "/events");
    if (auto saved = report::saveDocument(report::documentOf(made), out); !saved)
        return tl::unexpected(saved.error());
    auto warnings = made.notes;
    if (hider->unsure() > 0)
        warnings.push_back(hider->warning());
    return said(warnings, io);
}

VerbResult checklist(const Words& words, Streams io)
{
    Arguments args(words, {"pack", "review", "film", "out"});
    args.noPlain();
    const std::string packName = args.required("pack");
    const std::string reviewFile = args.required("review");
    const std::string out = args.required("out");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto pack = findPack(packName);
    if (!pack)
        return tl::unexpected(pack.error());
    const auto review = loadReviewOf(*pack, reviewFile);
    if (!review)
        return tl::unexpected(review.error());
    report::FrameSource frames;
    if (const auto file = args.text("film")) {
        auto opened = media::Film::open(*file);
        if (!opened)
            return tl::unexpected(opened.error());
        frames = [film = std::make_shared<media::Film>(std::move(*opened))](std::size_t repetition, FrameIndex f) {
            return repetition == 0 ? pictureOf(*film, f) : QImage();
        };
    }
    const auto made = report::makeChecklist(*pack, *review, {}, frames);
    if (auto saved = report::saveDocument(report::documentOf(made), out); !saved)
        return tl::unexpected(saved.error());
    return said(made.warnings, io);
}

VerbResult walk(const Words& words, Streams io)
{
    Arguments args(words, {"pack", "film", "marking", "review", "script", "captions", "out", "srt"}, {"full-size", "blur-faces"});
    args.noPlain();
    const std::string packName = args.required("pack");
    args.required("film");
    args.required("marking");
    const std::string reviewFile = args.required("review");
    const std::string out = args.required("out");
    report::WalkFilmOptions options;
    options.isFullSize = args.has("full-size");
    if (const auto captions = args.text("captions")) {
        if (*captions == "track")
            options.captions = report::CaptionStyle::Track;
        else if (*captions == "none")
            options.captions = report::CaptionStyle::None;
        else if (*captions != "burnt")
            args.complain("--captions is burnt, track or none.");
    }
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto pack = findPack(packName);
    if (!pack)
        return tl::unexpected(pack.error());
    const auto review = loadReviewOf(*pack, reviewFile);
    if (!review)
        return tl::unexpected(review.error());
    const auto all = loadAll(*pack, args.all("film"), args.all("marking"));
    if (!all)
        return tl::unexpected(all.error());
    std::vector<report::RepetitionFilm> films;
    std::vector<Marking> markings;
    std::vector<FrameRange> repetitions;
    for (const auto& s : *all) {
        films.push_back(s.film);
        markings.push_back(withoutMarks(s.film.marking));
        repetitions.push_back(s.film.repetition);
    }
    Expected<report::WalkScript> script = report::proposeWalk(*pack, *review, {}, markings, repetitions);
    if (const auto file = args.text("script"))
        script = report::loadWalk(*file);
    if (!script)
        return tl::unexpected(script.error());
    auto hider = vision::FaceHider::load(shippedFolder("models"), args.has("blur-faces"));
    if (!hider)
        return tl::unexpected(hider.error());
    options.hide = [&](std::size_t n, FrameIndex frame, QImage& image) { hideOn(*hider, films[n], frame, image); };
    const auto done = report::writeWalk(*script, films, out, options);
    if (!done)
        return tl::unexpected(done.error());
    if (const auto srt = args.text("srt"))
        if (auto saved = saveText(*srt, media::toSrt(done->captions)); !saved)
            return tl::unexpected(saved.error());
    nlohmann::json stops = nlohmann::json::array();
    for (const auto& s : done->stops)
        stops.push_back({{"frame", s.frame.value}, {"from", s.from}, {"seconds", s.seconds}, {"text", s.text}});
    io.out << printed(nlohmann::json{{"seconds", done->seconds}, {"stops", std::move(stops)}}, 2);
    auto warnings = done->warnings;
    if (hider->unsure() > 0)
        warnings.push_back(hider->warning());
    return said(warnings, io);
}

} // namespace kestrel::cli
