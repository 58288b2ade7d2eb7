// The smallest circuit that runs: a contactor held by a push button, built in code, powered, pressed and looked at.
// Read this after docs/tour.md. Run as a test: what it prints is compared.

#include "core/simulation/scenario_run.h"
#include "wording/event_text.h"

#include <cstdio>

using namespace ts;

int main()
{
    Circuit circuit;
    const auto add = [&circuit](int id, const char* tag, const char* kind, ParameterMap parameters) {
        Device d;
        d.id = {id};
        d.tag = tag;
        d.kind = kind;
        d.parameters = std::move(parameters);
        circuit.devices.push_back(d);
    };
    add(1, "G0", "supply_three_phase", {{"voltage_v", 400.0}});
    add(2, "S1", "push_button", {{"contacts", std::vector<std::string>{"13-14"}}});
    add(3, "Q1", "contactor", {{"coil_voltage_v", 230.0}, {"coil_current", std::string("ac")}});
    const auto wire = [&circuit](int id, const char* number, TerminalRef from, TerminalRef to) {
        circuit.wires.push_back({{id}, number, std::move(from), std::move(to), 1.0, 0.5, "", {}});
    };
    wire(4, "1", {{1}, "L1"}, {{2}, "13"});
    wire(5, "2", {{2}, "14"}, {{3}, "A1"});
    wire(6, "N", {{3}, "A2"}, {{1}, "N"});

    const auto plant = compile(circuit); // immutable: everything by slot
    if (!plant)
        return 1;
    const Scenario scenario{{7}, "press once", 1.0, {{0.1, "operate", "S1", 0.3}}, {}};
    Workspace workspace; // remembers solved topologies; changes speed, never a result
    const auto run = runScenario(*plant, scenario, {}, 0.0, workspace);
    if (!run)
        return 1;
    for (const Event& e : run->trace.events)
        if (const std::string text = wording::eventText(*plant, e); !text.empty())
            std::printf("%.5f s  %s\n", secondsOf(e.at).si(), text.c_str());
    return 0;
}
