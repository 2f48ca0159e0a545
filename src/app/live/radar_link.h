#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QSocketNotifier>

#include <memory>
#include <optional>
#include <string>

namespace kestrel::app {

/// Listens to a radar gun: on a serial device, or on "host:port".
class RadarLink : public QObject {
    Q_OBJECT
public:
    explicit RadarLink(QObject* parent = nullptr) : QObject(parent) {}
    ~RadarLink() override { close(); }

    /// Empty: it listens. Else a sentence saying why not.
    QString open(const QString& deviceOrAddress);
    void close();
    bool isOpen() const { return m_fd >= 0; }
    /// The newest reading, metres per second, if it came within that time.
    std::optional<double> recent(int withinMs) const;

signals:
    void measured(double metresPerSecond);
    void lost(); ///< the gun was unplugged or switched off

private:
    void readMore();

    int m_fd = -1;
    std::unique_ptr<QSocketNotifier> m_notifier;
    std::string m_line;
    double m_last = 0;
    QElapsedTimer m_since;
};

} // namespace kestrel::app
