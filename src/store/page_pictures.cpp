#include "store/page_pictures.h"

#include "store/db/rows.h"

namespace kestrel::store {

Expected<std::optional<PagePicture>> PagePictures::of(DayId id) const
{
    return m_database->run(QStringLiteral("SELECT file, words FROM page_picture WHERE day=?"), {qlonglong(id.value)})
        .map([](QSqlQuery q) {
            return q.next() ? std::optional(PagePicture{string(q, 0), string(q, 1)}) : std::nullopt;
        });
}

Expected<void> PagePictures::set(DayId id, const std::optional<PagePicture>& picture)
{
    return inTransaction(*m_database, [&] {
        return picture ? nothing(m_database->run(
                             QStringLiteral("INSERT OR REPLACE INTO page_picture (day, file, words) VALUES (?,?,?)"),
                             {qlonglong(id.value), text(picture->file), text(picture->words)}))
                       : nothing(m_database->run(QStringLiteral("DELETE FROM page_picture WHERE day=?"), {qlonglong(id.value)}));
    });
}

Expected<bool> PagePictures::names(const std::string& file) const
{
    return m_database->run(QStringLiteral("SELECT EXISTS (SELECT 1 FROM page_picture WHERE file=?)"), {text(file)})
        .map([](QSqlQuery q) { return q.next() && q.value(0).toBool(); });
}

} // namespace kestrel::store
