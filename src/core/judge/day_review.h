#pragma once

#include "core/judge/review.h"

#include <memory>
#include <vector>

namespace kestrel {

/// What was read from one repetition; as long as nothing it depends on changes, it need not be read again.
struct RepetitionReadings {
    std::vector<Reading> readings;
    std::optional<Sequence> sequence;
};

/// One repetition of a filming day.
struct DayRepetition {
    Marking marking; ///< its marks may be left out where `read` is there
    FrameClock clock;
    std::shared_ptr<const PreparedRepetition> fromSecondCamera; ///< null: filmed from one side only
    std::string label;                                          ///< as ReadRepetition
    std::shared_ptr<const RepetitionReadings> read;             ///< null: it has to be read
    bool counts = true; ///< false: it is read, and left out of the review, as the second film of a repetition that counts
};

/// Reads every repetition that has not been read yet, on two threads.
void readDay(const Pack&, std::vector<DayRepetition>&, const ReadOptions&);

/// Whether anything could be read from it. What shows nothing is no repetition to judge.
bool showsAnything(const RepetitionReadings&);

/// Which of them are judged together, by their places: the live ones that count and show something, or the shadow swings where
/// there are no others. Review::films is in this order.
std::vector<std::size_t> judgedTogether(const std::vector<DayRepetition>& day);

/// Judges a day as one: see calcReview. Repetitions that show nothing are left out, unless none shows anything.
/// \param day  read; at least one counts
Review reviewDay(const Pack&, const std::vector<DayRepetition>& day, const JudgeOptions&);

/// With everything that judging needs, for keeping.
nlohmann::json toJson(const RepetitionReadings&);
/// Empty: they were kept by another version.
std::optional<RepetitionReadings> parseReadings(const nlohmann::json&);

/// Raised whenever the same marking gives other readings than before, so that kept ones are read anew.
inline constexpr int kReadingsVersion = 1;

} // namespace kestrel
