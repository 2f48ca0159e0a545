#include "store/days.h"

#include "store/db/rows.h"

namespace kestrel::store {

namespace {

const QString kColumns = QStringLiteral("id, athlete, date, skill, school, hand_use, kind, note, pain, side");

FilmingDay read(const QSqlQuery& q)
{
    FilmingDay d;
    d.id = DayId(q.value(0).toLongLong());
    d.athlete = AthleteId(q.value(1).toLongLong());
    d.date = string(q, 2);
    d.skill = string(q, 3);
    d.school = string(q, 4);
    d.handUse = word(q, 5, findHandUse);
    d.kind = string(q, 6);
    d.note = string(q, 7);
    d.pain = findBodyRegions(string(q, 8));
    d.side = findHand(string(q, 9));
    return d;
}

QString sideText(const FilmingDay& d)
{
    return d.side ? text(wordOf(*d.side)) : QStringLiteral("");
}

} // namespace

Expected<std::vector<FilmingDay>> Days::of(AthleteId id) const
{
    return all<FilmingDay>(
        m_database->run(QStringLiteral("SELECT %1 FROM filming_day WHERE athlete=? ORDER BY date DESC, id DESC").arg(kColumns),
                        {qlonglong(id.value)}),
        read);
}

Expected<FilmingDay> Days::find(DayId id) const
{
    return only(
        all<FilmingDay>(
            m_database->run(QStringLiteral("SELECT %1 FROM filming_day WHERE id=?").arg(kColumns), {qlonglong(id.value)}), read),
        "filming day", m_database->file());
}

Expected<std::optional<FilmingDay>> Days::latest(AthleteId id) const
{
    return of(id).map([](std::vector<FilmingDay> days) { return days.empty() ? std::nullopt : std::optional(days.front()); });
}

Expected<std::map<AthleteId, std::string>> Days::datesBy(const QString& query) const
{
    auto q = m_database->run(query);
    if (!q)
        return tl::unexpected(q.error());
    std::map<AthleteId, std::string> dates;
    while (q->next())
        dates[AthleteId(q->value(0).toLongLong())] = string(*q, 1);
    return dates;
}

Expected<std::map<AthleteId, std::string>> Days::lastDates() const
{
    return datesBy(QStringLiteral("SELECT athlete, max(date) FROM filming_day GROUP BY athlete"));
}

Expected<std::map<AthleteId, std::string>> Days::lastFilmed() const
{
    return datesBy(QStringLiteral("SELECT athlete, max(date) FROM filming_day d WHERE EXISTS (SELECT 1 FROM clip WHERE day=d.id)"
                                  " GROUP BY athlete"));
}

Expected<std::set<AthleteId>> Days::withSkill(const std::string& skill) const
{
    auto q = m_database->run(QStringLiteral("SELECT DISTINCT athlete FROM filming_day WHERE skill=?"), {text(skill)});
    if (!q)
        return tl::unexpected(q.error());
    std::set<AthleteId> athletes;
    while (q->next())
        athletes.insert(AthleteId(q->value(0).toLongLong()));
    return athletes;
}

Expected<DayId> Days::add(const FilmingDay& d)
{
    return added<DayId>(*m_database, [&](DayId& id) {
        return idOf(m_database->run(QStringLiteral("INSERT INTO filming_day (uuid, athlete, date, skill, school, hand_use, kind,"
                                                   " note, pain, side) VALUES (?,?,?,?,?,?,?,?,?,?)"),
                                    {newUuid(), qlonglong(d.athlete.value), text(d.date), text(d.skill), text(d.school),
                                     text(wordOf(d.handUse)), text(d.kind), text(d.note), text(wordsOf(d.pain)), sideText(d)}),
                    id);
    });
}

Expected<void> Days::save(const FilmingDay& d, const std::string& usualVariant)
{
    return inTransaction(*m_database, [&]() -> Expected<void> {
        const auto before = find(d.id);
        if (!before)
            return tl::unexpected(before.error());
        auto done = nothing(m_database->run(
            QStringLiteral(
                "UPDATE filming_day SET athlete=?, date=?, skill=?, school=?, hand_use=?, kind=?, note=?, pain=?, side=?"
                " WHERE id=?"),
            {qlonglong(d.athlete.value), text(d.date), text(d.skill), text(d.school), text(wordOf(d.handUse)), text(d.kind),
             text(d.note), text(wordsOf(d.pain)), sideText(d), qlonglong(d.id.value)}));
        return done && before->skill != d.skill ? keepVariants(*before, d, usualVariant) : done;
    });
}

Expected<void> Days::keepVariants(const FilmingDay& before, const FilmingDay& after, const std::string& usualVariant)
{
    const QString ofDay = QStringLiteral("(SELECT r.id FROM repetition r JOIN clip c ON c.id = r.clip WHERE c.day=?)");
    return nothing(m_database->run(QStringLiteral("INSERT OR REPLACE INTO kept_variant (repetition, skill, variant)"
                                                  " SELECT id, ?, variant FROM repetition WHERE id IN ") +
                                       ofDay,
                                   {text(before.skill), qlonglong(before.id.value)}))
        .and_then([&] {
            return nothing(
                m_database->run(QStringLiteral("UPDATE repetition SET variant = coalesce((SELECT k.variant FROM kept_variant k"
                                               " WHERE k.repetition = repetition.id AND k.skill=?), ?) WHERE id IN ") +
                                    ofDay,
                                {text(after.skill), text(usualVariant), qlonglong(after.id.value)}));
        })
        .and_then([&] {
            return nothing(m_database->run(QStringLiteral("DELETE FROM kept_variant WHERE skill=? AND repetition IN ") + ofDay,
                                           {text(after.skill), qlonglong(after.id.value)}));
        });
}

} // namespace kestrel::store
