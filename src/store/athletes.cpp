#include "store/athletes.h"

#include "store/db/rows.h"

#include <unordered_map>

namespace kestrel::store {

namespace {

const QString kColumns =
    QStringLiteral("id, name, birth_date, hand, guardian_consent, not_yet_taught, bat_hand, consent_date, level,"
                   " goal, kit, space, practice_days, team");

std::set<std::pair<std::string, std::string>> readNotYetTaught(const QString& lines)
{
    std::set<std::pair<std::string, std::string>> found;
    for (const auto& line : lines.split(QLatin1Char('\n'), Qt::SkipEmptyParts))
        found.emplace(line.section(QLatin1Char('/'), 0, 0).toStdString(), line.section(QLatin1Char('/'), 1).toStdString());
    return found;
}

QString linesOf(const std::set<std::pair<std::string, std::string>>& notYetTaught)
{
    QString lines = QStringLiteral(""); // never null: the column holds a text
    for (const auto& [skill, fault] : notYetTaught)
        lines += text(skill) + QLatin1Char('/') + text(fault) + QLatin1Char('\n');
    return lines;
}

/// Without heights.
Athlete read(const QSqlQuery& q)
{
    Athlete a;
    a.id = AthleteId(q.value(0).toLongLong());
    a.name = string(q, 1);
    a.birthDate = string(q, 2);
    a.hand = word(q, 3, findHand);
    a.guardianConsent = q.value(4).toBool();
    a.notYetTaught = readNotYetTaught(q.value(5).toString());
    a.batHand = findHand(string(q, 6)).value_or(a.hand);
    a.consentDate = string(q, 7);
    a.level = string(q, 8);
    a.goal = string(q, 9);
    a.kit = string(q, 10);
    a.space = string(q, 11);
    a.practiceDays = string(q, 12);
    a.team = string(q, 13);
    return a;
}

} // namespace

Expected<std::vector<Athlete>> Athletes::all() const
{
    auto list = store::all<Athlete>(
        m_database->run(QStringLiteral("SELECT %1 FROM athlete ORDER BY name COLLATE NOCASE, id").arg(kColumns)), read);
    auto measured = m_database->run(QStringLiteral("SELECT athlete, date, metres FROM height ORDER BY date"));
    if (!list || !measured)
        return list ? tl::unexpected(measured.error()) : list;
    std::unordered_map<qlonglong, std::vector<Height>> heights;
    while (measured->next())
        heights[measured->value(0).toLongLong()].push_back({string(*measured, 1), measured->value(2).toDouble()});
    for (auto& a : *list)
        if (const auto it = heights.find(a.id.value); it != heights.end())
            a.heights = std::move(it->second);
    return list;
}

Expected<Athlete> Athletes::find(AthleteId id) const
{
    auto athlete =
        only(store::all<Athlete>(
                 m_database->run(QStringLiteral("SELECT %1 FROM athlete WHERE id=?").arg(kColumns), {qlonglong(id.value)}), read),
             "athlete", m_database->file());
    if (!athlete)
        return athlete;
    return heights(id).map([&](std::vector<Height> measured) {
        athlete->heights = std::move(measured);
        return std::move(*athlete);
    });
}

Expected<std::vector<Height>> Athletes::heights(AthleteId id) const
{
    return store::all<Height>(
        m_database->run(QStringLiteral("SELECT date, metres FROM height WHERE athlete=? ORDER BY date"), {qlonglong(id.value)}),
        [](const QSqlQuery& q) {
            return Height{string(q, 0), q.value(1).toDouble()};
        });
}

Expected<void> Athletes::setHeights(AthleteId id, const std::vector<Height>& heights)
{
    auto done = nothing(m_database->run(QStringLiteral("DELETE FROM height WHERE athlete=?"), {qlonglong(id.value)}));
    for (const auto& h : heights)
        if (done)
            done = nothing(m_database->run(QStringLiteral("INSERT OR REPLACE INTO height (athlete, date, metres) VALUES (?,?,?)"),
                                           {qlonglong(id.value), text(h.date), h.metres}));
    return done;
}

Expected<AthleteId> Athletes::add(const Athlete& a)
{
    return added<AthleteId>(*m_database, [&](AthleteId& id) -> Expected<void> {
        const auto row = m_database->run(
            QStringLiteral("INSERT INTO athlete (uuid, name, birth_date, hand, guardian_consent, not_yet_taught, bat_hand,"
                           " consent_date, level, goal, kit, space, practice_days, team) VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?)"),
            {newUuid(), text(a.name), text(a.birthDate), text(wordOf(a.hand)), a.guardianConsent, linesOf(a.notYetTaught),
             text(wordOf(a.batHand)), text(a.consentDate), text(a.level), text(a.goal), text(a.kit), text(a.space),
             text(a.practiceDays), text(a.team)});
        return idOf(row, id).and_then([&] { return setHeights(id, a.heights); });
    });
}

Expected<void> Athletes::save(const Athlete& a)
{
    return inTransaction(*m_database, [&]() -> Expected<void> {
        return nothing(m_database->run(
                           QStringLiteral("UPDATE athlete SET name=?, birth_date=?, hand=?, guardian_consent=?, not_yet_taught=?,"
                                          " bat_hand=?, consent_date=?, level=?, goal=?, kit=?, space=?, practice_days=?, team=?"
                                          " WHERE id=?"),
                           {text(a.name), text(a.birthDate), text(wordOf(a.hand)), a.guardianConsent, linesOf(a.notYetTaught),
                            text(wordOf(a.batHand)), text(a.consentDate), text(a.level), text(a.goal), text(a.kit), text(a.space),
                            text(a.practiceDays), text(a.team), qlonglong(a.id.value)}))
            .and_then([&] { return setHeights(a.id, a.heights); });
    });
}

} // namespace kestrel::store
