// The stop line: emergency stop by its school, overload, phase monitor, stop button. Behind it hang starts and holds.

#include "core/patterns/sheet.h"

namespace ts::patterns {
namespace {

using Words = std::vector<std::string>;

bool delayed(const MachineSheet& s)
{
    return s.plan.is("stop", "delayed_relay");
}

/// Contacts each emergency stop must have for the way it is wired.
int channelsNeeded(const MachineSheet& s)
{
    const std::string& stop = s.plan.text("stop");
    const int inTheSignal = stop == "two_channel_relay" || stop == "delayed_relay" || stop == "controller" ? 2 : 1;
    return s.hasDrive() && !s.usesRelay() ? 3 : inTheSignal; // torque off by two contacts, the run command by a third
}

constexpr int kFirstLockContact = 4; ///< 41-42: open while the bolt is drawn

Words contactList(int count, int first = 1)
{
    Words list;
    for (int k = first; k < first + count; ++k)
        list.push_back(std::to_string(k) + "1-" + std::to_string(k) + "2");
    return list;
}

void addStops(MachineSheet& s)
{
    const int count = s.plan.text("stops")[0] - '0';
    static constexpr std::array kTags{"S0", "S10", "S20"};
    for (int k = 0; k < count; ++k)
        s.stops.push_back(s.panel.device(kTags[static_cast<std::size_t>(k)], "emergency_stop",
            k == 0 ? "emergency stop" : "emergency stop " + std::to_string(k + 1), k == 0 ? "door" : "field",
            {{"contacts", contactList(channelsNeeded(s))}}));
    if (!s.hasGuard())
        return;
    const int channels = channelsNeeded(s);
    ParameterMap p{{"contacts", contactList(channels)}};
    if (s.locksGuard()) {
        p["locking"] = std::string("power_to_release");
        p["lock_contacts"] = contactList(channels, kFirstLockContact);
    }
    s.stops.push_back(s.panel.device("B2", "guard_switch", "guard door", "field", std::move(p)));
}

WireRun runTo(std::size_t stop)
{
    return stop == 0 ? WireRun::Door : WireRun::Field;
}

Pair stopContact(const MachineSheet& s, std::size_t stop, int channel)
{
    const std::string n = s.stops[stop] + ":" + std::to_string(channel);
    return {n + "1", n + "2"};
}

/// One stop's contact in one channel; of a locked guard the bolt's behind it.
std::string throughStop(MachineSheet& s, std::string_view from, std::size_t stop, int channel)
{
    std::string at = s.panel.through(from, stopContact(s, stop, channel), runTo(stop));
    if (s.locksGuard() && s.stops[stop] == "B2")
        at = s.panel.through(at, stopContact(s, stop, channel + kFirstLockContact - 1), runTo(stop));
    return at;
}

/// All stops in series in one channel.
std::string throughStops(MachineSheet& s, std::string from, int channel)
{
    for (std::size_t k = 0; k < s.stops.size(); ++k)
        from = throughStop(s, from, k, channel);
    return from;
}

/// Reset button and, if wanted, an opening contact of every contactor, between two terminals of a relay.
void wireReset(MachineSheet& s, const std::string& out, const std::string& in)
{
    std::string at = out;
    if (!s.plan.is("reset", "automatic")) {
        s.panel.device("S4", "push_button", "reset", "door",
            {{"contacts", Words{"13-14"}}, {"colour", std::string("blue")}, {"purpose", std::string("reset")}});
        at = s.panel.through(at, {"S4:13", "S4:14"}, WireRun::Door);
        s.needsReset = true;
    }
    if (s.plan.is("feedback", "yes"))
        for (const StarterSheet& starter : s.starters)
            for (const std::string& contactor : starter.contactors)
                at = s.panel.through(at, s.panel.opening(contactor));
    s.panel.wire(at, in);
}

/// A safety relay or controller with its inputs, reset and outputs: head contact, then what the second channel
/// switches.
void wireRelay(MachineSheet& s, const std::string& stopKind)
{
    const bool one = stopKind == "one_channel_relay", controller = stopKind == "controller";
    ParameterMap p{{"reset", s.plan.text("reset")}};
    if (controller) {
        p["input_modules"] = static_cast<double>(s.stops.size());
        p["output_modules"] = 2.0;
    } else {
        p["channels"] = one ? Words{"S11-S12"} : Words{"S11-S12", "S21-S22"};
        p["channel_polarity"] = one ? Words{"positive"} : Words{"positive", "negative"};
        p["outputs"] = Words{"13-14", "23-24", "33-34"};
        if (delayed(s)) {
            p["delayed_outputs"] = Words{"47-48", "57-58"};
            p["delay_s"] = s.hasDrive() ? 4.0 : 0.5;
        }
    }
    const bool fromControl = s.feedsRelayFromControl();
    if (fromControl) {
        p["supply_voltage_v"] = s.controlV;
        p["supply_current"] = std::string("ac_dc");
    }
    const bool atChannel = !controller && s.plan.is("reset_from", "channel");
    if (atChannel)
        p["reset_circuit"] = std::string("S12-S34");
    Rail &plus = fromControl ? s.live : s.plus, &minus = fromControl ? s.ret : s.minus;
    s.panel.device("K0", controller ? "safety_controller" : "safety_relay", "emergency stop", "plate", std::move(p));
    minus.join(s.panel, "K0:A2");
    if (one) {
        s.panel.wire(throughStops(s, plus.end(), 1), "K0:A1");
        s.panel.wire("K0:S11", "K0:S12");
    } else {
        plus.join(s.panel, "K0:A1");
        if (controller)
            for (std::size_t k = 0; k < s.stops.size(); ++k)
                for (int channel : {1, 2}) {
                    const std::string module = "K0:" + std::to_string(k + 1) + ".S" + std::to_string(channel);
                    s.panel.wire(throughStop(s, module + "1", k, channel), module + "2", runTo(k));
                }
        else
            for (int channel : {1, 2}) {
                const std::string input = "K0:S" + std::to_string(channel);
                s.panel.wire(throughStops(s, input + "1", channel), input + "2");
            }
    }
    wireReset(s, atChannel ? "K0:S12" : "K0:S33", "K0:S34");
}

/// What the outputs beside the head contact do: line contactors, or the torque of drives.
void wireSecondChannel(MachineSheet& s)
{
    const bool later = delayed(s);
    std::array<Rail, 2> torque;
    Rail coils;
    for (StarterSheet& starter : s.starters) {
        s.begin(starter);
        if (starter.isDrive()) {
            for (std::size_t k = 0; k < 2; ++k) {
                if (torque[k].end().empty()) {
                    s.plus.join(s.panel, std::array{later ? "K0:47" : "K0:23", later ? "K0:57" : "K0:33"}[k]);
                    torque[k] = Rail(std::array{later ? "K0:48" : "K0:24", later ? "K0:58" : "K0:34"}[k]);
                }
                torque[k].join(s.panel, k == 0 ? "T2:STO1" : "T2:STO2");
            }
        } else if (starter.hasLineContactor()) {
            if (coils.end().empty()) {
                if (torque[0].end().empty())
                    s.live.join(s.panel, later ? "K0:47" : "K0:23");
                coils = Rail(later ? "K0:48" : "K0:24");
            }
            coils.join(s.panel, "Q9:A1");
            s.ret.join(s.panel, "Q9:A2");
        }
    }
    s.panel.beginShared();
}

/// The stop line's first piece. Returns where it has got to.
std::string wireHead(MachineSheet& s)
{
    const std::string& stop = s.plan.text("stop");
    if (stop == "straight")
        return throughStops(s, s.live.end(), s.hasDrive() ? 3 : 1);
    if (s.usesRelay()) {
        wireRelay(s, stop);
        s.live.join(s.panel, "K0:13");
        wireSecondChannel(s);
        return "K0:14";
    }
    const bool contactorRelay = stop == "contactor_relay";
    if (contactorRelay)
        s.panel.device("K0", "contactor_relay", "emergency stop", "plate", s.coil());
    else
        s.panel.device("K0", "plug_in_relay", "emergency stop", "plate", s.coil());
    s.panel.wire(throughStops(s, s.live.end(), s.hasDrive() ? 3 : 1), "K0:A1");
    s.ret.join(s.panel, "K0:A2");
    const Pair head = contactorRelay ? s.panel.closing("K0") : Pair{"K0:11", "K0:14"};
    return s.panel.through(s.live.end(), head);
}

/// Torque of drives, straight through the stops' contacts where no relay is between.
void wireTorqueOff(MachineSheet& s)
{
    std::array<Rail, 2> torque;
    for (StarterSheet& starter : s.starters) {
        s.begin(starter);
        if (!starter.isDrive())
            continue;
        s.minus.join(s.panel, "T2:0V");
        for (int channel = 1; channel <= 2 && !s.usesRelay(); ++channel) {
            Rail& rail = torque[static_cast<std::size_t>(channel) - 1];
            if (rail.end().empty())
                rail = Rail(throughStops(s, s.plus.end(), channel));
            rail.join(s.panel, "T2:STO" + std::to_string(channel));
        }
    }
    s.panel.beginShared();
}

} // namespace

void wireStopCircuit(MachineSheet& s)
{
    s.panel.beginShared();
    addStops(s);
    s.aheadOfStop = s.live.end();
    wireTorqueOff(s);
    s.stopHead = Rail(wireHead(s));
    s.returnHead = Rail(
        s.plan.is("stop", "ordinary_relay") ? s.panel.through(s.ret.end(), {"K0:24", "K0:21"}) : s.ret.end());
}

namespace {

/// Overload and phase monitor, where their contacts lie in the return of the coils.
void wireReturn(StarterSheet& s)
{
    std::vector<Pair> contacts;
    if (!s.overload.empty() && s.plan.is("overload", "return_side"))
        contacts.push_back({s.overload + ":96", s.overload + ":95"});
    if (!s.plan.is("monitor", "none") && s.plan.is("monitor_contact", "return_side"))
        contacts.insert(contacts.end(), s.monitorContacts[0].begin(), s.monitorContacts[0].end());
    for (const Pair& contact : contacts) {
        if (s.ownReturn)
            s.panel.wire(s.ownReturn->end(), contact.a);
        else
            s.shared.returnHead.join(s.panel, contact.a);
        s.ownReturn = Rail("=" + s.panel.own(contact.b));
    }
}

} // namespace

/// Overload, phase monitor and stop button of one motor, behind what stops all.
void wireStopLine(StarterSheet& s)
{
    std::vector<Pair> contacts;
    if (!s.overload.empty() && s.plan.is("overload", "live_side"))
        contacts.push_back({s.overload + ":95", s.overload + ":96"});
    if (s.plan.is("monitor_contact", "stop_line"))
        contacts.insert(contacts.end(), s.monitorContacts[0].begin(), s.monitorContacts[0].end());
    s.panel.device("S1", "push_button", s.before() + "stop", "door",
        {{"contacts", Words{"11-12"}}, {"purpose", std::string("stop")}});
    contacts.push_back({"S1:11", "S1:12"});
    std::string at;
    for (const Pair& contact : contacts) {
        const WireRun run = &contact == &contacts.back() ? WireRun::Door : WireRun::Cabinet;
        if (at.empty())
            s.shared.stopHead.join(s.panel, contact.a, run);
        else
            s.panel.wire(at, contact.a, run);
        at = contact.b;
    }
    s.stopLine = Rail("=" + s.panel.own(at));
    wireReturn(s);
}

} // namespace ts::patterns
