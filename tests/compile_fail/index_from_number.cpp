#include "core/base/index.h"

void stand(kestrel::FrameIndex);

void check()
{
    stand(kestrel::FrameIndex(3));
#ifdef WRONG
    stand(3); // a bare number is not a frame
#endif
}
