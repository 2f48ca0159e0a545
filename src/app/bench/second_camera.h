#pragma once

#include "app/workspace/workspace.h"
#include "core/scene/prepared_repetition.h"

#include <QString>

#include <optional>
#include <vector>

namespace kestrel::app {

/// A repetition of another clip of the day that could be the same one, filmed from another side.
struct SecondCameraChoice {
    store::RepetitionId repetition;
    QString text; ///< "rear view, throw-3.mp4, repetition 2"
};

/// Those of the day whose view shows more together with this one's, and which are not tied to yet another; the tied one in any
/// case.
std::vector<SecondCameraChoice> secondCameraChoices(Workspace&, const store::Clip&, store::RepetitionId);

/// Ready for reading; empty: it was filmed from one side only.
std::optional<PreparedRepetition> fromSecondCamera(Workspace&, store::RepetitionId);

/// Ties the two together, or unties; can be undone.
void setSecondCamera(Workspace&, store::RepetitionId, std::optional<store::RepetitionId> other);

} // namespace kestrel::app
