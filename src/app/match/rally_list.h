#pragma once

#include "app/match/match_model.h"

#include <QAbstractTableModel>

namespace kestrel::app {

/// The rallies as a table: number, score before it, who served, who won and how.
class RallyList : public QAbstractTableModel {
    Q_OBJECT
public:
    RallyList(MatchModel&, QObject* parent);

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex&, int role) const override;
    QVariant headerData(int section, Qt::Orientation, int role) const override;
    void reset();

private:
    MatchModel& m_model;
};

/// "serve, short backspin; push, backhand topspin; into the net", as far as it was noted.
QString rallyWords(const Rally&, const MatchSport&);

} // namespace kestrel::app
