#include "sim/implement.h"

#include "core/base/word_table.h"

namespace kestrel::sim {

std::optional<ImplementKind> findImplementKind(const std::string& word)
{
    static constexpr WordRow<ImplementKind> kKinds[]{{ImplementKind::Bat, "bat"},
                                                     {ImplementKind::TennisRacket, "tennis-racket"},
                                                     {ImplementKind::SquashRacket, "squash-racket"},
                                                     {ImplementKind::TableTennisBat, "table-tennis-bat"},
                                                     {ImplementKind::Stick, "stick"}};
    return findIn(kKinds, word);
}

} // namespace kestrel::sim
