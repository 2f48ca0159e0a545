#pragma once

#include "core/base/error.h"

#include <QDateTime>
#include <QLockFile>

#include <optional>
#include <string>

namespace kestrel::store {

/// Who may write into a library: one window at a time, also over a shared folder. The sign is the file "library.lock" in its
/// folder. Whoever is gone, or was killed on this computer, holds nothing; one on another computer that gives no sign of life for
/// a minute neither.
class LibraryLock {
public:
    struct Holder {
        std::string computer;
        std::int64_t process = 0;
        bool isHere = true; ///< on this computer
        QDateTime since;    ///< invalid: not known
    };

    /// Tries at once.
    explicit LibraryLock(const std::string& folder);
    ~LibraryLock();

    bool isHeld() const { return m_file.isLocked(); }
    bool tryAgain();
    /// Who holds it instead.
    std::optional<Holder> holder() const;
    /// A sign of life, due every quarter of a minute. False: somebody else has taken it, since this computer slept.
    bool renew();

private:
    QString m_folder;
    QLockFile m_file;
};

} // namespace kestrel::store
