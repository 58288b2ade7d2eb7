// A circuit as lines that taking.cpp reads.

#include "core/notes/taking.h"

#include "core/library/fields.h"
#include "core/library/registry.h"

#include <algorithm>

namespace ts::notes {
namespace {

std::string quoted(std::string text)
{
    std::replace(text.begin(), text.end(), '"', '\'');
    return "\"" + text + "\"";
}

std::string deviceLine(const Circuit& circuit, const Device& device)
{
    std::string line = device.tag + " = " + device.kind;
    for (const auto& [name, value] : writtenValues(circuit, device)) {
        std::string cell = textOfParameters({{name, value}});
        std::replace(cell.begin(), cell.end(), ' ', ',');
        line += " " + cell;
    }
    if (!device.place.empty())
        line += " @" + device.place;
    if (!device.label.empty())
        line += " " + quoted(device.label);
    return device.remark.empty() ? line : line + " # " + device.remark;
}

std::string placeText(const Circuit& circuit, const TerminalRef& terminal)
{
    const Device* device = circuit.device(terminal.device);
    return (device ? device->tag : "?") + " " + terminal.marking;
}

std::string wireLine(const Circuit& circuit, const Wire& wire)
{
    const auto number = [](double value) {
        const std::string cell = textOfParameters({{"x", value}});
        return cell.substr(2);
    };
    std::string line = placeText(circuit, wire.from) + " > " + placeText(circuit, wire.to);
    if (!wire.number.empty())
        line += " =" + wire.number;
    line += " " + number(wire.areaMm2) + "mm2 " + number(wire.lengthM) + "m";
    if (!wire.colour.empty())
        line += " " + quoted(wire.colour);
    const Wire fresh;
    for (const Field<Wire>& f : kWireFields)
        if (!f.words.empty() && fields::textOf(f, wire) != fields::textOf(f, fresh))
            line += " " + std::string(f.name) + "=" + fields::textOf(f, wire);
    return wire.remark.empty() ? line : line + " # " + wire.remark;
}

} // namespace

std::string notesOf(const Circuit& circuit)
{
    std::string text;
    for (const Device& d : circuit.devices)
        text += deviceLine(circuit, d) + "\n";
    for (const MechanicalInterlock& i : circuit.interlocks)
        text += circuit.device(i.first)->tag + " locks " + circuit.device(i.second)->tag + "\n";
    for (const Shaft& s : circuit.shafts)
        text += circuit.device(s.brake)->tag + " brakes " + circuit.device(s.motor)->tag + "\n";
    std::vector<const Route*> routes{nullptr};
    for (const Route& r : circuit.routes)
        routes.push_back(&r);
    for (const Route* route : routes) {
        std::string wires;
        for (const Wire& w : circuit.wires)
            if (circuit.route(w.route) == route)
                wires += wireLine(circuit, w) + "\n";
        if (route && !wires.empty())
            text += "in " + route->name + ": " + std::string(routeWord(route->kind)) + "\n";
        text += wires;
    }
    return text;
}

} // namespace ts::notes
