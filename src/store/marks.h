#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <vector>

namespace kestrel::store {

/// Marks on clips.
class Marks {
public:
    explicit Marks(const Database& database) : m_database(&database) {}

    Expected<std::vector<Mark>> of(ClipId) const; ///< by frame and landmark
    Expected<std::size_t> count(ClipId) const;
    /// Another one after every change of the clip's marks; the same one means the same marks. 0: none was ever made.
    Expected<std::int64_t> revision(ClipId) const;

    /// Empty removes it.
    Expected<void> set(ClipId, FrameIndex, const Landmark&, const std::optional<Mark>&);
    /// What a program made of a stretch takes the place of what programs made of it before, all at once. A coach's own marks and
    /// key positions stay, and where one lies, no program's comes; so do points that were followed when the body is marked.
    Expected<void> setProgramWork(ClipId, RepetitionId, const ProgramWork&);
    /// All of a marking's key positions, for the clip's first repetition, and its marks at once, beside those there are.
    Expected<void> addMarking(ClipId, const Marking&);

    void forget() { m_known.reset(); } ///< rows were changed by others than these calls

private:
    Expected<void> insert(ClipId, const Mark&);
    Expected<void> bump(ClipId);
    Expected<std::vector<Mark>> read(ClipId) const;
    void updateKnown(ClipId, FrameIndex, const Landmark&, const std::optional<Mark>&);

    /// The marks of the clip last asked for: there may be thousands, and each change of one makes a view ask anew.
    struct KnownMarks {
        ClipId clip;
        qlonglong version = 0; ///< of what other connections made of the file
        std::vector<Mark> marks;
    };
    const Database* m_database;
    mutable std::optional<KnownMarks> m_known;
};

} // namespace kestrel::store
