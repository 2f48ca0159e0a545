#include "store/plans.h"

#include "store/db/rows.h"

namespace kestrel::store {

namespace {

std::optional<Plan> planIn(const std::string& content, const std::string& file)
{
    const auto plan = parsePlan(nlohmann::json::parse(content, nullptr, false), file);
    return plan ? std::optional(*plan) : std::nullopt;
}

} // namespace

Expected<std::optional<Plan>> Plans::latest(AthleteId id) const
{
    return versions(id).map(
        [](std::vector<Plan> all) { return all.empty() ? std::nullopt : std::optional(std::move(all.front())); });
}

Expected<std::map<AthleteId, Plan>> Plans::latest() const
{
    auto q = m_database->run(
        QStringLiteral("SELECT athlete, content FROM plan WHERE id IN (SELECT max(id) FROM plan GROUP BY athlete)"));
    if (!q)
        return tl::unexpected(q.error());
    std::map<AthleteId, Plan> plans;
    while (q->next())
        if (auto plan = planIn(string(*q, 1), m_database->file()))
            plans[AthleteId(q->value(0).toLongLong())] = std::move(*plan);
    return plans;
}

Expected<std::vector<Plan>> Plans::versions(AthleteId id) const
{
    auto q = m_database->run(QStringLiteral("SELECT content FROM plan WHERE athlete=? ORDER BY id DESC"), {qlonglong(id.value)});
    if (!q)
        return tl::unexpected(q.error());
    std::vector<Plan> plans;
    while (q->next())
        if (auto plan = planIn(string(*q, 0), m_database->file()))
            plans.push_back(std::move(*plan));
    return plans;
}

Expected<void> Plans::add(AthleteId id, const Plan& plan)
{
    return inTransaction(*m_database, [&] {
        return nothing(m_database->run(QStringLiteral("INSERT INTO plan (uuid, athlete, content) VALUES (?,?,?)"),
                                       {newUuid(), qlonglong(id.value), text(toJson(plan).dump())}));
    });
}

Expected<void> Plans::removeLatest(AthleteId id)
{
    return inTransaction(*m_database, [&] {
        return nothing(m_database->run(QStringLiteral("DELETE FROM plan WHERE id = (SELECT max(id) FROM plan WHERE athlete=?)"),
                                       {qlonglong(id.value)}));
    });
}

} // namespace kestrel::store
