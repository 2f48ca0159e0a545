#pragma once

#include "support/runner.h"

#include <QString>
#include <QtTest>

#include <cstdio>

namespace kestrel::test {

/// Runs every test class (or the one named first on the command line, or of "1/2" every second) and prints one closing line.
inline int runAll(int argc, char** argv)
{
    QString only;
    int part = 1, parts = 1;
    QStringList arguments{QString::fromLocal8Bit(argv[0])};
    for (int i = 1; i < argc; ++i) {
        const QString word = QString::fromLocal8Bit(argv[i]);
        if (i == 1 && word.endsWith(QStringLiteral("Test")))
            only = word;
        else if (i == 1 && std::sscanf(argv[i], "%d/%d", &part, &parts) == 2)
            continue;
        else
            arguments << word;
    }
    if (part < 1 || part > parts)
        return 2;
    int failed = 0, ran = 0, number = 0;
    for (const auto make : allTests()) {
        const auto test = make();
        if (number++ % parts != part - 1)
            continue;
        if (!only.isEmpty() && only != QLatin1String(test->metaObject()->className()))
            continue;
        ++ran;
        if (QTest::qExec(test.get(), arguments) != 0)
            ++failed;
    }
    std::printf("%d test classes passed, %d failed\n", ran - failed, failed);
    return failed == 0 && ran > 0 ? 0 : 1;
}

} // namespace kestrel::test
