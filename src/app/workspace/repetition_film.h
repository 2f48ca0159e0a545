#pragma once

#include "core/judge/day_review.h"
#include "report/walk_film.h"
#include "store/library.h"

#include <memory>

namespace kestrel::app {

/// One repetition's film with what is placed, marked and drawn on it. \param read  null: what the library has kept
/// Errors: those of the library.
Expected<report::RepetitionFilm> filmOf(const store::Library&, store::RepetitionId,
                                        const std::shared_ptr<const RepetitionReadings>& read = {});

} // namespace kestrel::app
