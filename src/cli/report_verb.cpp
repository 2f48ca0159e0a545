#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/pack/pack_folder.h"
#include "look/film_image.h"
#include "media/film.h"
#include "report/page_output.h"

#include <algorithm>
#include <map>

namespace kestrel::cli {

namespace {

/// The films of a review in the order in which they come there, each once.
std::vector<std::string> filmsOf(const Review& review)
{
    std::vector<std::string> films;
    for (const auto& f : review.films)
        if (std::find(films.begin(), films.end(), f) == films.end())
            films.push_back(f);
    return films;
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
    const auto pack = findShippedPack(review->pack);
    if (!pack)
        return tl::unexpected(pack.error());
    const auto names = filmsOf(*review);
    std::map<std::string, media::Film> films;
    for (std::size_t i = 0; i < args.all("film").size() && i < names.size(); ++i) {
        auto opened = media::Film::open(args.all("film")[i]);
        if (!opened)
            return tl::unexpected(opened.error());
        films.emplace(names[i], std::move(*opened));
    }
    report::FrameSource frames;
    if (!films.empty())
        frames = [&](std::size_t repetition, FrameIndex index) {
            const auto film = films.find(repetition < review->films.size() ? review->films[repetition] : "");
            const auto picture = film == films.end() ? tl::unexpected(Error{}) : film->second.frame(index);
            return picture ? look::toImage(*picture) : QImage();
        };
    const report::Page page = report::makePage(*pack, *review, {}, frames);
    if (auto saved = report::saveDocument(report::documentOf(page), out); !saved)
        return tl::unexpected(saved.error());
    for (const auto& w : page.warnings)
        io.err << w << "\n";
    return page.warnings.empty() ? Done : PartlyDone;
}

} // namespace kestrel::cli
