#include "core/base/angle.h"

void bend(kestrel::Angle);

void check()
{
    bend(kestrel::Angle::degrees(30));
#ifdef WRONG
    bend(30.0); // degrees or radians?
#endif
}
