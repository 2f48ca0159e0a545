#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/error_sample.h"
#include "core/base/radar_line.h"
#include "sim/radar_gun.h"

#include <chrono>
#include <thread>

namespace kestrel::cli {

/// Says where it can be heard on standard error, and each reading on standard output.
VerbResult radarGun(const Words& words, Streams io)
{
    constexpr double kSpread = 0.6; // metres per second from ball to ball
    Arguments args(words, {"port", "speed", "every", "count"});
    args.noPlain();
    const auto port = args.integer("port", 0, 65535).value_or(0);
    const double speed = args.number("speed", 2, 100).value_or(26);
    const double every = args.number("every", 0.01, 3600).value_or(3);
    const auto count = args.integer("count", 1, 1'000'000).value_or(1'000'000);
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    auto gun = sim::RadarGun::open(static_cast<int>(port));
    if (!gun)
        return tl::unexpected(gun.error());
    io.err << "The radar gun can be heard at " << gun->device() << " and at localhost:" << gun->port() << std::endl;
    const ErrorSample sample(1);
    for (long n = 0; n < count; ++n) {
        std::this_thread::sleep_for(std::chrono::duration<double>(every));
        const double now = speed + kSpread * sample.normal(static_cast<std::uint64_t>(n));
        gun->announce(now);
        io.out << radarLine(now) << std::endl;
    }
    return Done;
}

} // namespace kestrel::cli
