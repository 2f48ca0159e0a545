// libFuzzer target: any bytes as a film. Opening, indexing and a few pictures must end without harm, whatever they are.
// Built and run for a bounded time by "./kestrel fuzz"; the corpus is made there from small films.

#include "media/film.h"
#include "media/film_index.h"

#include <chrono>
#include <cstdint>
#include <string>

#include <sys/mman.h>
#include <unistd.h>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    using namespace kestrel;
    (void)media::FilmIndex::fromBytes({reinterpret_cast<const char*>(data), size});
    static const int file = memfd_create("film", 0);
    if (ftruncate(file, 0) != 0 || pwrite(file, data, size, 0) != static_cast<ssize_t>(size))
        return 0;
    // a film may be slow for an honest reason: a coach would cancel it
    std::stop_source stop;
    const auto begin = std::chrono::steady_clock::now();
    media::OpenOptions options;
    options.stop = stop.get_token();
    options.progress = [&](double) {
        if (std::chrono::steady_clock::now() - begin > std::chrono::seconds(5))
            stop.request_stop();
    };
    auto film = media::Film::open("/proc/self/fd/" + std::to_string(file), options);
    if (!film || film->info().size.width > 4096 || film->info().size.height > 4096)
        return 0;
    const auto frames = film->info().frames();
    for (const auto n : {std::int64_t{0}, frames - 1, frames / 2})
        (void)film->frame(FrameIndex(n), {64, 64}, stop.get_token());
    return 0;
}
