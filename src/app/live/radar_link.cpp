#include "app/live/radar_link.h"

#include "core/base/radar_line.h"

#include <QRegularExpression>

#include <cerrno>
#include <cstring>

#include <fcntl.h>
#include <netdb.h>
#include <sys/socket.h>
#include <termios.h>
#include <unistd.h>

namespace kestrel::app {

namespace {

constexpr std::size_t kLongestLine = 200; // a gun says less; anything longer is not one

int openDevice(const QByteArray& path)
{
    const int fd = ::open(path.constData(), O_RDONLY | O_NOCTTY | O_NONBLOCK | O_CLOEXEC);
    termios raw{};
    if (fd >= 0 && tcgetattr(fd, &raw) == 0) {
        cfmakeraw(&raw);
        cfsetspeed(&raw, B9600);
        tcsetattr(fd, TCSANOW, &raw);
    }
    return fd;
}

int connectTo(const QByteArray& host, const QByteArray& port)
{
    addrinfo hints{}, *found = nullptr;
    hints.ai_socktype = SOCK_STREAM;
    if (getaddrinfo(host.constData(), port.constData(), &hints, &found) != 0 || !found) {
        errno = ENOENT;
        return -1;
    }
    const int fd = socket(found->ai_family, SOCK_STREAM | SOCK_CLOEXEC, 0);
    const timeval patience{2, 0};
    setsockopt(fd, SOL_SOCKET, SO_SNDTIMEO, &patience, sizeof patience); // a gun on the court answers at once
    const bool connected = fd >= 0 && connect(fd, found->ai_addr, found->ai_addrlen) == 0;
    freeaddrinfo(found);
    if (!connected) {
        const int why = errno;
        if (fd >= 0)
            ::close(fd);
        errno = why;
        return -1;
    }
    fcntl(fd, F_SETFL, fcntl(fd, F_GETFL) | O_NONBLOCK);
    return fd;
}

} // namespace

QString RadarLink::open(const QString& where)
{
    close();
    static const QRegularExpression kAddress(QStringLiteral("^([^/:]+):(\\d+)$"));
    const auto address = kAddress.match(where.trimmed());
    m_fd = address.hasMatch() ? connectTo(address.captured(1).toUtf8(), address.captured(2).toUtf8())
                              : openDevice(where.trimmed().toUtf8());
    if (m_fd < 0)
        return tr("No radar gun answers at %1: %2.").arg(where, QString::fromLocal8Bit(std::strerror(errno)));
    m_notifier = std::make_unique<QSocketNotifier>(m_fd, QSocketNotifier::Read);
    connect(m_notifier.get(), &QSocketNotifier::activated, this, &RadarLink::readMore);
    return {};
}

void RadarLink::close()
{
    m_notifier.reset();
    if (m_fd >= 0)
        ::close(m_fd);
    m_fd = -1;
    m_line.clear();
}

void RadarLink::readMore()
{
    char bytes[512];
    const auto got = ::read(m_fd, bytes, sizeof bytes);
    if (got == 0 || (got < 0 && errno != EAGAIN && errno != EINTR)) {
        m_notifier->setEnabled(false);
        QMetaObject::invokeMethod(
            this,
            [this] {
                close();
                emit lost();
            },
            Qt::QueuedConnection);
        return;
    }
    for (ssize_t i = 0; i < got; ++i) {
        if (bytes[i] != '\n') {
            if (m_line.size() < kLongestLine)
                m_line.push_back(bytes[i]);
            continue;
        }
        if (const auto speed = parseRadarLine(m_line)) {
            m_last = *speed;
            m_since.start();
            emit measured(*speed);
        }
        m_line.clear();
    }
}

std::optional<double> RadarLink::recent(int withinMs) const
{
    return m_since.isValid() && m_since.elapsed() <= withinMs ? std::optional(m_last) : std::nullopt;
}

} // namespace kestrel::app
