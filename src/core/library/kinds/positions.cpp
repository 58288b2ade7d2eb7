// What is turned, held, opened or called: selector (hand-off-auto among them), key switch, enabling switch, guard
// switch, external call, switch-disconnector.

#include "core/library/kinds/build.h"
#include "core/library/kinds/coil.h"
#include "core/library/kinds/kinds.h"

#include <algorithm>
#include <array>

namespace ts::kinds {
namespace {

using Type = ParameterSpec::Type;

constexpr std::array kSelectorParameters{
    ParameterSpec{"positions", Type::WordList, 0, 0, {}, "off on", {}, "assumed"},
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, {}, {}, {}, true},
    ParameterSpec{"starts_at", Type::Word, 0, 0, {}, "", {}, "assumed"},
    ParameterSpec{"spring_return", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
    kContactAc,
    kContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};
constexpr std::array kContactFaults{FailureModeSpec{"contact", "welded"}, FailureModeSpec{"contact", "does_not_close"}};

Unexpected refused(const char* id, const Parameters& p, const std::string& what)
{
    return failure(ErrorCode::Refused, message(id, {p.tag(), what}));
}

/// "13-14/hand/auto": the pair, and the travels of the positions in which it is closed.
Expected<void> addSelectorContact(Body& b, const Parameters& p, const std::string& text)
{
    const auto& positions = p.words("positions");
    std::size_t slash = text.find('/');
    const std::string pair = text.substr(0, slash);
    std::uint8_t closedAt = 0;
    while (slash != text.npos) {
        const std::size_t next = text.find('/', slash + 1);
        const std::string position = text.substr(slash + 1, next == text.npos ? next : next - slash - 1);
        const auto it = std::find(positions.begin(), positions.end(), position);
        if (it == positions.end())
            return refused("kind.no_position", p, text);
        closedAt = static_cast<std::uint8_t>(closedAt | 1u << (2 * (it - positions.begin())));
        slash = next;
    }
    if (closedAt == 0)
        return refused("kind.no_position", p, text);
    return addContacts(b, {pair}, p.tag(), [closedAt](ContactKind kind) { return ContactElement{kind, 0, closedAt}; });
}

/// What is turned to one of two or three positions; it begins at `start`, or where a knob usually stands.
Expected<Body> turnedBody(const Parameters& p, Timing timing, const std::string& start)
{
    const auto& positions = p.words("positions");
    for (const std::string& name : positions)
        if (name.empty() || name.size() > 12 || name.find_first_of("/:+ ") != name.npos
            || std::count(positions.begin(), positions.end(), name) > 1)
            return refused("kind.position_name", p, name);
    if (positions.size() < 2 || positions.size() > 3)
        return refused("kind.positions", p, "");
    const auto found = std::find(positions.begin(), positions.end(), start);
    if (!start.empty() && found == positions.end())
        return refused("kind.no_position", p, start);
    const auto initial = start.empty() ? (positions.size() == 3 ? 1 : 0) : found - positions.begin();
    const double gap = timed(deviceDefault("push button", "nc_opens_before_no_closes"), timing);
    MoverSpec knob{"selector", MoverSpec::Driver::Operator, static_cast<std::uint8_t>(2 * initial), gap, 0.0, gap,
        !p.flag("spring_return")};
    knob.last = static_cast<std::uint8_t>(2 * (positions.size() - 1));
    Body b;
    b.movers.push_back(knob);
    if (p.words("contacts").empty())
        return refused("kind.contact_count", p, "");
    for (const std::string& text : p.words("contacts"))
        if (auto ok = addSelectorContact(b, p, text); !ok)
            return Unexpected{ok.error()};
    for (std::size_t k = 0; k < positions.size(); ++k)
        b.actions.push_back({"turn_to_" + positions[k], 0, static_cast<std::uint8_t>(2 * k)});
    b.actions.push_back({"release", 0, knob.initial});
    return b;
}

Expected<Body> selectorBody(const Parameters& p, Timing timing)
{
    return turnedBody(p, timing, p.word("starts_at"));
}

constexpr std::array kKeySwitchParameters{
    ParameterSpec{"positions", Type::WordList, 0, 0, {}, "off on", {}, "assumed"},
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, "13-14/on", {}, "assumed"},
    ParameterSpec{"spring_return", Type::Flag, 0, 0, {}, "no", {}, "assumed"},
    kContactAc,
    kContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};

/// A selector that nobody turns without its key, and that keeps the key anywhere but in its first position.
Expected<Body> keySwitchBody(const Parameters& p, Timing timing)
{
    auto b = turnedBody(p, timing, p.words("positions").empty() ? "" : p.words("positions").front());
    if (!b)
        return b;
    b->movers.front().freedBy = static_cast<int>(b->movers.size());
    b->movers.push_back({"key", MoverSpec::Driver::Operator, 2, 0.0, 0.0, 0.0, true});
    b->actions.push_back({"take_key", b->movers.front().freedBy, 0});
    b->actions.push_back({"insert_key", b->movers.front().freedBy, 2});
    return b;
}

constexpr std::array kEnablingParameters{
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, "13-14 23-24", {}, "assumed"},
    kContactAc,
    kContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};

/// Three positions: let go, held in the middle, clenched. Its closing contacts are closed in the middle only, and do
/// not close again on the way back from clenched. Source: IEC 60947-5-8 clause 7.1.
Expected<Body> enablingBody(const Parameters& p, Timing timing)
{
    const double gap = timed(deviceDefault("push button", "nc_opens_before_no_closes"), timing);
    MoverSpec grip{"grip", MoverSpec::Driver::Operator, 0, gap, 0.0, gap, false};
    grip.last = 4;
    grip.opensOnReturn = true;
    Body b;
    b.movers.push_back(grip);
    if (p.words("contacts").empty())
        return refused("kind.contact_count", p, "");
    if (auto ok = addContacts(b, p.words("contacts"), p.tag(), [](ContactKind kind) { return contactOf(0, kind); });
        !ok)
        return Unexpected{ok.error()};
    b.actions = {{"hold_halfway", 0, 2}, {"clench", 0, 4}, {"release", 0, 0}};
    return b;
}

constexpr std::array kGuardParameters{
    ParameterSpec{"contacts", Type::WordList, 0, 0, {}, "11-12 21-22", {}, "assumed"},
    ParameterSpec{"direct_opening", Type::Flag, 0, 0, {}, "yes", {}, "clause IEC 60947-5-1 annex K"},
    ParameterSpec{"locking", Type::Word, 0, 0, {}, "none", "none power_to_release", "assumed"},
    ParameterSpec{"lock_voltage_v", Type::Number, 1, 300, 24, {}, {}, "assumed"},
    ParameterSpec{"lock_contacts", Type::WordList, 0, 0, {}, "", {}, "assumed"},
    kContactAc,
    kContactDc,
    kContactAc15,
    kContactDc13,
    kContactFuse,
};
constexpr std::array kGuardFaults{FailureModeSpec{"contact", "welded"}, FailureModeSpec{"contact", "does_not_close"},
    FailureModeSpec{"actuator", "broken"}};

/// At rest the guard is closed and, with locking, its bolt is in; the magnet draws the bolt.
Expected<Body> guardBody(const Parameters& p, Timing timing)
{
    Body b;
    const double opening = timed(deviceDefault("guard switch", "opening_time"), timing);
    const double gap = timed(deviceDefault("push button", "nc_opens_before_no_closes"), timing);
    MoverSpec guard{"guard", MoverSpec::Driver::Operator, 0, opening + gap, 0.0, gap, true};
    const bool locks = p.word("locking") != "none";
    guard.freedBy = locks ? 1 : -1;
    b.movers.push_back(guard);
    if (p.words("contacts").empty())
        return refused("kind.contact_count", p, "");
    if (auto ok = addContacts(b, p.words("contacts"), p.tag(), [](ContactKind kind) { return contactOf(0, kind); });
        !ok)
        return Unexpected{ok.error()};
    b.actions = {{"open", 0, 2}, {"close", 0, 0}};
    if (!locks)
        return b;
    const double lock = timed(deviceDefault("guard switch", "lock_time"), timing);
    b.movers.push_back({"bolt", MoverSpec::Driver::Coil, 0, lock, lock, gap, false});
    addCoil(b, "magnet", "E1", "E2",
        directCoil(p.number("lock_voltage_v"), deviceDefault("guard switch", "lock_power").nominal), 1);
    if (auto ok = addContacts(
            b, p.words("lock_contacts"), p.tag(), [](ContactKind kind) { return contactOf(1, kind); });
        !ok)
        return Unexpected{ok.error()};
    return b;
}

constexpr std::array kCallParameters{ParameterSpec{"contacts", Type::WordList, 0, 0, {}, "13-14", {}, "assumed"}};

Expected<Body> callBody(const Parameters& p, Timing)
{
    Body b;
    b.movers.push_back({"call", MoverSpec::Driver::Operator, 0, 0.0, 0.0, 0.0, true});
    if (p.words("contacts").empty())
        return refused("kind.contact_count", p, "");
    if (auto ok = addContacts(b, p.words("contacts"), p.tag(), [](ContactKind kind) { return contactOf(0, kind); });
        !ok)
        return Unexpected{ok.error()};
    b.actions = {{"call", 0, 2}, {"end_call", 0, 0}};
    return b;
}

constexpr std::array kDisconnectorParameters{
    ParameterSpec{"poles", Type::Number, 1, 4, 3, {}, {}, "assumed"},
    ParameterSpec{"auxiliary_contacts", Type::WordList, 0, 0, {}, "", {}, "assumed"},
    ParameterSpec{"rated_current_a", Type::Number, 0.1, 4000, {}, {}, {}, "sheet"},
    ParameterSpec{"breaking_current_a", Type::Number, 0.1, 40000, {}, {}, {}, "sheet"},
};

Expected<Body> disconnectorBody(const Parameters& p, Timing)
{
    Body b;
    b.movers.push_back({"switch", MoverSpec::Driver::Operator, 2, 0.0, 0.0, 0.0, true});
    for (int k = 0; k < static_cast<int>(p.number("poles")); ++k)
        addContact(b, poleName(k), {ContactKind::Pole, 0, kActuated});
    if (auto ok = addContacts(
            b, p.words("auxiliary_contacts"), p.tag(), [](ContactKind kind) { return contactOf(0, kind); });
        !ok)
        return Unexpected{ok.error()};
    b.actions = {{"switch_on", 0, 2}, {"switch_off", 0, 0}};
    return b;
}

} // namespace

const DeviceKind selector{"selector", "S", kSelectorParameters, selectorBody, kContactFaults, "selector", "selector"};
const DeviceKind keySwitch{
    "key_switch", "S", kKeySwitchParameters, keySwitchBody, kContactFaults, "key_switch", "key_switch"};
const DeviceKind enablingSwitch{
    "enabling_switch", "S", kEnablingParameters, enablingBody, kContactFaults, "selector", "selector"};
const DeviceKind guardSwitch{"guard_switch", "B", kGuardParameters, guardBody, kGuardFaults, "guard", "guard", {},
    {.protects = KindTraits::Protects::Guard, .safeguard = Safeguard::Guard, .hasExternalActuator = true}};
const DeviceKind externalCall{
    "external_call", "B", kCallParameters, callBody, kContactFaults, "call", "call", {}, {.isFromElsewhere = true}};
const DeviceKind switchDisconnector{"switch_disconnector", "Q", kDisconnectorParameters, disconnectorBody,
    kContactFaults, "switch", "switch", "auxiliary_contacts"};

} // namespace ts::kinds
