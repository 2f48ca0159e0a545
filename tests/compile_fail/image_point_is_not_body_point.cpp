#include "core/base/geometry.h"

void check(kestrel::ImagePoint pixels, kestrel::BodyPoint metres)
{
    kestrel::midpoint(pixels, pixels);
#ifdef WRONG
    kestrel::midpoint(pixels, metres); // pixels and metres do not mix
#else
    (void)metres;
#endif
}
