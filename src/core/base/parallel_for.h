#pragma once

#include <cstddef>
#include <cstdint>
#include <thread>
#include <vector>

namespace kestrel {

/// Threads that work on one thing at once: as many as the weakest machine has cores.
inline constexpr std::int64_t kWorkers = 2;

/// Parts of so many, each on a thread of its own, none of them empty: \p work (part, from, end). Returns when all are done.
template <class Work> void parallelFor(std::int64_t count, const Work& work)
{
    std::vector<std::jthread> threads;
    for (std::int64_t n = 0; n < kWorkers; ++n)
        if (const auto from = count * n / kWorkers, end = count * (n + 1) / kWorkers; from < end)
            threads.emplace_back([&work, n, from, end] { work(n, from, end); });
}

/// What \p make gives for each number below \p count.
template <class Make> auto parallelMap(std::size_t count, const Make& make)
{
    std::vector<decltype(make(count))> all(count);
    parallelFor(static_cast<std::int64_t>(count), [&](std::int64_t, std::int64_t from, std::int64_t end) {
        for (auto n = static_cast<std::size_t>(from); n < static_cast<std::size_t>(end); ++n)
            all[n] = make(n);
    });
    return all;
}

} // namespace kestrel
