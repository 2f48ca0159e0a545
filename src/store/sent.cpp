#include "store/sent.h"

#include "store/db/rows.h"

namespace kestrel::store {

namespace {

SentRow read(const QSqlQuery& q)
{
    return {SentId(q.value(0).toLongLong()),
            DayId(q.value(1).toLongLong()),
            string(q, 2),
            string(q, 3),
            string(q, 4),
            string(q, 5),
            {}};
}

} // namespace

Expected<std::vector<SentRow>> Sent::of(AthleteId id) const
{
    return all<SentRow>(m_database->run(QStringLiteral("SELECT s.id, s.day, s.date, s.kind, s.name, s.review FROM sent s"
                                                       " JOIN filming_day d ON d.id = s.day WHERE d.athlete=?"
                                                       " ORDER BY s.date DESC, s.id DESC"),
                                        {qlonglong(id.value)}),
                        read);
}

Expected<SentRow> Sent::find(SentId id) const
{
    return only(
        all<SentRow>(m_database->run(QStringLiteral("SELECT id, day, date, kind, name, review, content FROM sent WHERE id=?"),
                                     {qlonglong(id.value)}),
                     [](const QSqlQuery& q) {
                         SentRow row = read(q);
                         row.content = q.value(6).toByteArray().toStdString();
                         return row;
                     }),
        "page", m_database->file());
}

Expected<std::map<AthleteId, std::string>> Sent::lastPages() const
{
    auto q = m_database->run(QStringLiteral("SELECT d.athlete, max(d.date) FROM sent s JOIN filming_day d ON d.id = s.day"
                                            " WHERE s.kind = 'page' GROUP BY d.athlete"));
    if (!q)
        return tl::unexpected(q.error());
    std::map<AthleteId, std::string> dates;
    while (q->next())
        dates[AthleteId(q->value(0).toLongLong())] = string(*q, 1);
    return dates;
}

Expected<SentId> Sent::add(const SentRow& row)
{
    return added<SentId>(*m_database, [&](SentId& id) {
        return idOf(m_database->run(QStringLiteral("INSERT INTO sent (uuid, day, date, kind, name, review, content)"
                                                   " VALUES (?,?,?,?,?,?,?)"),
                                    {newUuid(), qlonglong(row.day.value), text(row.date), text(row.kind), text(row.name),
                                     text(row.review), QByteArray::fromStdString(row.content)}),
                    id);
    });
}

} // namespace kestrel::store
