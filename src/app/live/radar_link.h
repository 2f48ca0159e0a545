#pragma once

#include <QElapsedTimer>
#include <QIODevice>
#include <QObject>
#include <QTimer>

#include <memory>
#include <optional>
#include <string>

namespace kestrel::app {

/// Listens to a radar gun: on a serial device, or on "host:port". Nothing waits: who asked to open hears of it later.
class RadarLink : public QObject {
    Q_OBJECT
public:
    explicit RadarLink(QObject* parent = nullptr);
    ~RadarLink() override;

    /// Answered by opened() or refused().
    void open(const QString& deviceOrAddress);
    void close();
    bool isOpen() const { return m_device != nullptr; } ///< or being opened
    /// The newest reading, metres per second, if it came within that time.
    std::optional<double> recent(int withinMs) const;

signals:
    void opened();
    void refused(const QString& why); ///< a sentence
    void measured(double metresPerSecond);
    void lost(); ///< the gun was unplugged or switched off

private:
    void openDevice(const QString& path);
    void connectTo(const QString& host, quint16 port);
    void refuse(const QString& why);
    void lose();
    void readMore();

    std::unique_ptr<QIODevice> m_device;
    QString m_where;
    QTimer m_patience; // with an address that does not answer
    std::string m_line;
    double m_last = 0;
    QElapsedTimer m_since;
};

} // namespace kestrel::app
