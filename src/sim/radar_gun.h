#pragma once

#include "core/base/error.h"

#include <memory>
#include <string>

namespace kestrel::sim {

/// A radar gun that is not there: it speaks its line protocol (core/base/radar_line.h) over a pseudo-terminal, as a gun on a
/// serial cable does, and over a TCP port of this machine.
class RadarGun {
public:
    /// \param port  of 127.0.0.1; 0 lets the system choose. Errors: CannotOpen.
    static Expected<RadarGun> open(int port = 0);
    RadarGun(RadarGun&&) noexcept;
    RadarGun& operator=(RadarGun&&) noexcept;
    ~RadarGun();

    const std::string& device() const; ///< path of the pseudo-terminal
    int port() const;
    /// Says it to whoever listens.
    void announce(double metresPerSecond);

private:
    struct Impl;
    explicit RadarGun(std::unique_ptr<Impl>);
    std::unique_ptr<Impl> m_impl;
};

} // namespace kestrel::sim
