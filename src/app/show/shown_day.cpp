#include "app/show/shown_day.h"

#include <QDate>
#include <QFileInfo>

#include <algorithm>

#include <nlohmann/json.hpp>

namespace kestrel::app {

std::optional<ShownDayRequest> ShownDayRequest::of(const Workspace& workspace, const Bench& bench)
{
    if (!bench.context.isOpen() || !bench.context.pack())
        return std::nullopt;
    ShownDayRequest request;
    request.m_review = bench.review.review(); // judges where that is still to be done
    request.m_day = bench.context.day().id;
    request.m_pack = *bench.context.pack();
    request.m_facts = {bench.context.athlete().name, bench.context.day().date, {}, {}};
    request.m_together = bench.review.together();
    request.m_onBench = bench.context.repetition().id;
    request.m_hidesFaces = bench.context.hidesFaces();
    request.openLibrary = workspace.library().again(true);
    return request;
}

Expected<ShownDay> ShownDayRequest::gather(const store::Library& library) const
{
    ShownDay day{m_day, m_pack, m_review, m_facts, {}, {}, m_hidesFaces, 0};
    for (const auto& one : m_together) {
        auto film = filmOf(library, one.id, one.read);
        if (!film)
            return tl::unexpected(film.error());
        if (one.id == m_onBench)
            day.onBench = day.films.size();
        day.films.push_back(std::move(*film));
        day.names.push_back("repetition " + std::to_string(day.films.size()));
    }
    return day;
}

store::SentRow sentOf(const ShownDay& day, const std::string& kind)
{
    store::SentRow sent;
    sent.day = day.day;
    sent.kind = kind;
    sent.review = toJson(day.review, day.pack).dump();
    return sent;
}

void keepSent(Workspace& workspace, store::SentRow sent, const QString& file, std::string content)
{
    sent.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    sent.name = QFileInfo(file).fileName().toStdString();
    sent.content = std::move(content);
    workspace.saveSilently([sent](store::Library& l) { return l.sent().add(sent).map([](store::SentId) {}); });
}

} // namespace kestrel::app
