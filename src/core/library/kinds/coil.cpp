#include "core/library/kinds/coil.h"

#include <cmath>

namespace ts::kinds {
namespace {

Complex impedanceOf(double ratedV, double va, double cosine)
{
    return ratedV * ratedV / va * Complex(cosine, std::sqrt(1.0 - cosine * cosine));
}

CoilElement coilAt(double ratedV, bool direct)
{
    CoilElement coil;
    coil.direct = direct;
    coil.ratedV = ratedV;
    coil.pickUpV = ratedV * deviceDefault("coil", "may_pull_in_from").nominal;
    coil.dropOutV = ratedV * deviceDefault("coil", direct ? "may_drop_out_at_dc" : "may_drop_out_at_ac").nominal;
    return coil;
}

/// The winding fails from the heat of its own current: with the armature out it takes several times the sealed current.
void addWinding(Body& body, int coilElement)
{
    auto& coil = std::get<CoilElement>(body.elements[static_cast<std::size_t>(coilElement)].what);
    const double sealedA = coil.ratedV / std::abs(coil.sealedOhm), openA = coil.ratedV / std::abs(coil.openOhm);
    const double limit = deviceDefault("coil", "winding_limit").nominal;
    if (openA * openA < limit * sealedA * sealedA)
        return; // takes no harm in either position
    coil.burnt = static_cast<int>(body.movers.size());
    body.movers.push_back({"winding", MoverSpec::Driver::Protection, 0, 0.0, 0.0, 0.0, true});
    Protection heat;
    heat.law = Protection::Law::Thermal;
    heat.mover = coil.burnt;
    heat.winding = coilElement;
    heat.ratedA = sealedA;
    heat.limit = limit;
    heat.timeConstantS = deviceDefault("coil", "winding_time_constant").nominal;
    body.protections.push_back(heat);
}

} // namespace

CoilElement alternatingCoil(double ratedV, const CoilPower& power)
{
    CoilElement coil = coilAt(ratedV, false);
    coil.openOhm = impedanceOf(ratedV, power.openVa, power.openCosine);
    coil.sealedOhm = impedanceOf(ratedV, power.sealedVa, power.sealedCosine);
    coil.resistanceOhm = coil.openOhm.real(); // the winding's resistance is the real part of its inrush impedance at
                                              // most
    return coil;
}

CoilElement directCoil(double ratedV, double powerW)
{
    CoilElement coil = coilAt(ratedV, true);
    coil.openOhm = coil.sealedOhm = coil.resistanceOhm = ratedV * ratedV / powerW;
    return coil;
}

CoilElement rectifiedCoil(double ratedV, double powerW)
{
    CoilElement coil = coilAt(ratedV, false);
    coil.openOhm = coil.sealedOhm = coil.resistanceOhm = ratedV * ratedV / powerW;
    return coil;
}

void addCoil(Body& body, const std::string& role, const std::string& first, const std::string& second, CoilElement coil,
    int mover)
{
    coil.mover = mover;
    const bool direct = coil.direct;
    const int p = sharedTerminal(body, first), q = sharedTerminal(body, second);
    const int element = addTwoPole(body, role, p, q, coil);
    if (!direct)
        addWinding(body, element);
}

} // namespace ts::kinds
