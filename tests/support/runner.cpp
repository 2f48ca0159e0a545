#include "support/runner.h"

namespace kestrel::test {

std::vector<MakeTest>& allTests()
{
    static std::vector<MakeTest> all;
    return all;
}

} // namespace kestrel::test
