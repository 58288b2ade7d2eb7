#include "wording/exploration_texts.h"

#include "wording/event_text.h"

#include <algorithm>

namespace ts::wording {
namespace {

using namespace exploration;

#define TS_TEXT(id, text)                                                                                              \
    Entry                                                                                                              \
    {                                                                                                                  \
        id, text                                                                                                       \
    }

std::string stimulusText(const Plant& plant, const Stimulus& s)
{
    if (s.kind == Stimulus::Kind::SetKnob) {
        const std::string& knob = plant.knobs[static_cast<std::size_t>(s.slot)].name;
        return said(s.value > 0.0 ? "operation.phase_back" : "operation.phase_lost", {knob.substr(knob.find('.') + 1)});
    }
    const PlantDevice&
        device = plant.devices[static_cast<std::size_t>(plant.movers[static_cast<std::size_t>(s.slot)].device)];
    const auto action = std::find_if(device.actions.begin(), device.actions.end(), [&s](const auto& a) {
        return a.second == std::pair{s.slot, s.target};
    });
    return said(
        "operation.hand", {device.tag, action == device.actions.end() ? std::string("?") : actionWord(action->first)});
}

} // namespace

std::span<const Entry> explorationEntries()
{
    static const Entry kEntries[] = {
        TS_TEXT("operation.hand", "%1 %2"),
        TS_TEXT("operation.at_once", "%1 and %2, both at once"),
        TS_TEXT("operation.supply_lost", "supply lost"),
        TS_TEXT("operation.supply_back", "supply back"),
        TS_TEXT("operation.phase_lost", "%1 lost"),
        TS_TEXT("operation.phase_back", "%1 back"),
        TS_TEXT("operation.wait", "wait until something happens by itself"),
        TS_TEXT("claim.never_joined", "%1: no contactors ever join two live lines"),
        TS_TEXT("claim.pause_outlasts_arc",
            "%1: between one contactor and the other there is always a pause longer than an arc can last"),
        TS_TEXT("claim.stays_stopped", "%1 is not driven while %2 is operated (%3)"),
        TS_TEXT("claim.no_start_by_supply", "%1: the supply that comes back does not start it"),
        TS_TEXT("claim.no_start_by_reset", "%1: no reset starts it"),
        TS_TEXT(
            "claim.no_start_by_return", "%1: no letting go, unlatching or closing and no reset of a trip starts it"),
        TS_TEXT("claim.no_start_alone", "%1: it does not start by time alone"),
        TS_TEXT("claim.no_start_held", "%1: none of these starts it while a start button is held or jammed"),
        TS_TEXT("claim.can_start", "%1 can always be started again, whatever was operated before"),
        TS_TEXT("claim.no_forbidden_rest",
            "%1: opposed contactors never stay in together by themselves, even after a push by hand"),
        TS_TEXT("claim.not_even_by_hand", "%1: not even an armature pushed in by hand joins two live lines"),
        TS_TEXT("answer.proved", "proved"),
        TS_TEXT("answer.counter_example", "shown wrong"),
        TS_TEXT("answer.bounded", "not decided"),
        TS_TEXT("answered.proved", "proved in every order"),
        TS_TEXT("answered.counter_example", "shown wrong by %1 operations"),
        TS_TEXT("answered.at_once", "shown wrong as soon as the supply comes on"),
        TS_TEXT("answered.one", "shown wrong by one operation"),
        TS_TEXT("answered.at_limits", "%1, with times at their limits only"),
        TS_TEXT("answered.bounded", "not decided: nothing found, but not every way could be followed"),
        TS_TEXT("interlock.mechanical", "mechanical interlock of the armatures"),
        TS_TEXT("interlock.contactor_contacts", "opening contacts of the contactors"),
        TS_TEXT("interlock.button_contacts", "opening contacts of the buttons"),
        TS_TEXT("finding.explored.never_joined", "%1: in some order of operation two contactors join live lines"),
        TS_TEXT(
            "finding.explored.pause_outlasts_arc", "%1: one contactor closes while the arc of another may still burn"),
        TS_TEXT("finding.explored.stays_stopped", "%1 can be driven while the trigger of \"%2\" is operated"),
        TS_TEXT("finding.explored.no_start_by_supply", "%1 can start by the return of the supply"),
        TS_TEXT("finding.explored.no_start_by_reset", "%1 can start by a reset"),
        TS_TEXT("finding.explored.no_start_by_return",
            "%1 can start by a letting go, an unlatching, a guard that closes or the reset of a trip"),
        TS_TEXT("finding.explored.no_start_alone", "%1 can start by itself"),
        TS_TEXT("finding.explored.no_start_held", "%1 can start by a return or a reset while a start button is held"),
        TS_TEXT("finding.explored.can_start",
            "%1: there is an order of operation after which it can never be started again"),
        TS_TEXT("finding.explored.no_forbidden_rest", "%1: opposed contactors can both stay in by themselves"),
        TS_TEXT("consequence.explored.never_joined",
            "A short between lines through both contactors: welded poles, an arc in the cabinet."),
        TS_TEXT("consequence.explored.pause_outlasts_arc",
            "The arc of the opening contactor makes a short through the closing one."),
        TS_TEXT("consequence.explored.stays_stopped", "Somebody relies on the stop while the machine runs."),
        TS_TEXT("consequence.explored.start", "Somebody is caught by a machine that starts by itself."),
        TS_TEXT("consequence.explored.can_start", "The machine stands until somebody bridges something."),
        TS_TEXT("consequence.explored.no_forbidden_rest",
            "What one finger on an armature begins does not end when it is taken away."),
        TS_TEXT("mend.explored.never_joined",
            "Put an opening contact of each contactor before the other's coil, and a lever between them."),
        TS_TEXT("mend.explored.pause_outlasts_arc",
            "Let the opening contactor drop before the other's coil is fed, or put a pause between them."),
        TS_TEXT("mend.explored.stays_stopped",
            "Bring the stop ahead of every path to the coil: hold, bridge, second feed."),
        TS_TEXT("mend.explored.start",
            "Start by a hold that drops with the supply and with every stop, or by a monitored start."),
        TS_TEXT(
            "mend.explored.can_start", "Play the order on the Bench and look at what keeps the coil from its voltage."),
        TS_TEXT("mend.explored.no_forbidden_rest", "Join each hold ahead of the other contactor's opening contact."),
        TS_TEXT("evidence.explored", "%1 operations from switching on"),
        TS_TEXT("explore.no_motor", "there is no motor \"%1\" to explore"),
    };
    return kEntries;
}

std::string operationText(const Plant& plant, const Operation& o)
{
    switch (o.kind) {
    case Operation::Kind::SupplyLost:
        return word("operation.supply_lost");
    case Operation::Kind::SupplyBack:
        return word("operation.supply_back");
    case Operation::Kind::Wait:
        return word("operation.wait");
    case Operation::Kind::TwoHands:
        return said("operation.at_once", {stimulusText(plant, o.stimuli[0]), stimulusText(plant, o.stimuli[1])});
    case Operation::Kind::Hand:
    case Operation::Kind::PhaseLost:
    case Operation::Kind::PhaseBack:
        break;
    }
    return stimulusText(plant, o.stimuli.front());
}

std::string claimText(const Proof& proof, DeviceId motor, const Dossier& dossier)
{
    const Device* device = dossier.circuit.device(motor);
    const SafetyFunction* f = dossier.function(proof.function);
    const Device* trigger = f ? dossier.circuit.device(f->trigger.device) : nullptr;
    const auto tagOf = [](const Device* d) { return d ? d->tag : std::string("?"); };
    return sentence(message(
        "claim." + std::string(nameOf(proof.claim)), {tagOf(device), tagOf(trigger), f ? f->name : std::string()}));
}

std::string answerText(const Proof& proof)
{
    if (!proof.counter)
        return word(proof.answer == Answer::Proved ? "answered.proved" : "answered.bounded");
    const auto count = static_cast<long long>(proof.counter->order.size());
    const std::string text = count == 0 ? word("answered.at_once")
        : count == 1                    ? word("answered.one")
                                        : said("answered.counter_example", {count});
    return proof.counter->onlyAtLimits ? said("answered.at_limits", {text}) : text;
}

} // namespace ts::wording
