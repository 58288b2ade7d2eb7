// Phase monitor, brake and lamps: what is added to a starter that already runs.

#include "core/library/table.h"
#include "core/patterns/sheet.h"

#include <algorithm>
#include <cmath>

namespace ts::patterns {
namespace {

using Words = std::vector<std::string>;

/// The lines that a monitor looks at, before the contactor or at the motor.
std::array<std::string, 3> watched(const StarterSheet& s)
{
    if (s.plan.is("tap", "supply_side"))
        return {"F1:2", "F1:4", "F1:6"};
    if (!s.overload.empty())
        return {s.overload + ":2", s.overload + ":4", s.overload + ":6"};
    return {"M1:U1", "M1:V1", "M1:W1"};
}

void useContacts(StarterSheet& s, const std::string& tag)
{
    s.monitorContacts[0].push_back({tag + ":15", tag + ":18"});
    s.monitorContacts[1].push_back({tag + ":25", tag + ":28"});
}

/// Two change-over contacts, and one to indicate with where a lamp is shared.
Words contactsOf(const StarterSheet& s)
{
    Words contacts{"15-16-18", "25-26-28"};
    if (s.plan.is("lamp_set", "shared_trip"))
        contacts.push_back("35-36");
    return contacts;
}

void addVoltageMonitor(StarterSheet& s, bool fourWire)
{
    s.panel.device("B1", "phase_monitor", s.before() + "phase monitor", "plate",
        {{"line_voltage_v", s.shared.mainsV}, {"taps", std::string(fourWire ? "four_wire" : "three_wire")},
            {"contacts", contactsOf(s)}});
    const auto lines = watched(s);
    for (std::size_t k = 0; k < 3; ++k)
        s.panel.wire(lines[k], "B1:L" + std::to_string(k + 1));
    if (fourWire)
        s.panel.wire("G0:N", "B1:N");
    useContacts(s, "B1");
}

/// The line goes on behind what measures it.
void leadThrough(StarterSheet& s, std::size_t line, const Pair& pair)
{
    s.lines[line] = s.panel.through(s.lines[line], pair, WireRun::Power);
}

void addCurrentMonitor(StarterSheet& s, const std::string& kind)
{
    const int transformers = kind == "current_in_line" ? 0 : kind == "two_transformers" ? 2 : 3;
    const double ratio = std::max(1.0, std::ceil(s.motor.currentA / 5.0));
    s.panel.device("B1", "current_monitor", s.before() + "phase monitor", "plate",
        {{"setting_a", s.motor.currentA}, {"auxiliary_supply_v", s.shared.controlV},
            {"measures", std::string(transformers == 0 ? "in_line" : kind)}, {"transformer_ratio", ratio},
            {"latches", true}, // a motor that is off shows it nothing: a start that is held would pump
            {"contacts", contactsOf(s)}});
    s.shared.live.join(s.panel, "B1:A1");
    s.shared.ret.join(s.panel, "B1:A2");
    for (int k = 0; k < 3; ++k) {
        const std::string n = std::to_string(k + 1);
        if (transformers == 0) {
            leadThrough(
                s, static_cast<std::size_t>(k), {"B1:" + std::to_string(2 * k + 1), "B1:" + std::to_string(2 * k + 2)});
        } else if (k < transformers) {
            const std::string t = s.panel.device(
                "T1" + n, "current_transformer", s.before() + "line " + n, "plate", {{"ratio", ratio}});
            leadThrough(s, static_cast<std::size_t>(k), {t + ":1", t + ":2"});
            s.panel.wire(t + ":k", "B1:k" + n);
            s.panel.wire(t + ":l", "B1:l" + n);
        }
    }
    useContacts(s, "B1");
}

void addThreeRelays(StarterSheet& s)
{
    const auto lines = watched(s);
    for (std::size_t k = 0; k < 3; ++k) {
        const std::string tag = s.panel.device("K1" + std::to_string(k + 1), "plug_in_relay",
            s.before() + "phase relay " + std::to_string(k + 1), "plate",
            {{"coil_voltage_v", s.shared.mainsV}, {"coil_current", std::string("ac")}});
        s.panel.wire(lines[k], tag + ":A1");
        s.panel.wire(lines[(k + 1) % 3], tag + ":A2");
        s.monitorContacts[0].push_back({tag + ":11", tag + ":14"});
        s.monitorContacts[1].push_back({tag + ":21", tag + ":24"});
    }
}

/// First colour of the school that a lamp can have.
std::string lampColour(const std::string& school, const char* meaning)
{
    const Table& t = coloursTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (t.cell(row, "item") == "lamp" && t.cell(row, "meaning") == meaning) {
            std::string_view cell = t.cell(row, school);
            const std::string_view first = cell.substr(0, cell.find(' '));
            return first == "amber" ? "yellow" : std::string(first);
        }
    return "white";
}

std::string addLamp(StarterSheet& s, const char* tag, const std::string& label, const char* meaning)
{
    return s.panel.device(tag, "lamp", s.before() + label, "door",
        {{"rated_voltage_v", s.shared.controlV}, {"colour", lampColour(s.plan.text("lamps"), meaning)}});
}

void feedLamp(StarterSheet& s, const std::string& from, const std::string& tag)
{
    s.panel.wire(from, tag + ":X1", WireRun::Door);
    s.shared.ret.join(s.panel, tag + ":X2", WireRun::Door);
}

/// A lamp for the overload; where one lamp is shared, a trip of the monitor lights it, too.
void indicateTrips(StarterSheet& s)
{
    std::vector<Pair> contacts;
    if (!s.overload.empty())
        contacts.push_back({s.overload + ":97", s.overload + ":98"});
    if (s.plan.is("lamp_set", "shared_trip") && s.hasMonitorDevice())
        contacts.push_back({"B1:35", "B1:36"});
    if (contacts.empty())
        return;
    const std::string lamp = addLamp(s, "P3", "tripped", "tripped");
    std::string lit;
    for (const Pair& contact : contacts) {
        const std::string at = s.shared.live.through(s.panel, contact);
        if (lit.empty())
            feedLamp(s, at, lamp);
        else
            s.panel.wire(at, lit);
        lit = at;
    }
}

} // namespace

void wireCurrentMonitor(StarterSheet& s)
{
    const std::string& kind = s.plan.text("monitor");
    if (kind == "current_in_line" || kind == "two_transformers" || kind == "three_transformers")
        addCurrentMonitor(s, kind);
}

void wireMonitor(StarterSheet& s)
{
    const std::string& kind = s.plan.text("monitor");
    if (kind == "voltage" || kind == "voltage_four_wire")
        addVoltageMonitor(s, kind == "voltage_four_wire");
    else if (kind == "three_relays")
        addThreeRelays(s);
}

void wireBrake(StarterSheet& s)
{
    if (!s.plan.is("brake", "yes"))
        return;
    const double ratedNm = s.motor.powerW
        / (std::get<double>(s.motor.part.parameters.at("speed_per_min")) * M_PI / 30.0);
    s.panel.device("Y1", "brake", s.before() + "holding brake", "field",
        {{"coil_voltage_v", s.shared.controlV},
            {"coil_current", std::string(s.shared.isDirect ? "dc" : "ac_rectified")},
            {"torque_nm", std::ceil(1.5 * ratedNm)}});
    std::string joined;
    for (const std::string& runner : s.runners) {
        const std::string at = s.shared.live.through(
            s.panel, s.isDrive() ? Pair{"T2:13", "T2:14"} : s.panel.closing(runner));
        if (joined.empty())
            s.panel.wire(at, "Y1:A1", WireRun::Field);
        else
            s.panel.wire(at, joined);
        joined = at;
        if (s.isDrive())
            break; // released while the drive gives torque
    }
    s.shared.ret.join(s.panel, "Y1:A2", WireRun::Field);
    s.panel.brakeOn("Y1", "M1");
}

void wireIndication(StarterSheet& s)
{
    if (s.plan.is("lamps", "none"))
        return;
    for (std::size_t k = 0; k < s.runners.size(); ++k) {
        const std::string tag = addLamp(
            s, k == 0 ? "P1" : "P4", s.reverses ? (k == 0 ? "right" : "left") : "running", "running");
        feedLamp(s, s.shared.live.through(s.panel, s.panel.closing(s.runners[k])), tag);
    }
    std::string at;
    for (const std::string& runner : s.runners) {
        const Pair contact = s.panel.opening(runner);
        at = at.empty() ? s.shared.live.through(s.panel, contact) : s.panel.through(at, contact);
    }
    feedLamp(s, at, addLamp(s, "P2", "stopped", "stopped"));
    if (s.plan.is("lamp_set", "five") && s.number == 1)
        feedLamp(s, s.shared.live.end(), addLamp(s, "P5", "control voltage", "supply_on"));
    indicateTrips(s);
}

} // namespace ts::patterns
