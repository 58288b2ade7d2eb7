#pragma once
// Where the rules write what they find. Internal to sizing/.

#include "core/analysis/switching_duty.h"
#include "core/library/registry.h"
#include "core/sizing/loads.h"
#include "core/sizing/sizing.h"

#include <set>

namespace ts::sizing {

constexpr double kPullsIn = 0.85; ///< x Us, IEC 60947-4-1: what every coil pulls in at

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
    bool has(std::string_view rule, WireId wire) const;
    void notJudged(std::string rule, DeviceId device, WireId wire, Message enter)
    {
        add({std::move(rule), device, wire, std::move(enter)});
    }
    /// A figure of its sheet is missing, or one that is measured where it stands.
    void lacks(
        std::string rule, const Device& device, const char* parameter, const char* message = "sizing.enter.sheet");
    void add(NotJudged missing);
    Sized result();

    std::optional<Parameters> parameters(DeviceId device) const;
    static double fallback(std::string_view kind, std::string_view parameter, std::string_view column = "nominal")
    {
        return sizingFallback(kind, parameter, column);
    }
    /// Notes in `h` that the figure was written by nobody.
    double number(const Parameters& p, const char* name, Headroom& h) const;
    /// Of its sheet; else so much, noted as assumed.
    double sheetOr(const Device& device, const char* parameter, double otherwise, Headroom& h) const;
    /// Of the lines; null: there is none.
    const Device* supplyDevice() const;
    const Device& deviceOf(int slot) const { return *circuit.device(plant.devices[static_cast<std::size_t>(slot)].id); }

private:
    std::vector<Headroom> m_all;
    std::vector<NotJudged> m_notJudged;
    std::set<std::string_view> m_here;
};

bool isPowerWire(const Judge& judge, const PlantWire& wire); ///< it carries a motor's current
bool isProtective(const Wire& wire);
/// The drive of which nobody has said what that wire carries for it; null: none.
const Device* unreadDriveAt(const Judge& judge, const PlantWire& wire);
/// At the lines or the motor's side of a drive, which watches its current itself.
bool isAtDrive(const Judge& judge, int node);
bool hasParameter(const Device& device, std::string_view name);
/// So much must flow that a gG link of this rating has surely opened by then.
double opensWithin(double ratedA, double seconds);
/// Current with the rotor held over the rated one, of the plate or assumed.
double lockedRotorRatio(const Parameters& motor);
/// Of a wire where it is laid, alone and at 40 degC; nothing below the table, or laid nowhere.
std::optional<double> ampacityOf(const Judge& judge, const Wire& wire);
/// By wires and closed contacts, not across anything else.
std::set<int> joinedTo(const Judge& judge, const Frame& frame, int node);
/// The 24 V supply to which a load is joined by wires and closed contacts; null: none.
const PlantConverter* converterOf(const Judge& judge, const Frame& frame, const PlantImpedance& load);
/// What is left of its voltage where the supply of a load is at its lowest: of its own 24 V supply, or of the lines.
/// What nobody wrote of it is noted in `h`.
/// x Us, of its sheet, or what every coil pulls in at.
double pullsInFrom(const Judge& judge, const Device& device);
double lowestShare(const Judge& judge, const Frame& frame, const PlantImpedance& load, Headroom& h);
/// All that leaves a source by its terminal: everything there flows the same way.
double leaving(const Judge& judge, const Frame& frame, int node);

void judgeMotors(Judge&); // motor_rules.cpp: motors, overload relays, contactors, fuses of power circuits
void judgeWires(Judge&); // wire_rules.cpp
void judgeControl(Judge&); // control_rules.cpp: coils, contacts, supplies, fuses of control circuits
void judgeSupplies(Judge&); // supply_rules.cpp: transformers, 24 V, safety relays, monitors
std::vector<Walk> walksOf(Judge&); // walks.cpp
void judgeShorts(Judge&, const std::vector<Walk>&); // short_rules.cpp
void judgeHeat(Judge&); // heat_rules.cpp
void judgeDuty(Judge&, const Dossier&, const std::vector<SwitchingDuty>&); // duty_rules.cpp

} // namespace ts::sizing
