#pragma once

#include "app/workspace.h"

#include <memory>
#include <optional>

namespace kestrel::app {

/// Adds a row so that it can be undone and redone under the same id. The id, or an invalid one when it failed.
/// \param more  what Library::add wants besides the row
template <class Record, class Row, class... More>
auto addRow(Workspace& workspace, const QString& text, const Row& row, const More&... more)
{
    auto kept = std::make_shared<std::optional<Record>>();
    auto id = std::make_shared<decltype(row.id)>();
    workspace.edit(
        text,
        [=](store::Library& l) -> Expected<void> {
            if (*kept)
                return l.restore(**kept);
            return l.add(row, more...).map([&](auto added) { *id = added; });
        },
        [=](store::Library& l) -> Expected<void> { return l.take(*id).map([&](const Record& r) { *kept = r; }); });
    return *id;
}

/// Removes a row with all that belongs to it; undo gives everything back.
template <class Record, class Id> bool removeRow(Workspace& workspace, const QString& text, Id id)
{
    auto kept = std::make_shared<Record>();
    return workspace.edit(
        text, [=](store::Library& l) -> Expected<void> { return l.take(id).map([&](const Record& r) { *kept = r; }); },
        [=](store::Library& l) { return l.restore(*kept); });
}

/// Replaces a row's values.
template <class Row> bool changeRow(Workspace& workspace, const QString& text, const Row& before, const Row& after)
{
    return workspace.edit(
        text, [=](store::Library& l) { return l.save(after); }, [=](store::Library& l) { return l.save(before); });
}

} // namespace kestrel::app
