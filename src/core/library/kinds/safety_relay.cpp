// Safety relay from its sheet: terminals, polarity of the channels, reset, times. Encapsulated: no faults inside.
//
// Inside: the input circuits hang on an electronic fuse (a resistance), so that a short between channels of
// opposite polarity pulls their supply down and both inputs drop. Outputs are two linked relays in series. One for
// direct and alternating current makes 24 V of its own for them, apart from its supply.

#include "core/library/kinds/coil.h"
#include "core/library/kinds/kinds.h"

#include <array>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kRelayParameters{
    ParameterSpec{"supply_voltage_v", Type::Number, 5, 240, 24, {}, {}, "assumed"},
    ParameterSpec{"supply_current", Type::Word, 0, 0, {}, "dc", "dc ac_dc", "assumed"},
    ParameterSpec{"supply", Type::Word, 0, 0, {}, "A1-A2", {}, "assumed"},
    ParameterSpec{"channels", Type::WordList, 0, 0, {}, "S11-S12 S21-S22", {}, "assumed"},
    ParameterSpec{"channel_polarity", Type::WordList, 0, 0, {}, "positive negative", "positive negative", "assumed"},
    ParameterSpec{"reset_circuit", Type::Word, 0, 0, {}, "S33-S34", {}, "assumed"},
    ParameterSpec{"reset", Type::Word, 0, 0, {}, "monitored", "automatic manual monitored", "assumed"},
    ParameterSpec{"outputs", Type::WordList, 0, 0, {}, "13-14 23-24", {}, "assumed"},
    ParameterSpec{"delayed_outputs", Type::WordList, 0, 0, {}, "", {}, "assumed"},
    ParameterSpec{"delay_s", Type::Number, 0, 300, 0, {}, {}, "assumed"},
    ParameterSpec{"signal_contacts", Type::WordList, 0, 0, {}, "", {}, "assumed"},
    ParameterSpec{"discrepancy_time_s", Type::Number, 0, 60, {}, {}, {}, "assumed"},
    ParameterSpec{"release_time_s", Type::Number, 0.001, 2, {}, {}, {}, "assumed"},
    ParameterSpec{"pick_up_time_s", Type::Number, 0.001, 5, {}, {}, {}, "assumed"},
    ParameterSpec{"shortest_reset_s", Type::Number, 0, 5, {}, {}, {}, "assumed"},
    ParameterSpec{"longest_reset_s", Type::Number, 0.05, 60, {}, {}, {}, "assumed"},
    ParameterSpec{"input_loop_resistance_ohm", Type::Number, 0, 2000, {}, {}, {}, "assumed"},
    ParameterSpec{"supply_low_x", Type::Number, 0.5, 1, 0.85, {}, {}, "assumed"},
    ParameterSpec{"supply_power_w", Type::Number, 0.1, 100, {}, {}, {}, "assumed"},
    ParameterSpec{"lock_out_survives_supply_loss", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
    ParameterSpec{"output_rating_dc13_a", Type::Number, 0.1, 100, 4, {}, {}, "assumed"},
    ParameterSpec{"output_fuse_gg_a", Type::Number, 0.1, 100, 6, {}, {}, "assumed"},
    ParameterSpec{"output_rating_ac15_a", Type::Number, 0.1, 20, {}, {}, {}, "sheet"},
    ParameterSpec{"supply_high_x", Type::Number, 1, 1.5, 1.1, {}, {}, "assumed"},
    ParameterSpec{"loop_capacitance_nf", Type::Number, 1, 1e5, {}, {}, {}, "sheet"},
};

const char* const kRow = "safety relay";

/// A channel or reset circuit: the source terminal is fed, the other one is watched. A reset circuit may begin at a
/// channel's terminal (S12-S34): then it has supply only while that channel is closed.
Expected<int> addLoop(Body& b, const Parameters& p, const std::string& pair, bool positive, int fed, int common,
    bool mayBeginAtChannel = false)
{
    const auto markings = markingsOf(pair, p.tag());
    if (!markings)
        return Unexpected{markings.error()};
    const bool isThere = terminalOf(b, markings->first) >= 0;
    if ((isThere && !mayBeginAtChannel) || terminalOf(b, markings->second) >= 0)
        return failure(ErrorCode::Refused, message("kind.contact_twice", {p.tag(), pair}));
    if (!isThere)
        joinInside(b, addTerminal(b, markings->first), positive ? fed : common);
    const int in = addTerminal(b, markings->second);
    const double ohm = deviceDefault(kRow, "sense_resistance").nominal;
    return addTwoPole(b, "sense " + pair, positive ? in : fed, positive ? common : in, SenseElement{ohm});
}

/// Two linked contacts in series, one of each inner relay.
Expected<void> addOutput(Body& b, const Parameters& p, const std::string& pair, bool closing, int firstRelay)
{
    const auto markings = markingsOf(pair, p.tag());
    if (!markings)
        return Unexpected{markings.error()};
    if (terminalOf(b, markings->first) >= 0 || terminalOf(b, markings->second) >= 0)
        return failure(ErrorCode::Refused, message("kind.contact_twice", {p.tag(), pair}));
    const int first = addTerminal(b, markings->first);
    const int middle = addTerminal(b, "inside " + pair, true);
    const int second = addTerminal(b, markings->second);
    const ContactKind kind = closing ? ContactKind::NormallyOpen : ContactKind::NormallyClosed;
    const std::uint8_t closedAt = closing ? kActuated : kAtRest;
    addTwoPole(b, pair, first, middle, ContactElement{kind, firstRelay, closedAt});
    addTwoPole(b, pair, middle, second, ContactElement{kind, firstRelay + 1, closedAt});
    return {};
}

/// What the input circuits and the relays inside live on.
struct Feed {
    int plus = 0, minus = 0;
    double voltageV = 0;
};

Feed addFeed(Body& b, const Parameters& p, const std::pair<std::string, std::string>& markings, SafetyRelayLogic& logic)
{
    const double us = p.number("supply_voltage_v");
    const double powerW = timedParameter(p, "supply_power_w", deviceDefault(kRow, "supply_power"), Timing::Nominal);
    const int first = addTerminal(b, markings.first), second = addTerminal(b, markings.second);
    logic.supply = addTwoPole(b, "supply", first, second, SenseElement{us * us / powerW, SenseElement::Use::Supply});
    if (p.word("supply_current") == "dc")
        return {first, second, us};
    constexpr double kInnerV = 24.0; // assumed: what such relays feed their input circuits with
    const int plus = addTerminal(b, "inner plus", true), minus = addTerminal(b, "inner minus", true);
    ConverterElement inner;
    inner.isInner = true;
    inner.inputV = us;
    inner.lowestInputV = us * deviceDefault(kRow, "supply_on_from").nominal;
    inner.outputV = kInnerV;
    inner.limitA = powerW / kInnerV;
    inner.outputOhm = deviceDefault("supply 24 V DC", "output_resistance").nominal;
    inner.holdUpS = deviceDefault("supply 24 V DC", "hold_up_time").nominal;
    inner.standbyW = 0.01; // assumed: what it takes is the load between its supply terminals
    Element e;
    e.role = "inner supply";
    e.terminals = {first, second, plus, minus, -1, -1};
    e.what = inner;
    b.elements.push_back(e);
    const double sense = deviceDefault(kRow, "sense_resistance").nominal;
    logic.supply = addTwoPole(b, "inner supply", plus, minus, SenseElement{sense, SenseElement::Use::Input});
    return {plus, minus, kInnerV};
}

Expected<Body> relayBody(const Parameters& p, Timing timing)
{
    const auto& channels = p.words("channels");
    const auto& polarity = p.words("channel_polarity");
    if (channels.empty() || channels.size() > 2 || polarity.size() < channels.size())
        return failure(ErrorCode::Refused, message("kind.relay_channels", {p.tag()}));
    const auto supply = markingsOf(p.word("supply"), p.tag());
    if (!supply)
        return Unexpected{supply.error()};

    Body b;
    SafetyRelayLogic logic;
    const Feed feed = addFeed(b, p, *supply, logic);
    const double us = feed.voltageV;
    const int fed = addTerminal(b, "input supply", true), minus = feed.minus;
    const double limit = deviceDefault(kRow, "internal_limit_resistance").nominal;
    addTwoPole(b, "input fuse", feed.plus, fed, LoadElement{{limit, 0.0}, limit});
    for (std::size_t k = 0; k < channels.size(); ++k) {
        const auto sense = addLoop(b, p, channels[k], polarity[k] == "positive", fed, minus);
        if (!sense)
            return Unexpected{sense.error()};
        (k == 0 ? logic.channel1 : logic.channel2) = *sense;
    }
    const auto reset = addLoop(b, p, p.word("reset_circuit"), true, fed, minus, true);
    if (!reset)
        return Unexpected{reset.error()};
    logic.reset = *reset;

    const double pickUp = timedParameter(p, "pick_up_time_s", deviceDefault(kRow, "pick_up_time_after_reset"), timing);
    const double release = timedParameter(p, "release_time_s", deviceDefault(kRow, "release_time_on_demand"), timing);
    const double gap = timed(deviceDefault("contactor", "nc_opens_before_no_closes"), timing);
    const bool hasDelayed = !p.words("delayed_outputs").empty();
    for (const char* role : {"K1", "K2", "K3", "K4"})
        if (hasDelayed || b.movers.size() < 2)
            b.movers.push_back({role, MoverSpec::Driver::Logic, 0, pickUp, release, gap, false});
    struct Outputs {
        const char* parameter;
        bool closing;
        int firstRelay;
    };
    for (const Outputs& o : {Outputs{"outputs", true, 0}, {"signal_contacts", false, 0}, {"delayed_outputs", true, 2}})
        for (const std::string& pair : p.words(o.parameter))
            if (auto ok = addOutput(b, p, pair, o.closing, o.firstRelay); !ok)
                return Unexpected{ok.error()};
    if (hasDelayed) {
        logic.firstDelayed = 2;
        logic.secondDelayed = 3;
        logic.delayS = p.number("delay_s");
    }

    logic.supplyOnV = us * deviceDefault(kRow, "supply_on_from").nominal;
    logic.supplyOffV = us * deviceDefault(kRow, "supply_off_below").nominal;
    logic.senseV = us * deviceDefault(kRow, "sense_threshold").nominal;
    const std::string& resetKind = p.word("reset");
    logic.resetKind = resetKind == "automatic" ? SafetyRelayLogic::Reset::Automatic
        : resetKind == "manual"                ? SafetyRelayLogic::Reset::Manual
                                               : SafetyRelayLogic::Reset::Monitored;
    const DefaultRow press = deviceDefault(kRow, "reset_press");
    logic.resetShortestS = p.isWritten("shortest_reset_s") ? p.number("shortest_reset_s") : press.low;
    logic.resetLongestS = p.isWritten("longest_reset_s") ? p.number("longest_reset_s") : press.high;
    logic.discrepancyS = p.isWritten("discrepancy_time_s") ? p.number("discrepancy_time_s")
                                                           : deviceDefault(kRow, "discrepancy_time").nominal;
    logic.lockOutSurvivesSupplyLoss = p.flag("lock_out_survives_supply_loss");
    b.safetyRelays.push_back(logic);
    return b;
}

constexpr std::array kExtensionParameters{
    ParameterSpec{"supply_voltage_v", Type::Number, 5, 60, 24, {}, {}, "assumed"},
    ParameterSpec{"outputs", Type::WordList, 0, 0, {}, "13-14 23-24 33-34 43-44", {}, "assumed"},
    ParameterSpec{"signal_contacts", Type::WordList, 0, 0, {}, "51-52", {}, "assumed"},
    ParameterSpec{"release_time_s", Type::Number, 0.001, 2, {}, {}, {}, "assumed"},
    ParameterSpec{"pick_up_time_s", Type::Number, 0.001, 5, {}, {}, {}, "assumed"},
};
constexpr std::array kExtensionFaults{
    FailureModeSpec{"armature", "stuck_in"}, FailureModeSpec{"armature", "stuck_out"}};

/// More outputs for a safety relay: two relays on one supply, whose linked contacts stand in series; the signalling
/// contacts belong into the reset circuit of the relay it extends.
Expected<Body> extensionBody(const Parameters& p, Timing timing)
{
    Body b;
    const char* row = "plug-in relay";
    const double pickUp = timedParameter(p, "pick_up_time_s", deviceDefault(row, "pick_up_time"), timing);
    const double release = timedParameter(p, "release_time_s", deviceDefault(row, "release_time"), timing);
    const double gap = timed(deviceDefault(row, "nc_opens_before_no_closes"), timing);
    const int first = addTerminal(b, "A1"), second = addTerminal(b, "A2");
    for (const char* relay : {"K1", "K2"}) {
        CoilElement coil = directCoil(p.number("supply_voltage_v"), deviceDefault(row, "power_dc").nominal);
        coil.mover = static_cast<int>(b.movers.size());
        MoverSpec armature{relay, MoverSpec::Driver::Coil};
        armature.toActuatedS = pickUp;
        armature.toRestS = release;
        armature.gapS = gap;
        b.movers.push_back(armature);
        addTwoPole(b, std::string("coil ") + relay, first, second, coil);
    }
    for (const auto& [parameter, closing] : {std::pair{"outputs", true}, {"signal_contacts", false}})
        for (const std::string& pair : p.words(parameter))
            if (auto ok = addOutput(b, p, pair, closing, 0); !ok)
                return Unexpected{ok.error()};
    return b;
}

} // namespace

const DeviceKind relayExtension{
    "relay_extension", "K", kExtensionParameters, extensionBody, kExtensionFaults, "contactor", "safety_relay"};
const DeviceKind safetyRelay{"safety_relay", "K", kRelayParameters, relayBody, {}, "safety_relay", "safety_relay"};

} // namespace ts::kinds
