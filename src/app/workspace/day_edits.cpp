#include "app/workspace/day_edits.h"

#include "app/workspace/row_edits.h"

#include <QCoreApplication>

#include <algorithm>

namespace kestrel::app {

namespace {

QString tr(const char* text)
{
    return QCoreApplication::translate("DayEdits", text);
}

TargetDirection usualTarget(View view, const store::FilmingDay& day, const store::Athlete& athlete, const Pack* pack)
{
    return usualTargetDirection(view, store::athleteOn(athlete, day).hand, pack && pack->leadIsDom());
}

/// What was only the old pack's default becomes the new one's.
store::Clip following(const store::Clip& clip, const store::FilmingDay& before, const Pack* packBefore,
                      const store::FilmingDay& after, const Pack& packAfter, const store::Athlete& athlete, bool isMarked)
{
    store::Clip next = clip;
    const bool hadUsualTarget = clip.scene.target == usualTarget(clip.scene.view, before, athlete, packBefore);
    if (!isMarked && packBefore && clip.scene.view == packBefore->usualView())
        next.scene.view = packAfter.usualView();
    if (hadUsualTarget)
        next.scene.target = usualTarget(next.scene.view, after, athlete, &packAfter);
    return next;
}

} // namespace

store::FilmingDay newDay(store::AthleteId athlete, const std::string& date, const Pack& pack)
{
    store::FilmingDay day;
    day.athlete = athlete;
    day.date = date;
    day.skill = pack.id;
    day.school = pack.usualSchool();
    day.handUse = pack.handUse;
    return day;
}

void setUsualScene(store::Clip& clip, const store::FilmingDay& day, const store::Athlete& athlete, const Pack* pack)
{
    if (pack)
        clip.scene.view = pack->usualView();
    clip.scene.target = usualTarget(clip.scene.view, day, athlete, pack);
}

void setSkill(Workspace& workspace, const store::FilmingDay& before, const Pack& pack)
{
    if (before.skill == pack.id)
        return;
    const auto athlete = workspace.library().athletes().find(before.athlete);
    const auto clips = workspace.library().clips().of(before.id);
    if (!athlete || !clips) {
        emit workspace.failed(athlete ? clips.error() : athlete.error());
        return;
    }
    store::FilmingDay after = before;
    after.skill = pack.id;
    after.school = pack.usualSchool();
    after.handUse = pack.handUse;
    std::vector<store::Clip> clipsAfter;
    for (const auto& c : *clips) {
        const auto marks = workspace.library().marks().count(c.id);
        clipsAfter.push_back(following(c, before, workspace.findPack(before.skill), after, pack, *athlete, !marks || *marks > 0));
    }
    const auto store = [](store::Library& l, const store::FilmingDay& day, const std::string& variant,
                          const std::vector<store::Clip>& films) {
        return l.together([&]() -> Expected<void> {
            auto done = l.days().save(day, variant);
            for (const auto& c : films)
                if (done)
                    done = l.save(c);
            return done;
        });
    };
    (void)workspace.edit(
        tr("change the skill"),
        [=, variant = pack.usualVariant()](store::Library& l) { return store(l, after, variant, clipsAfter); },
        [=, clipsBefore = *clips](store::Library& l) { return store(l, before, {}, clipsBefore); });
}

void moveClip(Workspace& workspace, store::ClipId id, store::DayId to)
{
    const auto before = workspace.library().clips().find(id);
    const auto day = workspace.library().days().find(to);
    if (!before || !day) {
        emit workspace.failed(before ? day.error() : before.error());
        return;
    }
    if (before->day == to)
        return;
    store::Clip after = *before;
    after.day = to;
    const Pack* pack = workspace.findPack(day->skill);
    (void)workspace.edit(
        tr("move the clip"),
        [=, variant = pack ? pack->usualVariant() : std::string()](store::Library& l) { return l.clips().save(after, variant); },
        [before = *before](store::Library& l) { return l.clips().save(before); });
}

void moveClip(Workspace& workspace, store::ClipId id, store::AthleteId to)
{
    const auto before = workspace.library().clips().find(id);
    const auto from = before ? workspace.library().days().find(before->day) : tl::unexpected(before.error());
    const auto days = workspace.library().days().of(to);
    if (!from || !days) {
        emit workspace.failed(from ? days.error() : from.error());
        return;
    }
    if (from->athlete == to)
        return;
    const auto same = std::find_if(days->begin(), days->end(),
                                   [&](const store::FilmingDay& d) { return d.date == from->date && d.skill == from->skill; });
    if (same != days->end())
        return moveClip(workspace, id, same->id);
    store::FilmingDay day = *from; // the place and time are the same; what the other athlete said and the note are not
    day.id = {};
    day.athlete = to;
    day.note.clear();
    day.pain.clear();
    auto made = std::make_shared<store::DayId>();
    auto kept = std::make_shared<std::optional<store::TakenRows>>();
    (void)workspace.edit(
        tr("move the clip"),
        [=, clip = *before](store::Library& l) {
            return l.together([&]() -> Expected<void> {
                auto done = *kept ? l.restore(**kept) : l.add(day).map([&](store::DayId added) { *made = added; });
                store::Clip after = clip;
                after.day = *made;
                return done ? l.save(after) : done;
            });
        },
        [=, clip = *before](store::Library& l) {
            return l.together([&]() -> Expected<void> {
                auto done = l.save(clip);
                return done ? l.take(*made).map([&](store::TakenRows rows) { *kept = std::move(rows); }) : done;
            });
        });
}

} // namespace kestrel::app
