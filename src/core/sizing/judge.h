#pragma once
// Where the rules write what they find. Internal to sizing/.

#include "core/library/registry.h"
#include "core/sizing/loads.h"
#include "core/sizing/sizing.h"

#include <set>

namespace ts::sizing {

class Judge {
public:
    Judge(const Circuit& ofCircuit, const Loads& read)
        : circuit(ofCircuit)
        , loads(read)
        , plant(read.plant)
    {
    }
    const Circuit& circuit;
    const Loads& loads;
    const Plant& plant;

    /// The worst of what was said of the same rule and device or wire stays.
    void share(Headroom h);
    void met(Headroom h);
    /// A rule of the table that is judged here.
    void here(const char* rule) { m_here.insert(rule); }
    void notJudged(std::string rule, DeviceId device, WireId wire, Message enter);
    Sized result();

    std::optional<Parameters> parameters(DeviceId device) const;
    /// A starting value of sizing_defaults.csv, in its own unit; the row must exist.
    static double fallback(std::string_view kind, std::string_view parameter, std::string_view column = "nominal");
    /// Notes in `h` that the figure was written by nobody.
    double number(const Parameters& p, const char* name, Headroom& h) const;
    const Device& deviceOf(int slot) const { return *circuit.device(plant.devices[static_cast<std::size_t>(slot)].id); }

private:
    std::vector<Headroom> m_all;
    std::vector<NotJudged> m_notJudged;
    std::set<std::string_view> m_here;
};

void judgeMotors(Judge&); // motor_rules.cpp: motors, overload relays, contactors, fuses of power circuits
void judgeWires(Judge&); // wire_rules.cpp
void judgeControl(Judge&); // control_rules.cpp: coils, contacts, supplies, fuses of control circuits
std::vector<Walk> walksOf(Judge&); // walks.cpp

} // namespace ts::sizing
