#include "store/drawings.h"

#include "core/scene/drawing_json.h"
#include "store/db/rows.h"

#include <limits>

namespace kestrel::store {

namespace {

/// Empty: damaged, or of a kind that is not known.
std::optional<Drawing> parse(const std::string& content)
{
    const auto root = parseJson(content, "drawing");
    if (!root)
        return std::nullopt;
    JsonProblems problems("drawing");
    const auto drawing = readDrawing(JsonNode(*root, "", problems), std::numeric_limits<std::int32_t>::max());
    return problems.list().empty() ? drawing : std::nullopt;
}

QString contentOf(const DrawingRow& row)
{
    return text(printed(toJson(row.drawing), -1));
}

} // namespace

Expected<std::vector<DrawingRow>> Drawings::seenOn(RepetitionId id) const
{
    return m_database
        ->run(QStringLiteral("SELECT w.id, w.repetition, w.content FROM drawing w JOIN repetition r ON r.id = w.repetition"
                             " JOIN clip c ON c.id = r.clip WHERE c.day = (SELECT d.day FROM repetition s JOIN clip d"
                             " ON d.id = s.clip WHERE s.id=?) ORDER BY w.id"),
              {qlonglong(id.value)})
        .map([id](QSqlQuery q) {
            std::vector<DrawingRow> seen;
            while (q.next()) {
                const RepetitionId repetition(q.value(1).toLongLong());
                const auto drawing = parse(string(q, 2));
                if (drawing && (repetition == id || isShared(*drawing)))
                    seen.push_back({DrawingId(q.value(0).toLongLong()), repetition, *drawing});
            }
            return seen;
        });
}

Expected<DrawingId> Drawings::add(const DrawingRow& row)
{
    return added<DrawingId>(*m_database, [&](DrawingId& id) {
        return idOf(m_database->run(QStringLiteral("INSERT INTO drawing (repetition, uuid, content) VALUES (?,?,?)"),
                                    {qlonglong(row.repetition.value), newUuid(), contentOf(row)}),
                    id);
    });
}

Expected<void> Drawings::save(const DrawingRow& row)
{
    return inTransaction(*m_database, [&] {
        return nothing(m_database->run(QStringLiteral("UPDATE drawing SET content=? WHERE id=?"),
                                       {contentOf(row), qlonglong(row.id.value)}));
    });
}

} // namespace kestrel::store
