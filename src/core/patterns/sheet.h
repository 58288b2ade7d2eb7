#pragma once
// What the parts of a starter pattern hand to one another while it is being wired. Internal to patterns/.

#include "core/patterns/choices.h"
#include "core/patterns/panel.h"

#include <array>

namespace ts::patterns {

/// The motor as chosen, with the part that brings its plate.
struct MotorChoice {
    Part part;
    double powerW = 0, currentA = 0;
};

struct StarterSheet {
    const Plan& plan;
    Panel& panel;
    MotorChoice motor;
    bool reverses = false;

    // power
    std::array<std::string, 3> lines; ///< where the power circuit has got to
    std::vector<std::string> runners; ///< contactors or relays whose coils the operation works, one a direction
    std::vector<std::string> contactors; ///< all contactors that can cut the motor off
    std::string overload; ///< tag; empty: none

    // control
    double controlV = 24;
    bool isDirect = true;
    Rail live, ret; ///< control rails behind their fuse
    Rail plus, minus; ///< 24 V for safety relays and drives
    Rail stopLine; ///< behind everything that stops: starts and holds hang here
    std::string aheadOfStop; ///< a live terminal before the stop line
    Rail coilReturn; ///< where coils return to
    std::array<std::vector<Pair>, 2> monitorContacts; ///< closed when all phases are there; the second set for the
                                                      ///< second direction
    std::vector<std::string> stops; ///< emergency stop devices
    bool needsReset = false;

    ParameterMap coil(std::string size = {}) const
    {
        ParameterMap p{{"coil_voltage_v", controlV}, {"coil_current", std::string(isDirect ? "dc" : "ac")}};
        if (!size.empty())
            p["size"] = std::move(size);
        return p;
    }
    bool usesRelay() const
    {
        return !plan.is("stop", "straight") && !plan.is("stop", "contactor_relay")
            && !plan.is("stop", "ordinary_relay");
    }
    bool isDrive() const { return plan.is("base", "drive"); }
    bool hasLineContactor() const
    {
        return !isDrive() && plan.is("second_contactor", "yes")
            && (plan.is("stop", "two_channel_relay") || plan.is("stop", "delayed_relay")
                || plan.is("stop", "controller"));
    }
};

Expected<MotorChoice> motorChoice(const Plan& plan); // power.cpp
void wireControlSupply(StarterSheet&); // control.cpp
void wirePower(StarterSheet&); // power.cpp
void wireCurrentMonitor(StarterSheet&); // protection.cpp: in the lines, before or behind the contactors
void wireMonitor(StarterSheet&); // protection.cpp
void wireStopCircuit(StarterSheet&); // stop.cpp
void wireOperation(StarterSheet&); // operation.cpp
void wireIndication(StarterSheet&); // protection.cpp
void wireBrake(StarterSheet&); // protection.cpp
void addScenarios(StarterSheet&); // scenarios.cpp

} // namespace ts::patterns
