#pragma once

#include "app/workspace/background.h"
#include "core/base/index.h"

#include <QImage>
#include <QObject>
#include <QSize>

#include <map>
#include <string>
#include <vector>

namespace kestrel::app {

/// Small pictures from all over one film, made in the background in the order of the film. Asking for other ones, or for
/// another film, stops the work on the present ones.
class Thumbnails : public QObject {
    Q_OBJECT
public:
    explicit Thumbnails(QObject* parent = nullptr) : QObject(parent) {}
    ~Thumbnails() override { m_work.stop(); }

    /// \param knownIndex  as for media::OpenOptions; may be empty
    void make(const std::string& file, const std::string& knownIndex, std::vector<FrameIndex> frames, QSize largest);
    void clear();
    /// Those that are there.
    const std::map<std::int64_t, QImage>& pictures() const { return m_pictures; }

signals:
    void changed();

private:
    Background m_work;
    std::uint64_t m_number = 0; // of the newest wish; pictures for older ones are dropped
    std::map<std::int64_t, QImage> m_pictures;
};

} // namespace kestrel::app
