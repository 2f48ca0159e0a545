#pragma once

#include "app/bench/review_model.h"
#include "core/compare/follow_up.h"

namespace kestrel::app {

/// What became of the last page's task on the day on the bench. It follows the review, on another thread.
class FollowUpModel : public QObject {
    Q_OBJECT
public:
    FollowUpModel(Workspace&, ClipContext&, ReviewModel&, QObject* parent = nullptr);

    /// Empty: no page of this skill went out before, or it is still being looked at.
    const std::optional<FollowUp>& followUp() const { return m_followUp; }

signals:
    void changed();

private:
    void gather();

    Workspace& m_workspace;
    ClipContext& m_context;
    ReviewModel& m_review;
    Background m_work;
    std::optional<FollowUp> m_followUp;
};

} // namespace kestrel::app
