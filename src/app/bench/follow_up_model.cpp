#include "app/bench/follow_up_model.h"

#include "app/workspace/day_films.h"

namespace kestrel::app {

FollowUpModel::FollowUpModel(Workspace& workspace, ClipContext& context, ReviewModel& review, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_context(context), m_review(review)
{
    connect(&review, &ReviewModel::reviewChanged, this, &FollowUpModel::gather);
    connect(&context, &ClipContext::clipChanged, this, &FollowUpModel::gather);
}

void FollowUpModel::gather()
{
    m_work.stop();
    const auto set = [this](std::optional<FollowUp> found) {
        if (found == m_followUp)
            return;
        m_followUp = std::move(found);
        emit changed();
    };
    if (!m_context.isOpen() || !m_context.pack() || !m_review.isJudged())
        return set({});
    std::vector<std::vector<Reading>> after;
    for (const auto& one : m_review.together())
        if (one.read)
            after.push_back(one.read->readings);
    m_work = Background::run(
        this,
        [openLibrary = m_workspace.library().again(true), pack = *m_context.pack(), day = m_context.day(),
         after = std::move(after)](std::stop_token) {
            return openLibrary().and_then([&](const store::Library& library) { return followUpOf(library, pack, day, after); });
        },
        [set](Expected<std::optional<FollowUp>> found) { set(found.value_or(std::nullopt)); });
}

} // namespace kestrel::app
