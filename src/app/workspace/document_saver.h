#pragma once

#include "app/workspace/background.h"
#include "app/workspace/workspace.h"
#include "report/document.h"

#include <QString>

namespace kestrel::app {

/// Writes a document by its name's ending, on another thread; an error is announced by the workspace. \param then  it is written
template <class Then>
void saveDocument(QObject* context, Workspace& workspace, const report::Document& document, const QString& file, Then then)
{
    Background::run(
        context, [document, file](std::stop_token) { return report::saveDocument(document, file.toStdString()); },
        [&workspace, then = std::move(then)](const Expected<void>& saved) {
            if (saved)
                then();
            else
                emit workspace.failed(saved.error());
        });
}

} // namespace kestrel::app
