#include "media/file_digest.h"

#include <array>
#include <fstream>
#include <memory>
#include <vector>

extern "C" {
#include <libavutil/mem.h>
#include <libavutil/sha.h>
}

namespace kestrel::media {

Expected<std::string> calcSha256(const std::string& file)
{
    std::ifstream in(file, std::ios::binary);
    if (!in)
        return fail(ErrorCode::CannotOpen, "The file cannot be read.", file);
    const std::unique_ptr<AVSHA, decltype(&av_free)> sha(av_sha_alloc(), av_free);
    if (!sha || av_sha_init(sha.get(), 256) != 0)
        return fail(ErrorCode::CannotOpen, "There is no memory left to read the file.", file);
    std::vector<char> block(std::size_t{1} << 18);
    while (in.read(block.data(), static_cast<std::streamsize>(block.size())) || in.gcount() > 0)
        av_sha_update(sha.get(), reinterpret_cast<const std::uint8_t*>(block.data()), static_cast<std::size_t>(in.gcount()));
    std::array<std::uint8_t, 32> digest{};
    av_sha_final(sha.get(), digest.data());
    std::string digits;
    for (const auto byte : digest)
        for (const int nibble : {byte >> 4, byte & 15})
            digits += "0123456789abcdef"[nibble];
    return digits;
}

} // namespace kestrel::media
