// The same machine with the terminals printed as in North America: H1 H2 and X1 X2 on a control transformer, T1 to T6
// on a motor, L1 T1 on the poles of contactors and overload relays. Source: NEMA ICS 19 and MG 1 part 2.

#include "core/patterns/sheet.h"

#include <map>

namespace ts::patterns {
namespace {

using Marks = std::vector<std::pair<std::string, std::string>>;

const std::map<std::string, Marks, std::less<>> kMarksOf{
    {"control_transformer", {{"1", "H1"}, {"2", "H2"}, {"3", "X1"}, {"4", "X2"}}},
    {"motor", {{"U1", "T1"}, {"V1", "T2"}, {"W1", "T3"}, {"U2", "T4"}, {"V2", "T5"}, {"W2", "T6"}}},
    {"motor_single_phase", {{"U1", "T1"}, {"U2", "T2"}}},
    {"contactor", {{"1", "L1"}, {"2", "T1"}, {"3", "L2"}, {"4", "T2"}, {"5", "L3"}, {"6", "T3"}}},
    {"overload_relay", {{"1", "L1"}, {"2", "T1"}, {"3", "L2"}, {"4", "T2"}, {"5", "L3"}, {"6", "T3"}}},
};

bool hasTerminal(const Circuit& circuit, DeviceId device, const std::string& marking)
{
    for (const Wire& w : circuit.wires)
        for (const TerminalRef& end : {w.from, w.to})
            if (end.device == device && end.marking == marking)
                return true;
    return false;
}

const std::string* printedAs(const Circuit& circuit, DeviceId id, std::string_view marking)
{
    for (const Device& d : circuit.devices)
        if (d.id == id)
            if (const auto marks = kMarksOf.find(d.kind); marks != kMarksOf.end())
                for (const auto& [own, printed] : marks->second)
                    if (own == marking)
                        return &printed;
    return nullptr;
}

/// "Q1/3-4:does_not_close": a pole is called by its terminals.
void renamePole(const Circuit& circuit, std::string& target)
{
    const std::size_t slash = target.find('/'), dash = target.find('-', slash), colon = target.find(':', slash);
    if (slash == target.npos || dash == target.npos || colon == target.npos || dash > colon)
        return;
    const Device* device = circuit.device(std::string_view(target).substr(0, slash));
    if (!device)
        return;
    const std::string* first = printedAs(circuit, device->id, target.substr(slash + 1, dash - slash - 1));
    const std::string* second = printedAs(circuit, device->id, target.substr(dash + 1, colon - dash - 1));
    if (first && second)
        target = target.substr(0, slash + 1) + *first + "-" + *second + target.substr(colon);
}

} // namespace

void printNorthAmerican(DossierFile& file)
{
    Circuit& circuit = file.dossier.circuit;
    for (Scenario& scenario : file.dossier.scenarios)
        for (Step& step : scenario.steps)
            renamePole(circuit, step.target);
    for (Device& d : circuit.devices) {
        const auto marks = kMarksOf.find(d.kind);
        if (marks == kMarksOf.end())
            continue;
        std::vector<std::string> printed;
        for (const auto& [own, as] : marks->second)
            if (hasTerminal(circuit, d.id, own))
                printed.push_back(own + "=" + as);
        d.parameters["marks"] = std::move(printed);
    }
    for (Wire& w : circuit.wires)
        for (TerminalRef* end : {&w.from, &w.to})
            if (const std::string* printed = printedAs(circuit, end->device, end->marking))
                end->marking = *printed;
}

} // namespace ts::patterns
