#include "wording/verdict_texts.h"

#include <array>

namespace ts::wording {

std::span<const Entry> verdictEntries()
{
#define TS_TEXT(id, text)                                                                                              \
    Entry                                                                                                              \
    {                                                                                                                  \
        id, text                                                                                                       \
    }
    static const std::array entries{
        TS_TEXT("unknown.other_triggers_second", "second faults: not tried with %1, only single ones"),
        TS_TEXT("unknown.other_triggers", "single and second faults: not tried with %1, only without faults"),
        TS_TEXT("unknown.contacts", "what these contacts do, of which it was only assumed: %1"),
        TS_TEXT("unknown.routes", "structure: shorts were not tried between %1 wires that are laid nowhere"),
        TS_TEXT("check.wires", "Every wire is laid somewhere"),
        TS_TEXT("finding.wire.nowhere", "%1 wires are laid nowhere: no short between them was tried"),
        TS_TEXT("consequence.wire.nowhere",
            "The structure looks better than it may be: a single short could lose the stop"),
        TS_TEXT("mend.wire.nowhere", "Say how they are laid: in an enclosure, or in which cable"),
        TS_TEXT("finding.duty.small_load",
            "%1: the typical B10d for small loads is taken, but its poles carry %2 of their rating"),
        TS_TEXT("mend.duty.small_load", "Take the value for nominal load, or the part's own from its sheet"),
        TS_TEXT("evidence.duty.small_load", "%1 through one pole in a scenario; small is up to a fifth of the rating"),
        TS_TEXT("finding.directed.partly",
            "Stops and starts were looked at in part only: the circuit chatters in %1 runs, %2 states of the machine "
            "were left out"),
        TS_TEXT("consequence.directed.partly", "What was not tried may stop nothing, or start a motor"),
        TS_TEXT("mend.directed.partly", "Mend what chatters; look at every order of operation"),
        TS_TEXT("evidence.runs", "%1 runs"),
        TS_TEXT("check.motors", "Whatever moves, heats or holds is brought to rest by a function"),
        TS_TEXT("check.protective_devices", "Every emergency stop and guard is a trigger, and stops what it names"),
        TS_TEXT("check.starts", "Nothing that returns, and no reset, starts a motor by itself"),
        TS_TEXT("study.directed", "Directed runs: stops and starts"),
        TS_TEXT("finding.motor.no_function", "%1 is brought to rest by no function that a person relies on"),
        TS_TEXT("consequence.motor.no_function", "Nobody has decided how this is stopped when somebody is in danger"),
        TS_TEXT(
            "mend.motor.no_function", "Name a function for it: what triggers it, what must rest, which level it needs"),
        TS_TEXT("evidence.functions", "%1 functions in this file"),
        TS_TEXT("finding.motor.never_ran", "%1 was never seen running: nothing is known of how it stops"),
        TS_TEXT("consequence.motor.never_ran", "A stop that was never run may not exist"),
        TS_TEXT("mend.motor.never_ran", "Write a scenario that starts it, or mend the start"),
        TS_TEXT("finding.device.no_function", "%1 is the trigger of no function"),
        TS_TEXT("consequence.device.no_function",
            "A person presses it or opens it and relies on a stop that nobody has judged"),
        TS_TEXT("mend.device.no_function", "Make it the trigger of a function, with what it must bring to rest"),
        TS_TEXT("finding.device.does_not_stop", "%1 was operated and %2 went on, which its function names"),
        TS_TEXT("consequence.device.does_not_stop", "The stop that a person relies on is not there"),
        TS_TEXT("mend.device.does_not_stop",
            "Put its contacts into the path that feeds the motor's contactor, ahead of every hold"),
        TS_TEXT("finding.device.outside_span",
            "%1 was operated and %2 went on; no function says that it lies outside its span"),
        TS_TEXT("consequence.device.outside_span",
            "Whoever presses the nearest emergency stop expects that everything within reach stops"),
        TS_TEXT("mend.device.outside_span", "Bring the motor to rest too, or name the device's span in its function"),
        TS_TEXT("finding.device.untried", "%1 could not be tried: no state in which a motor runs is known"),
        TS_TEXT("consequence.device.untried", "A stop that was never run may not exist"),
        TS_TEXT("mend.device.untried", "Write a scenario in which the machine runs"),
        TS_TEXT("evidence.directed", "directed runs of the circuit"),
        TS_TEXT("evidence.start", "tried: %1"),
        TS_TEXT("departure.none", "a letting go"),
        TS_TEXT("departure.supply_lost", "the supply's return"),
        TS_TEXT("departure.phase_lost", "the return of a line"),
        TS_TEXT("departure.switch_opened", "a switch or breaker put back"),
        TS_TEXT("departure.overload", "the reset of a trip"),
        TS_TEXT("departure.emergency_stop", "the unlatching of an emergency stop"),
        TS_TEXT("departure.guard", "the closing of a guard"),
        TS_TEXT("departure.other", "the return of a control"),
        TS_TEXT("finding.start.return", "%1 starts by %2%3 although nobody asks for it"),
        TS_TEXT(
            "consequence.start.return", "Somebody who reaches in after a stop is caught by a start that nobody gave"),
        TS_TEXT("mend.start.return", "Start only by a button through a hold or a reset that drops out with every stop"),
        TS_TEXT("finding.start.reset", "%1 starts by a reset after %2%3"),
        TS_TEXT("consequence.start.reset",
            "A reset only permits a start; whoever resets may not see who stands in the machine"),
        TS_TEXT("mend.start.reset",
            "Let the hold drop out with the stop, so that a start button is needed after the reset"),
        TS_TEXT(
            "finding.race", "%1 and %2 can arrive in the same instant, and one keeps the other out: chance decides"),
        TS_TEXT("consequence.race",
            "Equal contactors are never quite equal: which one wins changes with wear. Both orders were tried"),
        TS_TEXT("mend.race", "Let the buttons exclude each other, too, if it matters which one wins"),
        TS_TEXT("finding.start.held", "%1 starts when a stop ends while a start button is held or jammed: %2"),
        TS_TEXT("consequence.start.held",
            "A jammed start button or a selector left in hand starts the machine when the stop ends"),
        TS_TEXT("mend.start.held", "Start by a rising edge, or let the reset see that no start is held"),
        TS_TEXT("answer.not_asked", "no level is asked for"),
        TS_TEXT("answer.not_known", "not known yet"),
        TS_TEXT("answer.not_reached", "not reached"),
        TS_TEXT("answer.reached", "reached"),
        TS_TEXT("check.scenarios", "Every scenario ends as it expects"),
        TS_TEXT("study.path", "Paths of the functions through the wiring"),
        TS_TEXT("study.scenarios", "Scenarios"),
        TS_TEXT("finding.scenario.unmet", "In the scenario \"%1\", %2 is not %3 at %4"),
        TS_TEXT("consequence.scenario.unmet", "The machine does not do what its own file says it does"),
        TS_TEXT("mend.scenario.unmet", "Play the scenario, find what differs, and mend the wiring or the expectation"),
        TS_TEXT("evidence.scenario.unmet", "the scenario was run; %1 of its expectations are not met"),
        TS_TEXT("finding.scenario.chatters", "In the scenario \"%1\" the circuit chatters"),
        TS_TEXT("consequence.scenario.chatters", "Nothing that comes after it was seen"),
        TS_TEXT("mend.scenario.chatters", "Find what a contact takes away from its own coil"),
        TS_TEXT("evidence.scenario", "the scenario \"%1\" was run"),
        TS_TEXT("finding.scenario.not_run", "The scenario \"%1\" cannot be run"),
        TS_TEXT("consequence.scenario.not_run", "What it should show was not looked at"),
        TS_TEXT("mend.scenario.not_run", "Name devices, actions and times that are there"),
        TS_TEXT("check.lines",
            "Where a phase or current monitor watches the lines, no motor stays fed without one of them"),
        TS_TEXT("finding.line.runs_on", "%1 stays fed without %2: still after %3, although the lines are watched"),
        TS_TEXT("finding.line.held",
            "%1 is fed without %2 while a start is held (%3): still after %4, although the lines are watched"),
        TS_TEXT("consequence.line", "The motor burns, or stays without torque where torque holds something"),
        TS_TEXT("mend.line.runs_on",
            "Let the monitor see this line where it can be lost, and its contact take the motor's contactor off"),
        TS_TEXT("mend.line.held", "Put the monitor's contact ahead of the start button, not into the hold alone"),
        TS_TEXT("check.in_part", "checked in part only"),
        TS_TEXT("check.limits", "The circuit without faults bears the limits of times and voltage"),
        TS_TEXT("check.made", "checked"),
        TS_TEXT("check.nothing", "nothing there to check"),
        TS_TEXT("check.not_made", "not checked"),
        TS_TEXT("check.not_run", "was not run"),
        TS_TEXT("check.orders", "No order of operation shows anything wrong"),
        TS_TEXT("check.second_faults", "Second faults are borne by the claim, and noticed as claimed"),
        TS_TEXT("check.single_faults", "Single faults are borne by the claim"),
        TS_TEXT("check.other_triggers", "Single faults are borne with each other trigger, too"),
        TS_TEXT("check.worst_stop", "The latest stop of all cases is in time"),
        TS_TEXT("report.built_against_claimed", "Verdict"),
        TS_TEXT("report.not_looked_at", "Not looked at"),
        TS_TEXT("study.built", "Claimed against built"),
        TS_TEXT("study.checks", "Design checks"),
        TS_TEXT("study.faults", "Single faults"),
        TS_TEXT("study.levels", "Levels and stops as claimed"),
        TS_TEXT("study.no_faults", "no faults were tried"),
        TS_TEXT("study.no_motor", "there is no such motor"),
        TS_TEXT("study.orders", "Every order of operation"),
        TS_TEXT("study.triggers", "Single faults with each other trigger"),
        TS_TEXT("finding.trigger.untried", "%1: demanded by %2 it could not be tried with faults"),
        TS_TEXT("study.pairs", "Second faults, limits and excluded faults"),
        TS_TEXT("study.stop", "Stop in its worst case"),
        TS_TEXT("study.too_large",
            "%1: given up, the program would need more than %2 of memory. Make the circuit smaller, or ask for one "
            "function at a time"),
        TS_TEXT("study.too_long",
            "%1: given up after %2. The circuit is too large to be looked at by itself; ask for it on the command "
            "line"),
        TS_TEXT("unknown.built",
            "the level as built: something chatters or was not tried, or no fault of some part counts"),
        TS_TEXT("unknown.condition", "%1: not answered"),
        TS_TEXT("unknown.line", "not known: %1"),
        TS_TEXT("unknown.not_running", "some motors did not run at the demand: nothing was shown of them"),
        TS_TEXT("unknown.required", "the required level is not decided"),
        TS_TEXT("unknown.second_faults", "second faults, limits of times and voltage: not tried"),
        TS_TEXT("unknown.single_faults", "single faults: not tried"),
        TS_TEXT("verdict.at_most", "At most %1 by its single faults"),
        TS_TEXT("verdict.built", "%1 as built"),
        TS_TEXT("verdict.claim_says", "claimed %1"),
        TS_TEXT("verdict.claimed_only", "%1 claimed, no fault tried"),
        TS_TEXT("verdict.no_claim", "No level is claimed"),
        TS_TEXT("verdict.no_level_built", "No level as built"),
        TS_TEXT("verdict.no_level_single", "No level, by its single faults"),
        TS_TEXT("verdict.not_asked", "Protects equipment: no level is asked for"),
        TS_TEXT("verdict.required", "needed %1"),
        TS_TEXT("verdict.required_open", "needed level not decided"),
    };
#undef TS_TEXT
    return entries;
}

std::string verdictText(const FunctionVerdict& verdict)
{
    std::vector<std::string> parts;
    for (const Message& m : phrasesOf(verdict))
        parts.push_back(sentence(m));
    const std::string text = joined(parts, "; ");
    return verdict.answer == FunctionVerdict::Answer::NotAsked
        ? text
        : text + ": " + word("answer." + std::string(nameOf(verdict.answer)));
}

std::string notKnownText(const FunctionVerdict& verdict)
{
    return verdict.notKnown.empty() ? std::string() : said("unknown.line", {Phrases(verdict.notKnown)});
}

std::string studyText(std::string_view study, const Subject& subject, const Dossier& dossier)
{
    const std::string name = word("study." + std::string(study));
    if (const SafetyFunction* f = dossier.function(subject.function()))
        return name + ": " + f->name;
    if (const Device* d = dossier.circuit.device(subject.motor()))
        return name + ": " + d->tag;
    return name;
}

} // namespace ts::wording
