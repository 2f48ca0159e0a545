#include "store/books.h"

#include "store/db/rows.h"

#include <algorithm>

namespace kestrel::store {

namespace {

void addDay(Book& book, const std::string& content, const std::string& file)
{
    const auto root = nlohmann::json::parse(content, nullptr, false);
    if (auto day = parseBookDay(root, file))
        book.days.push_back(std::move(*day));
}

void addPain(Book& book, Date date, const std::set<BodyRegion>& regions)
{
    auto it =
        std::lower_bound(book.days.begin(), book.days.end(), date, [](const BookDay& d, Date wanted) { return d.date < wanted; });
    if (it == book.days.end() || it->date != date) {
        it = book.days.insert(it, BookDay());
        it->date = date;
    }
    for (const auto region : regions)
        if (std::none_of(it->pain.begin(), it->pain.end(), [&](const BookPain& p) { return p.where == region; }))
            it->pain.push_back({region, 1});
}

} // namespace

Expected<Book> Books::of(AthleteId id) const
{
    return read(id, {}).map([id](std::map<AthleteId, Book> books) { return std::move(books[id]); });
}

Expected<std::map<AthleteId, Book>> Books::all() const
{
    return read({}, {});
}

Expected<std::map<AthleteId, Book>> Books::since(Date date) const
{
    return read({}, date);
}

/// \param only   empty: everybody's, of those who have one
/// \param since  empty: every day
Expected<std::map<AthleteId, Book>> Books::read(AthleteId only, std::optional<Date> since) const
{
    std::map<AthleteId, Book> books;
    std::optional<Error> wrong;
    const auto each = [&](const char* columns, const char* table, const char* column, const char* more, auto take) {
        const QString where =
            only.isValid() ? QStringLiteral("%1=%2").arg(QLatin1String(column)).arg(only.value) : QStringLiteral("1");
        auto q = m_database->run(
            QStringLiteral("SELECT %1, %2 FROM %3 WHERE %4%5")
                .arg(QLatin1String(column), QLatin1String(columns), QLatin1String(table), where, QLatin1String(more)));
        if (!q) {
            wrong = q.error();
            return;
        }
        while (q->next())
            take(AthleteId(q->value(0).toLongLong()), *q);
    };
    const std::string days =
        (since ? " AND (date >= '" + textOf(*since) + "' OR instr(content, '\"where\"') > 0)" : std::string()) +
        " ORDER BY athlete, date";
    each("content", "book_day", "athlete", days.c_str(),
         [&](AthleteId id, const QSqlQuery& q) { addDay(books[id], string(q, 1), m_database->file()); });
    // what was noted with a filming day belongs to it
    each("date, pain", "filming_day", "athlete", " AND pain <> ''", [&](AthleteId id, const QSqlQuery& q) {
        if (const auto date = parseDate(string(q, 1)))
            addPain(books[id], *date, findBodyRegions(string(q, 2)));
    });
    each("date, region", "cleared", "athlete", " ORDER BY date", [&](AthleteId id, const QSqlQuery& q) {
        if (const auto date = parseDate(string(q, 1)))
            books[id].cleared.push_back({*date, findBodyRegion(string(q, 2)).value_or(BodyRegion::Other)});
    });
    each("birth_date", "athlete", "id", "", [&](AthleteId id, const QSqlQuery& q) {
        if (const auto it = books.find(id); it != books.end() || only.isValid())
            books[id].birthDate = parseDate(string(q, 1));
    });
    if (wrong)
        return tl::unexpected(*wrong);
    return books;
}

Expected<void> Books::set(AthleteId id, const BookDay& day)
{
    return inTransaction(*m_database, [&] {
        const QString date = text(textOf(day.date));
        return day.isEmpty() ? nothing(m_database->run(QStringLiteral("DELETE FROM book_day WHERE athlete=? AND date=?"),
                                                       {qlonglong(id.value), date}))
                             : nothing(m_database->run(
                                   QStringLiteral("INSERT OR REPLACE INTO book_day (athlete, date, content) VALUES (?,?,?)"),
                                   {qlonglong(id.value), date, text(toJson(day).dump())}));
    });
}

Expected<void> Books::addCleared(AthleteId id, const Cleared& c)
{
    return inTransaction(*m_database, [&] {
        return nothing(m_database->run(QStringLiteral("INSERT INTO cleared (athlete, date, region) VALUES (?,?,?)"),
                                       {qlonglong(id.value), text(textOf(c.date)), text(wordOf(c.where))}));
    });
}

Expected<void> Books::removeCleared(AthleteId id, const Cleared& c)
{
    return inTransaction(*m_database, [&] {
        return nothing(m_database->run(QStringLiteral("DELETE FROM cleared WHERE athlete=? AND date=? AND region=?"),
                                       {qlonglong(id.value), text(textOf(c.date)), text(wordOf(c.where))}));
    });
}

} // namespace kestrel::store
