#include "core/base/quantity.h"

#include <cmath>

namespace ts {

TimeNs timeNs(Seconds time)
{
    return static_cast<TimeNs>(std::llround(time.si() * 1e9 / static_cast<double>(kGridNs))) * kGridNs;
}

} // namespace ts
