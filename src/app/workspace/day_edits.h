#pragma once

#include "app/workspace/workspace.h"

namespace kestrel::app {

/// A day of that skill for the athlete, with the pack's first school. Not stored.
store::FilmingDay newDay(store::AthleteId, const std::string& date, const Pack&);

/// The day is of another skill from now on. Marks stay; key positions, answers and variants of the old one wait and come back
/// when it is changed back. View and target follow the pack where they were only its defaults. Can be undone.
void setSkill(Workspace&, const store::FilmingDay&, const Pack&);

/// The clip belongs to another day from now on. Can be undone.
void moveClip(Workspace&, store::ClipId, store::DayId to);
/// To that athlete's day of the same date and skill, which is made where there is none. Can be undone as one.
void moveClip(Workspace&, store::ClipId, store::AthleteId to);

/// The scene of a film just added to a day of that skill.
void setUsualScene(store::Clip&, const store::FilmingDay&, const store::Athlete&, const Pack*);

} // namespace kestrel::app
