#pragma once

#include <cstdint>
#include <thread>
#include <vector>

namespace kestrel::vision {

/// Threads that work on one film at once: as many as the weakest machine has cores.
inline constexpr std::int64_t kTogether = 2;

/// Parts of so many, each on a thread of its own: \p work (part, from, end). Returns when all are done.
template <class Work> void together(std::int64_t count, const Work& work)
{
    std::vector<std::jthread> threads;
    for (std::int64_t n = 0; n < kTogether; ++n)
        threads.emplace_back([&, n] { work(n, count * n / kTogether, count * (n + 1) / kTogether); });
}

} // namespace kestrel::vision
