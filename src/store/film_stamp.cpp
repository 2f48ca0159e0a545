#include "store/film_stamp.h"

#include <QDateTime>
#include <QFileInfo>

namespace kestrel::store {

std::optional<FilmStamp> findFilmStamp(const std::string& file)
{
    const QFileInfo info(QString::fromStdString(file));
    if (!info.exists())
        return std::nullopt;
    return FilmStamp{info.isDir() ? 0 : info.size(), info.lastModified().toMSecsSinceEpoch()};
}

} // namespace kestrel::store
