// Starts, holds, inching, selectors and interlocks: what lies between the stop line and the coils.

#include "core/patterns/sheet.h"

namespace ts::patterns {
namespace {

using Words = std::vector<std::string>;

/// One direction: its runner, its button, and the same of the other direction.
struct Direction {
    std::string runner, button, inch, other, otherButton;
    bool second = false;
};

std::string text(const char* t)
{
    return t;
}

void addButton(StarterSheet& s, const std::string& tag, const std::string& label, Words contacts)
{
    s.panel.device(tag, "push_button", s.before() + label, "door",
        {{"contacts", std::move(contacts)}, {"colour", text("white")}, {"purpose", text("start")}});
}

bool has(const StarterSheet& s, const char* interlock)
{
    return s.reverses && s.plan.has("interlock", interlock);
}

/// The monitor's contact in a hold: each direction has its own.
std::string throughMonitor(StarterSheet& s, const Direction& d, std::string at)
{
    if (s.plan.is("monitor_contact", "hold"))
        for (const Pair& contact : s.monitorContacts[d.second])
            at = s.panel.through(at, contact);
    return at;
}

/// The hold: from where, past what, to where it joins.
void wireHold(StarterSheet& s, const Direction& d, const std::string& from, const std::string& joins)
{
    std::string at = s.plan.is("hold", "ahead_of_stop") ? s.shared.aheadOfStop : from;
    at = throughMonitor(s, d, at);
    if (s.plan.is("operation", "run_inch_selector")) {
        const std::string n = d.second ? "S7:2" : "S7:1";
        at = s.panel.through(at, {n + "3", n + "4"}, WireRun::Door);
    }
    if (s.plan.is("operation", "run_inch_button"))
        at = s.panel.through(at, {d.inch + ":21", d.inch + ":22"}, WireRun::Door);
    at = s.panel.through(at, s.panel.closing(d.runner));
    s.panel.wire(at, joins);
}

/// A control relay holds; it and the inch button both reach the runner.
std::string wireByRelay(StarterSheet& s, const Direction& d, const std::string& from)
{
    const std::string relay = d.second ? "K4" : "K3";
    s.panel.device(
        relay, "contactor_relay", s.before() + (d.second ? "run left" : "run right"), "plate", s.shared.coil());
    const std::string start = s.panel.through(from, {d.inch + ":21", d.inch + ":22"}, WireRun::Door); // inching lets
                                                                                                      // the relay go
    s.panel.wire(s.panel.through(start, {d.button + ":13", d.button + ":14"}, WireRun::Door), relay + ":A1");
    s.panel.wire(s.panel.through(throughMonitor(s, d, start), s.panel.closing(relay)), relay + ":A1");
    s.coilReturn().join(s.panel, relay + ":A2");
    std::string end = s.panel.through(from, s.panel.closing(relay));
    s.panel.wire(s.panel.through(from, {d.inch + ":13", d.inch + ":14"}, WireRun::Door), end);
    return end;
}

std::string wireHandOffAuto(StarterSheet& s, const Direction& d)
{
    const std::string call = d.second ? "B6" : "B5", hand = d.second ? "S7:3" : "S7:1",
                      automatic = d.second ? "S7:4" : "S7:2";
    s.panel.device(call, "external_call", s.before() + (d.second ? "call left" : "call right"), "field");
    std::string byHand = s.panel.through(s.stopLine.end(), {hand + "3", hand + "4"}, WireRun::Door);
    if (d.second) // two directions by hand at once make no sense: the second one by its button
        byHand = s.panel.through(byHand, {d.button + ":13", d.button + ":14"}, WireRun::Door);
    const std::string byCall = s.panel.through(
        s.panel.through(s.stopLine.end(), {automatic + "3", automatic + "4"}, WireRun::Door),
        {call + ":13", call + ":14"}, WireRun::Field);
    s.panel.wire(byHand, byCall);
    return byHand;
}

/// A call at control voltage works a plug-in relay, and its contact the motor's coil: a thermostat to a fan.
std::string wireCalledRelay(StarterSheet& s, const Direction& d)
{
    const std::string call = d.second ? "B6" : "B5", relay = d.second ? "K4" : "K3";
    s.panel.device(call, "external_call", s.before() + (d.second ? "call left" : "call right"), "field");
    s.panel.device(relay, "plug_in_relay", s.before() + "called", "plate", s.shared.coil());
    const std::string at = s.shared.live.through(s.panel, {call + ":13", call + ":14"}, WireRun::Field);
    s.panel.wire(at, relay + ":A1");
    s.shared.ret.join(s.panel, relay + ":A2");
    return s.panel.through(s.stopLine.end(), {relay + ":11", relay + ":14"});
}

/// Two buttons, one a channel; what evaluates them wants both within half a second and both let go in between.
/// Source: EN ISO 13851 type III (simultaneity 0.5 s).
std::string wireTwoHand(StarterSheet& s)
{
    s.panel.device("K8", "safety_relay", s.before() + "two-hand control", "plate",
        {{"reset", text("automatic")}, {"discrepancy_time_s", 0.5}, {"outputs", Words{"13-14"}}});
    s.shared.plus.join(s.panel, "K8:A1");
    s.shared.minus.join(s.panel, "K8:A2");
    for (const auto& [button, channel] : {std::pair{"S2", "K8:S1"}, {"S3", "K8:S2"}})
        s.panel.wire(s.panel.through(std::string(channel) + "1",
                         {std::string(button) + ":13", std::string(button) + ":14"}, WireRun::Door),
            std::string(channel) + "2", WireRun::Door);
    std::string at = "K8:S33";
    for (const std::string& runner : s.runners)
        at = s.panel.through(at, s.panel.opening(runner));
    s.panel.wire(at, "K8:S34");
    return s.panel.through(s.stopLine.end(), {"K8:13", "K8:14"});
}

void wireSeparateInchControl(StarterSheet& s, const Direction& d)
{
    const std::string at = s.panel.through(s.stopLine.end(), {d.inch + ":13", d.inch + ":14"}, WireRun::Door);
    s.panel.wire(s.panel.through(at, s.panel.opening(d.runner)), "Q5:A1");
    s.coilReturn().join(s.panel, "Q5:A2");
}

void wireSolidStateControl(StarterSheet& s)
{
    s.panel.wire(s.shared.live.through(s.panel, s.panel.closing("K7")), "T4:A1");
    s.shared.ret.join(s.panel, "T4:A2");
}

void addSelector(StarterSheet& s)
{
    const auto add = [&s](const char* label, Words positions, Words contacts) {
        s.panel.device("S7", s.plan.is("selector", "key") ? "key_switch" : "selector", s.before() + label, "door",
            {{"positions", std::move(positions)}, {"contacts", std::move(contacts)}});
    };
    if (s.plan.is("operation", "switched"))
        add("off / on", {"off", "on"}, {"13-14/on"});
    else if (s.plan.is("operation", "run_inch_selector"))
        add("inch / run", {"inch", "run"}, s.reverses ? Words{"13-14/run", "23-24/run"} : Words{"13-14/run"});
    else if (s.plan.is("operation", "hand_off_auto"))
        add("hand / off / auto", {"hand", "off", "auto"},
            s.reverses ? Words{"13-14/hand", "23-24/auto", "33-34/hand", "43-44/auto"}
                       : Words{"13-14/hand", "23-24/auto"});
}

void addButtons(StarterSheet& s, const Direction& d)
{
    const std::string& operation = s.plan.text("operation");
    if (operation == "called_relay" || operation == "switched")
        return;
    if (operation == "two_hand") {
        addButton(s, "S2", "left hand", {"13-14"});
        addButton(s, "S3", "right hand", {"13-14"});
        return;
    }
    if (operation == "enabling")
        s.panel.device("S8", "enabling_switch", s.before() + "enabling switch", "field");
    const bool handAuto = operation == "hand_off_auto";
    if (!handAuto || d.second)
        addButton(s, d.button,
            d.second                                                ? "start left"
                : s.reverses                                        ? "start right"
                : operation == "inching" || operation == "enabling" ? "inch"
                                                                    : "start",
            has(s, "push_button") ? Words{"13-14", "21-22"} : Words{"13-14"});
    if (operation == "run_inch_button" || operation == "run_inch_relay" || operation == "separate_inch")
        addButton(s, d.inch, d.second ? "inch left" : s.reverses ? "inch right" : "inch", {"13-14", "21-22"});
}

void wireDirection(StarterSheet& s, const Direction& d)
{
    const std::string& operation = s.plan.text("operation");
    std::string from = s.stopLine.end();
    if (has(s, "push_button"))
        from = s.panel.through(from, {d.otherButton + ":21", d.otherButton + ":22"}, WireRun::Door);
    std::string end;
    if (operation == "hand_off_auto") {
        end = wireHandOffAuto(s, d);
    } else if (operation == "run_inch_relay") {
        end = wireByRelay(s, d, from);
    } else if (operation == "called_relay") {
        end = wireCalledRelay(s, d);
    } else if (operation == "two_hand") {
        end = wireTwoHand(s);
    } else if (operation == "switched") {
        end = s.panel.through(from, {"S7:13", "S7:14"}, WireRun::Door);
    } else {
        if (operation == "enabling")
            from = s.panel.through(from, {"S8:13", "S8:14"}, WireRun::Field);
        end = s.panel.through(from, {d.button + ":13", d.button + ":14"}, WireRun::Door);
        if (operation == "run_inch_button")
            s.panel.wire(s.panel.through(from, {d.inch + ":13", d.inch + ":14"}, WireRun::Door), end);
    }
    const bool holds = hasHold(s.plan) && operation != "run_inch_relay";
    const bool behind = s.plan.is("hold", "behind_interlock");
    if (holds && !behind)
        wireHold(s, d, from, end);
    if (has(s, "auxiliary"))
        end = s.panel.through(end, s.panel.opening(d.other));
    if (operation == "separate_inch") {
        wireSeparateInchControl(s, d);
        end = s.panel.through(end, s.panel.opening("Q5"));
    }
    s.panel.wire(end, d.runner + ":A1");
    if (holds && behind)
        wireHold(s, d, from, d.runner + ":A1");
    s.coilReturn().join(s.panel, d.runner + ":A2");
}

/// Timer, star and delta hang on the main contactor's coil.
void wireStarDeltaControl(StarterSheet& s)
{
    s.panel.device("K1", "timer", s.before() + "star to delta", "plate",
        {{"function", text("star_delta")}, {"supply_voltage_v", s.shared.controlV}, {"delay_s", 6.0}});
    s.panel.wire("Q1:A1", "K1:A1");
    s.coilReturn().join(s.panel, "K1:A2");
    const bool auxiliary = s.plan.has("interlock", "auxiliary");
    for (const auto& [contact, coil, other] :
        {std::tuple{Pair{"K1:17", "K1:18"}, "Q2", "Q3"}, {Pair{"K1:27", "K1:28"}, "Q3", "Q2"}}) {
        std::string at = s.panel.through(contact.a == "K1:17" ? "K1:A1" : "K1:17", contact);
        if (auxiliary)
            at = s.panel.through(at, s.panel.opening(other));
        s.panel.wire(at, std::string(coil) + ":A1");
        s.coilReturn().join(s.panel, std::string(coil) + ":A2");
    }
}

void wireSoftStarterControl(StarterSheet& s)
{
    s.shared.live.join(s.panel, "Q2:A1");
    s.shared.ret.join(s.panel, "Q2:A2");
    s.panel.wire("Q1:A1", "Q2:B1");
}

void wireDriveInputs(StarterSheet& s)
{
    for (const auto& [relay, input] : {std::pair{"K5", "T2:DI1"}, {"K6", "T2:DI2"}})
        s.panel.wire(s.shared.plus.through(s.panel, s.panel.closing(relay)), input);
}

} // namespace

void wireOperation(StarterSheet& s)
{
    addSelector(s);
    std::vector<Direction> directions{{s.runners[0], "S2", "S5", s.reverses ? s.runners[1] : "", "S3", false}};
    if (s.reverses)
        directions.push_back({s.runners[1], "S3", "S6", s.runners[0], "S2", true});
    for (const Direction& d : directions)
        addButtons(s, d);
    for (const Direction& d : directions)
        wireDirection(s, d);
    if (s.plan.is("base", "star_delta"))
        wireStarDeltaControl(s);
    if (s.plan.is("base", "soft_starter"))
        wireSoftStarterControl(s);
    if (s.plan.is("base", "solid_state"))
        wireSolidStateControl(s);
    if (s.isDrive())
        wireDriveInputs(s);
}

} // namespace ts::patterns
