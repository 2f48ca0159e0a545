#include "app/match/rally_list.h"

#include "app/shell/theme.h"
#include "app/shell/words.h"

#include <algorithm>

namespace kestrel::app {

namespace {

enum Column { Number, Before, Server, Won, What, Columns };

} // namespace

QString rallyWords(const Rally& r, const MatchSport& sport)
{
    QStringList parts;
    if (!r.serve.empty()) {
        const auto* serve = sport.findServe(r.serve);
        parts << (serve ? text(serve->name) : text(r.serve));
    }
    QStringList strokes;
    for (const auto& s : r.strokes) {
        const auto* stroke = sport.findStroke(s);
        strokes << (stroke ? text(stroke->name) : text(s));
    }
    if (!strokes.isEmpty())
        parts << strokes.join(QStringLiteral(", "));
    if (!r.how.empty()) {
        const auto* ending = sport.findEnding(r.how);
        parts << (ending ? text(ending->name) : text(r.how));
    }
    if (r.attacking)
        parts << (*r.attacking ? RallyList::tr("attacking") : RallyList::tr("waiting"));
    if (r.moved)
        parts << (*r.moved ? RallyList::tr("feet moved") : RallyList::tr("leaned"));
    if (!r.server.empty())
        parts << RallyList::tr("%1 served").arg(text(r.server));
    if (!r.note.empty())
        parts << text(r.note);
    return parts.join(QStringLiteral("; "));
}

RallyList::RallyList(MatchModel& model, QObject* parent) : QAbstractTableModel(parent), m_model(model)
{
    connect(&model, &MatchModel::changed, this, &RallyList::reset);
}

void RallyList::reset()
{
    beginResetModel();
    endResetModel();
}

int RallyList::rowCount(const QModelIndex& parent) const
{
    return parent.isValid() || !m_model.isOpen() ? 0 : static_cast<int>(m_model.log().rallies.size());
}

int RallyList::columnCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : Columns;
}

QVariant RallyList::data(const QModelIndex& index, int role) const
{
    const auto n = static_cast<std::size_t>(index.row());
    if (!m_model.isOpen() || n >= m_model.log().rallies.size())
        return {};
    const Rally& r = m_model.log().rallies[n];
    const MatchState& before = m_model.score().before[n];
    const auto& problems = m_model.score().problems;
    const auto problem = std::find_if(problems.begin(), problems.end(), [&](const MatchProblem& p) { return p.rally == n; });
    if (role == Qt::ForegroundRole && problem != problems.end())
        return colours().alert;
    if (role == Qt::ToolTipRole && problem != problems.end())
        return text(problem->text);
    if (role != Qt::DisplayRole)
        return {};
    switch (index.column()) {
    case Number:
        return index.row() + 1;
    case Before:
        return text(pointsWords(before, m_model.sport(), m_model.log().players));
    case Server:
        return m_model.sport().scoring.kind == MatchScoring::Kind::Attempts ? QString()
                                                                            : text(m_model.log().players[before.server]);
    case Won: // a shape besides the name
        return r.won.empty() ? tr("–")
                             : (r.won == m_model.log().players[0] ? QStringLiteral("● ") : QStringLiteral("◆ ")) + text(r.won);
    case What:
        return rallyWords(r, m_model.sport()) +
               (problem != problems.end() ? QStringLiteral("  ! ") + text(problem->text) : QString());
    default:
        return {};
    }
}

QVariant RallyList::headerData(int section, Qt::Orientation orientation, int role) const
{
    if (orientation != Qt::Horizontal || role != Qt::DisplayRole)
        return {};
    const QString heads[] = {QStringLiteral("#"), tr("score"), tr("serves"), tr("won by"), tr("how")};
    return heads[section];
}

} // namespace kestrel::app
