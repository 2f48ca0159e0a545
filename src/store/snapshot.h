#pragma once

#include "core/base/error.h"

#include <QTemporaryDir>

#include <cstdint>
#include <memory>
#include <string>

namespace kestrel::store {

/// A copy of a library's file and journal, made to look at it while a program on another computer writes it. Both computers see
/// the files, but not each other's memory, through which SQLite says how much of the journal counts: reading in place could see
/// half of a change. The copy is for its owner's eyes only, holds no films, and is removed with the last who looks at it; what a
/// program that was killed left behind is removed when the next one is taken.
class Snapshot {
public:
    /// Tries again while the other writes. Errors: CannotOpen, CannotWrite (no room for the copy), Damaged.
    static Expected<std::shared_ptr<const Snapshot>> take(const std::string& folder);

    std::string file() const;
    /// Of the library when the copy was made; see below.
    std::int64_t state() const { return m_state; }

private:
    Snapshot();

    QTemporaryDir m_folder;
    std::int64_t m_state = 0;
};

/// Another number whenever the files of a library have changed, as far as can be seen from outside.
std::int64_t stateFromOutside(const std::string& folder);

} // namespace kestrel::store
