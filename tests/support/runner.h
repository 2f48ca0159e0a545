#pragma once

#include <QObject>

#include <memory>
#include <vector>

namespace kestrel::test {

using MakeTest = std::unique_ptr<QObject> (*)();
/// The test classes of this program, in the order the linker met them.
std::vector<MakeTest>& allTests();

template <class T> struct Register {
    Register()
    {
        allTests().push_back([]() -> std::unique_ptr<QObject> { return std::make_unique<T>(); });
    }
};

} // namespace kestrel::test

/// Makes a test class part of its program.
#define KESTREL_TEST(Class) static const kestrel::test::Register<Class> registered##Class;
