#include "core/base/part_file.h"

#include <filesystem>
#include <fstream>
#include <utility>

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

namespace kestrel {

namespace fs = std::filesystem;

namespace {

constexpr const char* kPrefix = ".kestrel-part-";

tl::unexpected<Error> cannotWrite(const std::string& file)
{
    return fail(ErrorCode::CannotWrite, "Cannot write here. Check that the folder exists, may be written to and has room.", file);
}

/// Those of programs that are gone: nobody holds their lock.
void removeLeftOvers(const fs::path& folder)
{
    std::error_code ec;
    for (fs::directory_iterator entry(folder, ec), end; !ec && entry != end; entry.increment(ec)) {
        if (!entry->path().filename().string().starts_with(kPrefix))
            continue;
        const int descriptor = ::open(entry->path().c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK);
        if (descriptor < 0)
            continue;
        std::error_code ignored;
        if (::flock(descriptor, LOCK_EX | LOCK_NB) == 0)
            fs::remove(entry->path(), ignored);
        ::close(descriptor);
    }
}

/// The name lasts only when the folder is on the disk, too.
void flushFolder(const fs::path& folder)
{
    if (const int descriptor = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC); descriptor >= 0) {
        ::fsync(descriptor);
        ::close(descriptor);
    }
}

} // namespace

Expected<PartFile> PartFile::begin(const std::string& file)
{
    std::error_code ec;
    const fs::path whole = fs::weakly_canonical(fs::absolute(file, ec), ec);
    if (ec || whole.filename().empty())
        return cannotWrite(file);
    if (const auto there = fs::status(whole, ec); fs::exists(there) && !fs::is_regular_file(there))
        return fail(ErrorCode::BadArgument, "This is a device or a folder, not a file; nothing was written.", file);
    const fs::path folder = whole.parent_path();
    removeLeftOvers(folder);
    PartFile part;
    part.m_given = file;
    part.m_file = whole.string();
    part.m_part = (folder / (kPrefix + whole.filename().string())).string();
    part.m_descriptor = ::open(part.m_part.c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0666);
    if (part.m_descriptor < 0)
        return cannotWrite(file);
    if (::flock(part.m_descriptor, LOCK_EX | LOCK_NB) != 0 || ::ftruncate(part.m_descriptor, 0) != 0) {
        ::close(std::exchange(part.m_descriptor, -1));
        return fail(ErrorCode::CannotWrite, "This file is being written already; wait until that is done.", file);
    }
    return part;
}

PartFile::PartFile(PartFile&& other) noexcept
    : m_given(std::move(other.m_given)), m_file(std::move(other.m_file)), m_part(std::move(other.m_part)),
      m_descriptor(std::exchange(other.m_descriptor, -1))
{
}

PartFile::~PartFile()
{
    if (m_descriptor < 0)
        return;
    std::error_code ec;
    fs::remove(m_part, ec);
    ::close(m_descriptor);
}

Expected<void> PartFile::finish()
{
    std::error_code ec;
    if (m_descriptor < 0 || ::fsync(m_descriptor) != 0)
        return cannotWrite(m_given);
    fs::rename(m_part, m_file, ec);
    if (ec)
        return fail(ErrorCode::CannotWrite, "Cannot put the new file in place.", m_given);
    ::close(std::exchange(m_descriptor, -1));
    flushFolder(fs::path(m_file).parent_path());
    return {};
}

Expected<void> saveText(const std::string& file, const std::string& text)
{
    auto part = PartFile::begin(file);
    if (!part)
        return tl::unexpected(part.error());
    std::ofstream out(part->path(), std::ios::binary | std::ios::trunc);
    out << text;
    out.close();
    return out ? part->finish() : cannotWrite(file);
}

} // namespace kestrel
