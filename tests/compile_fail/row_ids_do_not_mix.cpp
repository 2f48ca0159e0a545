#include "store/db/row_id.h"

void open(kestrel::store::ClipId);

void check(kestrel::store::ClipId clip, kestrel::store::DayId day)
{
    open(clip);
#ifdef WRONG
    open(day);
#else
    (void)day;
#endif
}
