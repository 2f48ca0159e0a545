#include "store/films.h"

#include "store/db/rows.h"

namespace kestrel::store {

Expected<std::optional<KnownFilm>> Films::known(const std::string& contentHash) const
{
    return m_database
        ->run(QStringLiteral("SELECT bytes, modified, film_index FROM film WHERE content_hash=?"), {text(contentHash)})
        .map([](QSqlQuery q) -> std::optional<KnownFilm> {
            if (!q.next())
                return std::nullopt;
            return KnownFilm{q.value(0).toLongLong(), q.value(1).toLongLong(), q.value(2).toByteArray().toStdString()};
        });
}

Expected<void> Films::setKnown(const std::string& contentHash, const KnownFilm& film)
{
    return inTransaction(*m_database, [&] {
        return nothing(m_database->run(
            QStringLiteral("INSERT OR REPLACE INTO film (content_hash, bytes, modified, film_index) VALUES (?,?,?,?)"),
            {text(contentHash), qlonglong(film.bytes), qlonglong(film.modified), QByteArray::fromStdString(film.index)}));
    });
}

} // namespace kestrel::store
