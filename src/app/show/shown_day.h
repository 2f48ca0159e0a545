#pragma once

#include "app/bench/bench.h"
#include "app/film/film_pictures.h"
#include "app/workspace/repetition_film.h"
#include "report/walk_film.h"

#include <stop_token>

namespace kestrel::app {

/// What documents are made of: the day on the bench, with every film that was judged.
struct ShownDay {
    store::DayId day;
    Pack pack;
    Review review;
    report::PageFacts facts;
    std::vector<report::RepetitionFilm> films; ///< in the order of Review::films, with what is drawn on them
    std::vector<std::string> names;            ///< of each: "repetition 2"
    bool hidesFaces = false;
    std::size_t onBench = 0; ///< which of them is on the bench; the first if it was not judged
};

/// What a ShownDay is gathered from. Made on the interface thread; gather() may be called on any.
class ShownDayRequest {
public:
    /// Empty: nothing on the bench can be shown.
    static std::optional<ShownDayRequest> of(const Workspace&, const Bench&);

    /// Errors: those of the library.
    Expected<ShownDay> gather(const store::Library&) const;
    std::function<Expected<store::Library>()> openLibrary; ///< for the other thread

private:
    Pack m_pack;
    Review m_review;
    report::PageFacts m_facts;
    std::vector<ReviewModel::Together> m_together;
    store::DayId m_day;
    store::RepetitionId m_onBench;
    bool m_hidesFaces = false;
};

/// What is kept of something that leaves, but for its file: whose it is and what was judged.
/// \param kind  as store::SentRow
store::SentRow sentOf(const ShownDay&, const std::string& kind);
/// Keeps it as it left.
void keepSent(Workspace&, store::SentRow, const QString& file, std::string content);

} // namespace kestrel::app
