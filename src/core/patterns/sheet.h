#pragma once
// What the parts of a pattern hand to one another while a machine is being wired: what all starters share, and what
// each has for itself. Internal to patterns/.

#include "core/patterns/choices.h"
#include "core/patterns/panel.h"

#include <array>
#include <list>

namespace ts::patterns {

/// The motor as chosen, with the part that brings its plate.
struct MotorChoice {
    Part part;
    double powerW = 0, currentA = 0;
};

struct StarterSheet;

/// What all starters share.
struct MachineSheet {
    const Plan& plan; ///< its shared words
    Panel& panel;
    std::list<StarterSheet> starters{};

    std::array<Rail, 3> mains{Rail("Q0:2"), Rail("Q0:4"), Rail("Q0:6")}; ///< behind the main switch
    double mainsV = 400, phaseV = 230; ///< line to line, line to neutral
    double controlV = 24;
    bool isDirect = true;
    Rail live{}, ret{}; ///< control rails behind their fuse
    Rail plus{}, minus{}; ///< 24 V for safety relays and drives
    Rail stopHead{}; ///< behind what stops all: each starter's stop line begins here
    Rail returnHead{}; ///< where coils return to
    std::string aheadOfStop{}; ///< a live terminal before the stop lines
    std::vector<std::string> stops{}; ///< emergency stops, guards
    bool needsReset = false;

    bool usesRelay() const
    {
        return !plan.is("stop", "straight") && !plan.is("stop", "contactor_relay")
            && !plan.is("stop", "ordinary_relay");
    }
    ParameterMap coil(std::string size = {}) const
    {
        ParameterMap p{{"coil_voltage_v", controlV}, {"coil_current", std::string(isDirect ? "dc" : "ac")}};
        if (!size.empty())
            p["size"] = std::move(size);
        return p;
    }
    bool hasDrive() const;
    bool hasTwoHand() const;
    /// The safety relay is fed with the control voltage, whatever its kind of current.
    bool feedsRelayFromControl() const { return !plan.is("stop", "controller") && plan.is("relay_supply", "control"); }
    bool hasGuard() const { return !plan.is("guard", "no"); }
    bool locksGuard() const { return plan.is("guard", "locked"); }
    bool needs24V() const
    {
        return (usesRelay() && !feedsRelayFromControl()) || hasDrive() || hasTwoHand() || locksGuard();
    }
    void begin(const StarterSheet& starter);
};

struct StarterSheet {
    MachineSheet& shared;
    int number;
    const Plan& plan;
    MotorChoice motor;
    Panel& panel = shared.panel;
    bool reverses = plan.is("base", "reversing");

    std::array<std::string, 3> lines{}; ///< where the power circuit has got to; empty: there is no such line
    std::vector<std::string> runners{}; ///< contactors or relays whose coils the operation works, one a direction
    std::vector<std::string> contactors{}; ///< all contactors that can cut the motor off
    std::string overload{}; ///< tag; empty: none

    Rail stopLine{}; ///< behind everything that stops: starts and holds hang here
    std::optional<Rail> ownReturn{}; ///< of its coils, where something of its own is in it
    std::array<std::vector<Pair>, 2> monitorContacts{}; ///< closed when all phases are there; the second set for the
                                                        ///< second direction

    /// A device of this starter as the file names it.
    std::string tag(std::string_view local) const { return panel.own(local); }
    Rail& coilReturn() { return ownReturn ? *ownReturn : shared.returnHead; }
    bool hasMonitorDevice() const
    {
        return !plan.is("monitor", "none") && !plan.is("monitor", "three_relays") && !isSmall(plan);
    }
    bool runsWhileHeld() const
    {
        return plan.is("operation", "inching") || plan.is("operation", "two_hand") || plan.is("operation", "enabling");
    }
    bool isDrive() const { return plan.is("base", "drive"); }
    bool hasLineContactor() const
    {
        return !isDrive() && plan.is("second_contactor", "yes")
            && (plan.is("stop", "two_channel_relay") || plan.is("stop", "delayed_relay")
                || plan.is("stop", "controller"));
    }
    /// What the motor is called: what it moves, or just "motor".
    std::string moves() const { return plan.text("moves").empty() ? "motor" : plan.text("moves"); }
    /// Before a label or a scenario's name where there are several motors.
    std::string before() const { return number == 1 ? std::string() : "M" + std::to_string(number) + ": "; }
};

Expected<MotorChoice> motorChoice(const Plan& plan, int starter); // power.cpp
double areaFor(double currentA, bool isCable); // power.cpp
void wireControlSupply(MachineSheet&); // control.cpp
double fuseFor(double currentA); // power.cpp
std::string addContactor(StarterSheet&, const std::string& tag, const std::string& label); // power.cpp
void throughPoles(StarterSheet&, const std::string& tag); // power.cpp: the lines go on behind poles 1-2, 3-4, 5-6
void addOverload(StarterSheet&, double settingA); // power.cpp
void wirePower(StarterSheet&); // power.cpp
void wireSmallMotor(StarterSheet&); // small_motors.cpp
std::optional<Part> samplePart(std::string_view kind, double powerW); // power.cpp: within 2 % of the power
std::string samplePowers(std::string_view kind); // power.cpp: "0.25 kW, 0.37 kW"
void wireCurrentMonitor(StarterSheet&); // protection.cpp: in the lines, before or behind the contactors
void wireMonitor(StarterSheet&); // protection.cpp
void wireStopCircuit(MachineSheet&); // stop.cpp
void wireStopLine(StarterSheet&); // stop.cpp
void wireGuardLock(MachineSheet&); // guard.cpp: opens only while everything stands
void wireBonds(MachineSheet&); // control.cpp: protective conductors of door and plate
void wireOperation(StarterSheet&); // operation.cpp
void wireIndication(StarterSheet&); // protection.cpp
void wireBrake(StarterSheet&); // protection.cpp
void addScenarios(MachineSheet&); // scenarios.cpp
void printNorthAmerican(DossierFile&); // marks.cpp

} // namespace ts::patterns
