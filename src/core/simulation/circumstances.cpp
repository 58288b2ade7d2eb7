// Plants at the ends of what may be: coils at the end of their band, motors at their least load.

#include "core/library/table.h"
#include "core/simulation/plant.h"

namespace ts {

void setCoilBand(Plant& plant, CoilBand band)
{
    const auto end = [band](const DefaultRow& row) {
        return band == CoilBand::Holds ? row.low : band == CoilBand::LetsGo ? row.high : row.nominal;
    };
    for (PlantCoil& c : plant.coils) {
        if (!c.data.hasBand)
            continue;
        c.data.pickUpV = c.data.ratedV * end(deviceDefault("coil", "may_pull_in_from"));
        c.data.dropOutV = c.data.ratedV
            * end(deviceDefault("coil", c.data.direct ? "may_drop_out_at_dc" : "may_drop_out_at_ac"));
    }
}

void setLowestLoad(Plant& plant, LeastLoads which)
{
    for (PlantMotor& m : plant.motors) {
        MotorElement& e = m.data;
        if (which == LeastLoads::Entered && !e.isLowestLoadEntered)
            continue;
        e.frictionNm = e.ownFrictionNm + e.lowestLoad * (e.frictionNm - e.ownFrictionNm);
        e.fanNms2 *= e.lowestLoad;
        e.hangingNm *= e.lowestLoad;
    }
    plant.circuitNumber = ~plant.circuitNumber;
}

} // namespace ts
