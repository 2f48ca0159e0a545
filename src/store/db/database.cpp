#include "store/db/database.h"

#include <QFileInfo>
#include <QSqlError>
#include <QUrl>
#include <QUuid>

#include <utility>

namespace kestrel::store {

namespace {

// SQLite's result codes, as text in nativeErrorCode.
constexpr int kBusy = 5, kReadOnly = 8, kIoError = 10, kCorrupt = 11, kFull = 13, kCannotOpen = 14, kNotADatabase = 26;

Error errorOf(const QSqlError& e, const std::string& file)
{
    const int code = e.nativeErrorCode().toInt() & 0xff;
    switch (code) {
    case kReadOnly:
        return {ErrorCode::ReadOnly,
                "The library is read-only; nothing was changed. Copy its folder to a place you may write to.",
                file,
                {}};
    case kFull:
        return {ErrorCode::CannotWrite,
                "The disk is full; the last change was not stored, everything before it is. Free some space and repeat it.",
                file,
                {}};
    case kIoError:
        return {ErrorCode::CannotWrite,
                "The library's file could not be read or written; the last change was not stored. Check the disk.",
                file,
                {}};
    case kBusy:
        return {ErrorCode::Database, "Another program is using the library; close it and try again.", file, {}};
    case kCannotOpen:
        return {ErrorCode::CannotOpen,
                "The library cannot be opened; check that the folder exists and that you may use it.",
                file,
                {}};
    case kCorrupt:
    case kNotADatabase:
        return {ErrorCode::Damaged,
                "This is not a library, or it is damaged; nothing was changed. Restore it from a copy.",
                file,
                {}};
    default:
        return {ErrorCode::Database, "The library refused: " + e.text().toStdString() + ".", file, {}};
    }
}

} // namespace

/// \param isLonely  nobody else writes: a library in a folder without write permission, or on a full disk, cannot have its side
/// files made, and needs none
Expected<void> Database::connect(Mode mode, bool isLonely)
{
    {
        QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), m_connection);
        const QString path = QString::fromStdString(m_file);
        if (mode == Mode::ReadOnly) {
            db.setConnectOptions(QStringLiteral("QSQLITE_OPEN_READONLY;QSQLITE_OPEN_URI"));
            db.setDatabaseName(QUrl::fromLocalFile(path).toString(QUrl::FullyEncoded) +
                               (isLonely ? QStringLiteral("?immutable=1") : QString()));
        } else {
            db.setConnectOptions(QStringLiteral("QSQLITE_BUSY_TIMEOUT=2000"));
            db.setDatabaseName(path);
        }
        if (!db.open())
            return tl::unexpected(errorOf(db.lastError(), m_file));
    }
    // a statement that is still open would keep the journal from being changed, so the probe ends here
    return run(QStringLiteral("SELECT count(*) FROM sqlite_master")).map([](const QSqlQuery&) {});
}

Expected<Database> Database::open(const std::string& file, Mode mode,
                                  const std::function<Expected<void>(const Database&)>& mayUse)
{
    Database database(QUuid::createUuid().toString(), file);
    auto ready = database.connect(mode, false);
    if (!ready && mode == Mode::ReadOnly && QFileInfo(QString::fromStdString(file) + QStringLiteral("-wal")).size() == 0) {
        QSqlDatabase::removeDatabase(database.m_connection);
        ready = database.connect(mode, true);
    }
    if (!ready)
        return tl::unexpected(ready.error());
    if (mayUse)
        if (const auto may = mayUse(database); !may)
            return tl::unexpected(may.error());
    QStringList settings{QStringLiteral("PRAGMA foreign_keys=ON")};
    if (mode == Mode::ReadWrite)
        // deleted means deleted: freed pages are overwritten
        settings << QStringLiteral("PRAGMA journal_mode=WAL") << QStringLiteral("PRAGMA synchronous=NORMAL")
                 << QStringLiteral("PRAGMA secure_delete=ON");
    for (const auto& s : settings)
        if (const auto done = database.run(s); !done)
            return tl::unexpected(done.error());
    return database;
}

Database::Database(Database&& other) noexcept
    : m_connection(std::exchange(other.m_connection, {})), m_file(std::move(other.m_file)),
      m_openTransactions(std::exchange(other.m_openTransactions, 0))
{
}

Database& Database::operator=(Database&& other) noexcept
{
    std::swap(m_connection, other.m_connection);
    std::swap(m_file, other.m_file);
    std::swap(m_openTransactions, other.m_openTransactions);
    return *this;
}

Database::~Database()
{
    if (!m_connection.isEmpty())
        QSqlDatabase::removeDatabase(m_connection);
}

Expected<QSqlQuery> Database::run(const QString& sql, std::initializer_list<QVariant> values) const
{
    QSqlQuery query(QSqlDatabase::database(m_connection, false));
    query.setForwardOnly(true); // rows are read once: nothing is kept for going back
    bool ok = query.prepare(sql);
    if (ok) {
        for (const auto& v : values)
            query.addBindValue(v);
        ok = query.exec();
    }
    if (!ok)
        return tl::unexpected(errorOf(query.lastError(), m_file));
    return query;
}

Expected<void> Database::runMany(const QString& sql, const std::vector<QVariantList>& columns) const
{
    QSqlQuery query(QSqlDatabase::database(m_connection, false));
    bool ok = query.prepare(sql);
    for (const auto& column : columns)
        query.addBindValue(column);
    ok = ok && query.execBatch();
    if (!ok)
        return tl::unexpected(errorOf(query.lastError(), m_file));
    return {};
}

Expected<void> Database::check() const
{
    auto found = run(QStringLiteral("PRAGMA quick_check(1)"));
    if (!found)
        return tl::unexpected(found.error());
    if (found->next() && found->value(0).toString() == QStringLiteral("ok"))
        return {};
    return fail(ErrorCode::Damaged, "The library's file is damaged. Close the program and open it again to take the newest copy.",
                m_file);
}

Transaction::Transaction(const Database& database)
    : m_database(database), m_depth(database.m_openTransactions),
      m_begun(database.run(m_depth == 0 ? QStringLiteral("BEGIN IMMEDIATE") : QStringLiteral("SAVEPOINT inner%1").arg(m_depth))
                  .map([](const QSqlQuery&) {})),
      m_open(m_begun.has_value())
{
    if (m_open)
        ++m_database.m_openTransactions;
}

Transaction::~Transaction()
{
    if (!m_open)
        return;
    --m_database.m_openTransactions;
    // nothing more can be done about a failing rollback
    if (m_depth == 0)
        (void)m_database.run(QStringLiteral("ROLLBACK"));
    else if (m_database.run(QStringLiteral("ROLLBACK TO inner%1").arg(m_depth)))
        (void)m_database.run(QStringLiteral("RELEASE inner%1").arg(m_depth));
}

Expected<void> Transaction::commit()
{
    if (!m_begun)
        return m_begun;
    return m_database.run(m_depth == 0 ? QStringLiteral("COMMIT") : QStringLiteral("RELEASE inner%1").arg(m_depth))
        .map([this](const QSqlQuery&) {
            m_open = false;
            --m_database.m_openTransactions;
        });
}

} // namespace kestrel::store
