#include "sim/radar_gun.h"

#include "core/base/radar_line.h"

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <vector>

#include <arpa/inet.h>
#include <fcntl.h>
#include <sys/socket.h>
#include <termios.h>
#include <unistd.h>

namespace kestrel::sim {

struct RadarGun::Impl {
    int terminal = -1, listener = -1, port = 0;
    std::vector<int> listening; // who has called the port
    std::string device;

    ~Impl()
    {
        for (const int fd : listening)
            close(fd);
        if (terminal >= 0)
            close(terminal);
        if (listener >= 0)
            close(listener);
    }
};

RadarGun::RadarGun(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
RadarGun::RadarGun(RadarGun&&) noexcept = default;
RadarGun& RadarGun::operator=(RadarGun&&) noexcept = default;
RadarGun::~RadarGun() = default;

Expected<RadarGun> RadarGun::open(int port)
{
    auto impl = std::make_unique<Impl>();
    const auto no = [](const std::string& what) {
        return fail(ErrorCode::CannotOpen, "The simulated radar gun cannot " + what + ": " + std::strerror(errno) + ".");
    };
    impl->terminal = posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK | O_CLOEXEC);
    if (impl->terminal < 0 || grantpt(impl->terminal) != 0 || unlockpt(impl->terminal) != 0)
        return no("open a pseudo-terminal");
    impl->device = ptsname(impl->terminal);
    termios raw{};
    tcgetattr(impl->terminal, &raw);
    cfmakeraw(&raw);
    tcsetattr(impl->terminal, TCSANOW, &raw);
    impl->listener = socket(AF_INET, SOCK_STREAM | SOCK_NONBLOCK | SOCK_CLOEXEC, 0);
    sockaddr_in address{};
    address.sin_family = AF_INET;
    address.sin_addr.s_addr = htonl(INADDR_LOOPBACK); // this machine only
    address.sin_port = htons(static_cast<std::uint16_t>(port));
    const int yes = 1;
    setsockopt(impl->listener, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
    if (bind(impl->listener, reinterpret_cast<sockaddr*>(&address), sizeof address) != 0 || listen(impl->listener, 4) != 0)
        return no("listen on port " + std::to_string(port));
    socklen_t size = sizeof address;
    getsockname(impl->listener, reinterpret_cast<sockaddr*>(&address), &size);
    impl->port = ntohs(address.sin_port);
    return RadarGun(std::move(impl));
}

const std::string& RadarGun::device() const
{
    return m_impl->device;
}
int RadarGun::port() const
{
    return m_impl->port;
}

void RadarGun::announce(double metresPerSecond)
{
    const std::string line = radarLine(metresPerSecond) + "\r\n";
    for (int fd = 0; (fd = accept4(m_impl->listener, nullptr, nullptr, SOCK_NONBLOCK | SOCK_CLOEXEC)) >= 0;)
        m_impl->listening.push_back(fd);
    std::erase_if(m_impl->listening, [&](int fd) {
        const bool isGone = send(fd, line.data(), line.size(), MSG_NOSIGNAL) < 0 && errno != EAGAIN;
        if (isGone)
            close(fd);
        return isGone;
    });
    // nobody may be listening at the terminal: then the line is lost, as it would be on a cable
    [[maybe_unused]] const auto written = write(m_impl->terminal, line.data(), line.size());
}

} // namespace kestrel::sim
