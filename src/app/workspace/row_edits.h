#pragma once

#include "app/workspace/workspace.h"

#include <memory>
#include <optional>

namespace kestrel::app {

/// Adds a row so that it can be undone and redone under the same id. The id, or an invalid one when it failed.
/// \param more  what Library::add wants besides the row
template <class Row, class... More> auto addRow(Workspace& workspace, const EditNote& note, const Row& row, const More&... more)
{
    auto kept = std::make_shared<std::optional<store::TakenRows>>();
    auto id = std::make_shared<decltype(row.id)>();
    (void)workspace.edit(
        note,
        [=](store::Library& l) -> Expected<void> {
            if (*kept)
                return l.restore(**kept);
            return l.add(row, more...).map([&](auto added) { *id = added; });
        },
        [=](store::Library& l) -> Expected<void> { return l.take(*id).map([&](store::TakenRows r) { *kept = std::move(r); }); });
    return *id;
}

/// Removes a row with all that belongs to it; undo gives everything back.
template <class Id> bool removeRow(Workspace& workspace, const EditNote& note, Id id)
{
    auto kept = std::make_shared<store::TakenRows>();
    return workspace
        .edit(
            note,
            [=](store::Library& l) -> Expected<void> {
                return l.take(id).map([&](store::TakenRows r) { *kept = std::move(r); });
            },
            [=](store::Library& l) { return l.restore(*kept); })
        .has_value();
}

/// Replaces a row's values.
template <class Row> bool changeRow(Workspace& workspace, const EditNote& note, const Row& before, const Row& after)
{
    return workspace
        .edit(
            note, [=](store::Library& l) { return l.save(after); }, [=](store::Library& l) { return l.save(before); })
        .has_value();
}

} // namespace kestrel::app
