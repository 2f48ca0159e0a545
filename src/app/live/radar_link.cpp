#include "app/live/radar_link.h"

#include "core/base/radar_line.h"

#include <QRegularExpression>
#include <QSerialPort>
#include <QTcpSocket>

namespace kestrel::app {

namespace {

constexpr std::size_t kLongestLine = 200; // a gun says less; anything longer is not one
constexpr int kPatienceMs = 4000;         // a gun on the court answers at once

} // namespace

RadarLink::RadarLink(QObject* parent) : QObject(parent)
{
    m_patience.setSingleShot(true);
    connect(&m_patience, &QTimer::timeout, this, [this] { refuse(tr("nothing answers")); });
}

RadarLink::~RadarLink()
{
    close();
}

void RadarLink::open(const QString& where)
{
    close();
    m_where = where.trimmed();
    static const QRegularExpression kAddress(QStringLiteral("^([^/:]+):(\\d{1,5})$"));
    const auto address = kAddress.match(m_where);
    if (address.hasMatch())
        connectTo(address.captured(1), static_cast<quint16>(address.captured(2).toUInt()));
    else
        openDevice(m_where);
}

void RadarLink::openDevice(const QString& path)
{
    auto port = std::make_unique<QSerialPort>(path);
    port->setBaudRate(QSerialPort::Baud9600);
    if (!port->open(QIODevice::ReadOnly)) {
        refuse(port->errorString());
        return;
    }
    connect(port.get(), &QSerialPort::errorOccurred, this, [this](QSerialPort::SerialPortError error) {
        if (error == QSerialPort::ResourceError || error == QSerialPort::ReadError)
            lose();
    });
    connect(port.get(), &QIODevice::readyRead, this, &RadarLink::readMore);
    m_device = std::move(port);
    emit opened();
}

void RadarLink::connectTo(const QString& host, quint16 port)
{
    auto socket = std::make_unique<QTcpSocket>();
    connect(socket.get(), &QTcpSocket::connected, this, [this] {
        m_patience.stop();
        emit opened();
    });
    connect(socket.get(), &QTcpSocket::errorOccurred, this, [this] {
        auto* link = qobject_cast<QTcpSocket*>(m_device.get());
        if (!link)
            return;
        if (m_patience.isActive()) // it was never there
            refuse(link->errorString());
        else
            lose();
    });
    connect(socket.get(), &QIODevice::readyRead, this, &RadarLink::readMore);
    m_patience.start(kPatienceMs);
    auto* const link = socket.get();
    m_device = std::move(socket);
    link->connectToHost(host, port, QIODevice::ReadOnly);
}

void RadarLink::close()
{
    m_patience.stop();
    m_line.clear();
    if (!m_device)
        return;
    m_device->disconnect(this);
    m_device.release()->deleteLater(); // one of its own signals may have led here
}

void RadarLink::refuse(const QString& why)
{
    close();
    emit refused(tr("No radar gun answers at %1: %2.").arg(m_where, why));
}

void RadarLink::lose()
{
    close();
    emit lost();
}

void RadarLink::readMore()
{
    for (const char c : m_device->readAll()) {
        if (c != '\n') {
            if (m_line.size() < kLongestLine)
                m_line.push_back(c);
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
