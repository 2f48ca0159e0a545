#include "core/base/stand_back.h"

#include <unistd.h>

namespace kestrel {

namespace {

constexpr int kNiceness = 10; // added to the thread's; on Linux each thread has its own

} // namespace

void standBack()
{
    thread_local const int niceness = ::nice(kNiceness);
    static_cast<void>(niceness);
}

} // namespace kestrel
