#include "core/base/time.h"

double difference(kestrel::RealTime a, kestrel::RealTime b)
{
    return a - b;
}

void check(kestrel::MediaTime film, kestrel::RealTime real)
{
    difference(real, real);
#ifdef WRONG
    difference(real, film); // film time is slower than life by the slow-motion factor
#else
    (void)film;
#endif
}
