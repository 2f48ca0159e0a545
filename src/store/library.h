#pragma once

#include "core/error.h"
#include "store/database.h"
#include "store/records.h"

#include <optional>
#include <string>
#include <vector>

namespace kestrel::store {

/// A folder with one database: athletes, filming days, clips and everything marked on them. Each call that changes
/// something is one transaction: stored when it returns, or not at all. To be used on the thread that opened it.
/// Every call may fail with Database, CannotWrite or ReadOnly; the error names the file and says what to do.
class Library {
public:
    /// Opens, or makes, the library of a folder. A folder or file without write permission opens read-only.
    /// Errors: CannotOpen, CannotWrite, Database, WrongVersion.
    static Expected<Library> open(const std::string& folder, bool readOnly = false);

    const std::string& folder() const { return m_folder; }
    bool isReadOnly() const { return m_readOnly; }

    Expected<std::vector<Athlete>> athletes() const;             ///< by name
    Expected<std::vector<FilmingDay>> days(AthleteId) const;     ///< newest first
    Expected<std::vector<Clip>> clips(DayId) const;              ///< in the order they were added
    Expected<Athlete> athlete(AthleteId) const;                  ///< NotFound
    Expected<FilmingDay> day(DayId) const;                       ///< NotFound
    Expected<Clip> clip(ClipId) const;                           ///< NotFound
    Expected<std::vector<Repetition>> repetitions(ClipId) const; ///< in the order of the film; at least one
    Expected<Repetition> repetition(RepetitionId) const;         ///< NotFound

    /// Everything on one repetition as readings want it: with the athlete's hand, height and age on that day.
    Expected<Marking> marking(RepetitionId) const;
    Expected<Marking> marking(ClipId) const; ///< of its first repetition

    Expected<AthleteId> add(const Athlete&);
    Expected<DayId> add(const FilmingDay&);
    Expected<ClipId> add(const Clip&, const std::string& variant = {}); ///< with one repetition, all of it
    Expected<RepetitionId> add(const Repetition&);
    Expected<void> save(const Athlete&);
    Expected<void> save(const FilmingDay&);
    Expected<void> save(const Clip&);
    Expected<void> save(const Repetition&);

    /// Removes with all that belongs to it and returns it whole, so that it can be given back. Films stay on the disk.
    Expected<AthleteRecord> take(AthleteId);
    Expected<DayRecord> take(DayId);
    Expected<ClipRecord> take(ClipId);
    Expected<RepetitionRecord> take(RepetitionId); ///< BadArgument: a clip's last one
    /// A clip's repetitions with all that belongs to them, in the order of the film.
    Expected<std::vector<RepetitionRecord>> repetitionRecords(ClipId) const;
    /// Others take their place, all at once; one without an id gets one. Gives their ids. BadArgument: none are given.
    Expected<std::vector<RepetitionId>> setRepetitions(ClipId, const std::vector<RepetitionRecord>&);
    /// Gives back under the same ids.
    Expected<void> restore(const AthleteRecord&);
    Expected<void> restore(const DayRecord&);
    Expected<void> restore(const ClipRecord&);
    Expected<void> restore(const RepetitionRecord&);

    /// Empty removes it.
    Expected<void> setEvent(RepetitionId, const std::string& keyPosition, const std::optional<Event>&);
    /// The same repetition on another clip of the day, whichever of the two says so; empty: filmed from one side only.
    Expected<std::optional<RepetitionId>> otherSide(RepetitionId) const;
    /// Ties the two together and takes the first one's former tie away.
    Expected<void> setOtherSide(RepetitionId, std::optional<RepetitionId>);
    Expected<void> setAnswer(RepetitionId, const std::string& observation, const std::optional<std::string>& choice);
    Expected<void> setMark(ClipId, FrameIndex, const Landmark&, const std::optional<Mark>&);
    /// What a program made of a stretch takes the place of what programs made of it before, all at once. A coach's own marks and
    /// key positions stay, and where one lies, no program's comes; so do points that were followed when the body is marked.
    Expected<void> setProgramWork(ClipId, RepetitionId, const ProgramWork&);
    /// All of a marking's key positions, for the clip's first repetition, and its marks at once, beside those there are.
    Expected<void> addMarking(ClipId, const Marking&);

    /// What was noted about a film of that content. Empty: nothing.
    Expected<std::optional<KnownFilm>> knownFilm(const std::string& contentHash) const;
    Expected<void> setKnownFilm(const std::string& contentHash, const KnownFilm&);

    /// Where the clip's film should be.
    std::string filmPath(const Clip&) const;
    /// As it is stored: relative when it lies in the library's folder.
    std::string storedPath(const std::string& file) const;

private:
    Library(std::string folder, Database database, bool readOnly)
        : m_folder(std::move(folder)), m_database(std::move(database)), m_readOnly(readOnly)
    {
    }
    Expected<void> update(const Clip&);
    Expected<void> insertEvent(RepetitionId, const Event&);
    Expected<void> insertAnswer(RepetitionId, const std::string& observation, const std::string& choice);
    Expected<void> insertMark(ClipId, const Mark&);
    Expected<void> insert(const AthleteRecord&);
    Expected<void> insert(const DayRecord&);
    Expected<void> insert(const ClipRecord&);
    Expected<void> insert(const RepetitionRecord&);
    Expected<std::vector<Event>> events(RepetitionId) const;
    Expected<std::map<std::string, std::string>> answers(RepetitionId) const;
    Expected<std::vector<Mark>> marks(ClipId) const;
    Expected<RepetitionRecord> record(const Repetition&) const;
    Expected<ClipRecord> record(const Clip&) const;
    Expected<DayRecord> record(const FilmingDay&) const;
    Expected<AthleteRecord> record(const Athlete&) const;

    Expected<std::vector<Mark>> readMarks(ClipId) const;
    void takeKnown(ClipId, FrameIndex, const Landmark&, const std::optional<Mark>&);

    /// The marks of the clip last asked for: there may be thousands, and each change of one makes a view ask anew.
    struct KnownMarks {
        ClipId clip;
        qlonglong version = 0; ///< of what other connections made of the file
        std::vector<Mark> marks;
    };
    std::string m_folder;
    Database m_database;
    bool m_readOnly;
    mutable std::optional<KnownMarks> m_known;
};

} // namespace kestrel::store
