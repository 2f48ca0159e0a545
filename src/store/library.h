#pragma once

#include "core/base/error.h"
#include "store/archive.h"
#include "store/athletes.h"
#include "store/books.h"
#include "store/clips.h"
#include "store/days.h"
#include "store/drawings.h"
#include "store/films.h"
#include "store/marks.h"
#include "store/matches.h"
#include "store/page_pictures.h"
#include "store/plans.h"
#include "store/readings.h"
#include "store/repetitions.h"
#include "store/sent.h"
#include "store/snapshot.h"
#include "store/walks.h"

#include <QDir>

#include <functional>
#include <memory>
#include <string>

namespace kestrel::store {

/// A folder with one database. It owns the connection and hands out what knows each subject. Each call that changes something is
/// one transaction: stored when it returns, or not at all. To be used on the thread that opened it.
/// Every call may fail with Database, CannotWrite or ReadOnly; the error names the file and says what to do.
class Library {
public:
    /// Opens, or makes, the library of a folder, for its owner's eyes only. A folder or file without write permission, and one on
    /// a full disk, opens read-only. Before an older one is brought to this version, a copy of it is laid into the folder
    /// "copies". Errors: CannotOpen, CannotWrite, Database, WrongVersion (newer, or another program's), Damaged.
    static Expected<Library> open(const std::string& folder, bool readOnly = false);
    /// Only to look at, while a program on another computer has it open. Films are found in the folder itself; what the other
    /// stores later is not seen: state() says when to take another snapshot. Errors: as above.
    static Expected<Library> openFromAfar(const std::string& folder, std::shared_ptr<const Snapshot>);
    static Expected<Library> openFromAfar(const std::string& folder);
    /// Opens it once more, only to look or as it is open here; may be called on any thread, also when this one is gone.
    std::function<Expected<Library>()> again(bool readOnly) const;

    const std::string& folder() const { return m_folder; }
    bool isReadOnly() const { return m_readOnly; }
    bool isFromAfar() const { return m_snapshot != nullptr; }

    const Athletes& athletes() const { return m_athletes; }
    Athletes& athletes() { return m_athletes; }
    const Days& days() const { return m_days; }
    Days& days() { return m_days; }
    const Clips& clips() const { return m_clips; }
    Clips& clips() { return m_clips; }
    const Repetitions& repetitions() const { return m_repetitions; }
    Repetitions& repetitions() { return m_repetitions; }
    const Marks& marks() const { return m_marks; }
    Marks& marks() { return m_marks; }
    const Drawings& drawings() const { return m_drawings; }
    Drawings& drawings() { return m_drawings; }
    const Sent& sent() const { return m_sent; }
    Sent& sent() { return m_sent; }
    const Walks& walks() const { return m_walks; }
    Walks& walks() { return m_walks; }
    const PagePictures& pagePictures() const { return m_pagePictures; }
    PagePictures& pagePictures() { return m_pagePictures; }
    const Books& books() const { return m_books; }
    Books& books() { return m_books; }
    const Plans& plans() const { return m_plans; }
    Plans& plans() { return m_plans; }
    const Matches& matches() const { return m_matches; }
    Matches& matches() { return m_matches; }
    const Films& films() const { return m_films; }
    Films& films() { return m_films; }
    const Readings& readings() const { return m_readings; }
    Readings& readings() { return m_readings; }

    /// Everything on one repetition as readings want it: with the athlete's hand, height and age on that day. NotFound.
    Expected<Marking> marking(RepetitionId) const;
    Expected<Marking> marking(ClipId) const; ///< of its first repetition

    // the same for a row of any subject, for edits
    Expected<void> save(const Athlete& a) { return m_athletes.save(a); }
    Expected<void> save(const FilmingDay& d) { return m_days.save(d); }
    Expected<void> save(const Clip& c) { return m_clips.save(c); }
    Expected<void> save(const RepetitionRow& r) { return m_repetitions.save(r); }
    Expected<void> save(const DrawingRow& d) { return m_drawings.save(d); }
    Expected<AthleteId> add(const Athlete& a) { return m_athletes.add(a); }
    Expected<DayId> add(const FilmingDay& d) { return m_days.add(d); }
    Expected<ClipId> add(const Clip& c, const std::string& variant = {}) { return m_clips.add(c, variant); }
    Expected<RepetitionId> add(const RepetitionRow& r) { return m_repetitions.add(r); }
    Expected<DrawingId> add(const DrawingRow& d) { return m_drawings.add(d); }

    /// Removes with all that belongs to it and returns it whole, so that it can be given back. Films stay on the disk. NotFound.
    Expected<TakenRows> take(AthleteId id) { return m_archive.take(QStringLiteral("athlete"), id.value); }
    Expected<TakenRows> take(DayId id) { return m_archive.take(QStringLiteral("filming_day"), id.value); }
    Expected<TakenRows> take(ClipId);
    Expected<TakenRows> take(RepetitionId); ///< BadArgument: a clip's last one
    Expected<TakenRows> take(DrawingId id) { return m_archive.take(QStringLiteral("drawing"), id.value); }
    Expected<TakenRows> take(MatchId id) { return m_archive.take(QStringLiteral("match_log"), id.value); }
    /// Leaves no trace of what was removed before: not in the journal either, and the copies made by themselves go.
    /// What was taken can still be given back.
    Expected<void> forgetRemoved();
    /// Gives back under the same ids.
    Expected<void> restore(const TakenRows&);

    /// Looks through the whole file. Errors: Damaged.
    Expected<void> check() const;
    /// Another number whenever another program has stored something.
    Expected<std::int64_t> state() const;

    /// Several changes as one: all are stored, or none.
    Expected<void> together(const std::function<Expected<void>()>& changes);

    /// Several looks at one state of the library, whatever others store meanwhile.
    Expected<void> atOneTime(const std::function<void()>& looks) const;

    /// Names that hold in every library.
    Expected<std::string> uuid(AthleteId id) const { return m_archive.uuid(QStringLiteral("athlete"), id.value); }
    Expected<std::string> uuid(DayId id) const { return m_archive.uuid(QStringLiteral("filming_day"), id.value); }
    Expected<std::string> uuid(ClipId id) const { return m_archive.uuid(QStringLiteral("clip"), id.value); }
    Expected<std::string> uuid(RepetitionId id) const { return m_archive.uuid(QStringLiteral("repetition"), id.value); }

    /// Where the clip's film should be.
    std::string filmPath(const Clip&) const;
    /// Where a film that is named as it is stored should be.
    std::string filmPath(const std::string& stored) const;
    /// As it is stored: relative when it lies in the library's folder.
    std::string storedPath(const std::string& file) const;

private:
    Library(std::string folder, Database database, bool readOnly);
    static Expected<Library> openToWrite(const QDir& folder, const std::string& file);
    static Expected<Library> openToLook(const QDir& folder, const std::string& file);

    std::string m_folder;
    std::shared_ptr<const Snapshot> m_snapshot; // outlives the connection
    std::unique_ptr<Database> m_database;       // where it stands, the subjects find it
    bool m_readOnly;
    Athletes m_athletes;
    Days m_days;
    Clips m_clips;
    Repetitions m_repetitions;
    Marks m_marks;
    Drawings m_drawings;
    Sent m_sent;
    Walks m_walks;
    PagePictures m_pagePictures;
    Books m_books;
    Plans m_plans;
    Matches m_matches;
    Films m_films;
    Readings m_readings;
    Archive m_archive;
};

} // namespace kestrel::store
