#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/pack_folder.h"
#include "media/film.h"
#include "report/film_image.h"
#include "report/page_output.h"

namespace kestrel::cli {

namespace {

/// The film's pictures as Qt's.
report::FrameSource framesOf(media::Film& film)
{
    return [&film](FrameIndex index) {
        const auto picture = film.frame(index);
        return picture ? report::toImage(*picture) : QImage();
    };
}

} // namespace

VerbResult report(const Words& words, Streams io)
{
    Arguments args(words, {"review", "film", "out"});
    args.noPlain();
    const std::string reviewFile = args.required("review");
    const std::string out = args.required("out");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto review = loadReview(reviewFile);
    if (!review)
        return tl::unexpected(review.error());
    const auto pack = findPack(review->pack);
    if (!pack)
        return tl::unexpected(pack.error());
    report::FrameSource frames;
    std::optional<media::Film> film;
    if (const auto file = args.text("film")) {
        auto opened = media::Film::open(*file);
        if (!opened)
            return tl::unexpected(opened.error());
        film = std::move(*opened);
        frames = framesOf(*film);
    }
    const report::Page page = report::makePage(*pack, *review, {}, frames);
    if (auto saved = report::savePage(page, out); !saved)
        return tl::unexpected(saved.error());
    for (const auto& w : page.warnings)
        io.err << w << "\n";
    return page.warnings.empty() ? Done : PartlyDone;
}

} // namespace kestrel::cli
