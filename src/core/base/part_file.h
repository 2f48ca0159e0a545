#pragma once

#include "core/base/error.h"

#include <string>

namespace kestrel {

/// A file that is written whole or not at all. What is written goes to a hidden neighbour with the same ending, which is flushed
/// to the disk and takes the file's name at the end; without finish() it is removed. Neighbours that a killed program left behind
/// in that folder go when the next one begins. A link stays: what it leads to is replaced. A device or folder is refused.
class PartFile {
public:
    /// Errors: BadArgument, CannotWrite.
    static Expected<PartFile> begin(const std::string& file);
    PartFile(PartFile&& other) noexcept;
    PartFile& operator=(PartFile&&) = delete;
    ~PartFile();

    /// Where to write; exists already, and is empty.
    const std::string& path() const { return m_part; }
    /// Puts the file in place. Errors: CannotWrite.
    Expected<void> finish();

private:
    PartFile() = default;

    std::string m_given, m_file, m_part;
    int m_descriptor = -1; ///< its lock says that somebody is at work
};

/// The whole text, or the old file stays. Errors: as PartFile.
Expected<void> saveText(const std::string& file, const std::string& text);

} // namespace kestrel
