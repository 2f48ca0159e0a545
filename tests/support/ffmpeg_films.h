#pragma once

#include <QString>
#include <QStringList>

#include <string>

namespace kestrel::test {

/// Runs FFmpeg's command line tool on a film and gives the new film's path; empty, with its words on standard error, when
/// it failed. For containers and codecs the product itself does not write.
std::string remade(const std::string& film, const QString& newFile, const QStringList& outputOptions,
                   const QStringList& inputOptions = {});

} // namespace kestrel::test
