#include "wording/fault_texts.h"

#include <algorithm>

namespace ts::wording {
namespace {

#define TS_TEXT(id, text)                                                                                              \
    Entry                                                                                                              \
    {                                                                                                                  \
        id, text                                                                                                       \
    }

std::string tagOfDevice(const Plant& plant, int device)
{
    return device < 0 ? std::string("?") : plant.devices[static_cast<std::size_t>(device)].tag;
}

std::string wordOf(std::string_view before, std::string_view name)
{
    return word(std::string(before) + std::string(name));
}

} // namespace

std::span<const Entry> faultEntries()
{
    static const Entry kEntries[] = {
        TS_TEXT("outcome.not_run", "not run"),
        TS_TEXT("outcome.safe", "no effect on the stop"),
        TS_TEXT("outcome.caught", "caught"),
        TS_TEXT("outcome.hidden", "hidden"),
        TS_TEXT("outcome.lost", "lost"),
        TS_TEXT("outcome.undecided", "undecided"),
        TS_TEXT("moment.at_rest", "at rest"),
        TS_TEXT("moment.running", "running"),
        TS_TEXT("moment.just_before", "just before the demand"),
        TS_TEXT("moment.with_demand", "with the demand"),
        TS_TEXT("moment.at_reset", "at the reset"),
        TS_TEXT("loss.none", "not lost"),
        TS_TEXT("loss.runs_on", "runs on"),
        TS_TEXT("loss.too_late", "comes to rest too late"),
        TS_TEXT("loss.lets_go", "the demand releases what must hold"),
        TS_TEXT("loss.moves_again", "starts again while the demand lasts"),
        TS_TEXT("loss.starts_on_release", "starts when the demand ends"),
        TS_TEXT("loss.starts_on_reset", "starts at the reset, before it is started"),
        TS_TEXT("loss.starts_alone", "starts before anything is operated"),
        TS_TEXT("noticed.never", "never"),
        TS_TEXT("noticed.before_demand", "before the demand"),
        TS_TEXT("noticed.on_demand", "at the demand"),
        TS_TEXT("noticed.on_reset", "at the reset"),
        TS_TEXT("noticed.on_restart", "at the restart"),
        TS_TEXT("noticed.on_next_demand", "at the next demand"),
        TS_TEXT("noticed.on_next_restart", "at the restart after the next demand"),
        TS_TEXT("scene.at_rest", "at rest"),
        TS_TEXT("scene.before_start", "before the start"),
        TS_TEXT("scene.before_demand", "before the demand"),
        TS_TEXT("scene.after_demand", "after the demand"),
        TS_TEXT("scene.watched", "long after it"),
        TS_TEXT("scene.at_reset", "reset and start"),
        TS_TEXT("scene.when_lost", "then"),
        TS_TEXT("grade.A", "A: automatic, no restart"),
        TS_TEXT("grade.B", "B: a warning"),
        TS_TEXT("grade.C", "C: only the process shows it"),
        TS_TEXT("grade.D", "D: only a lamp shows it"),
        TS_TEXT("structure.unknown", "not known"),
        TS_TEXT("structure.one_channel", "one channel"),
        TS_TEXT("structure.tested", "one channel, tested"),
        TS_TEXT("structure.single_fault_tolerated", "single fault tolerated"),
        TS_TEXT("structure.accumulation_tolerated", "accumulation tolerated"),
        TS_TEXT("case.nominal", "times and voltage as rated"),
        TS_TEXT("case.fast_times", "all devices at their fast limit"),
        TS_TEXT("case.slow_times", "all devices at their slow limit"),
        TS_TEXT("case.least_load", "all devices slow and each motor at the least load that was entered"),
        TS_TEXT("case.low_voltage", "supply at 0.9 of its voltage"),
        TS_TEXT("case.high_voltage", "supply at 1.1 of its voltage"),
        TS_TEXT("case.supply_lost", "supply lost with the demand"),
        TS_TEXT("mend.line", "%1 at %2 (%3): then %4; %5"),
        TS_TEXT("case.with", "with %1"),
        TS_TEXT("case.in", "%2 (%1)"),
        TS_TEXT("case.not_the_same", "not a stop, or not the same stop category, in every case without a fault"),
        TS_TEXT("run.lost", "%1 %2"),
        TS_TEXT("run.noticed", "noticed %1 by %2 (%3)"),
        TS_TEXT("run.welds", "its current welds %1 too: no fuse is small enough for it"),
        TS_TEXT("run.unnoticed", "nobody notices"),
        TS_TEXT("run.chatters", "the circuit chatters"),
        TS_TEXT("sweep.no_way_back",
            "the trigger has no action that brings it back: the machine could not be started a second time"),
        TS_TEXT("sweep.never_rests", "without any fault something still moves ten minutes after the demand"),
        TS_TEXT("sweep.healthy_loses",
            "%1: without any fault %2 %3. Faults are tried once the circuit without them does what it should"),
        TS_TEXT("sweep.no_function", "there is no safety function \"%1\". Known: %2"),
        TS_TEXT("sweep.no_fault", "the circuit has no fault \"%1\""),
        TS_TEXT("sweep.none", "the dossier has no safety function to try faults on"),
        TS_TEXT("sweep.empty_exclusion", "the exclusion \"%1\" names no fault of this circuit and has no effect"),
        TS_TEXT("sweep.bad_shard", "\"%1\" is no shard: write n/m with 1 <= n <= m <= 1000"),
        TS_TEXT("sweep.bad_part", "%1 is no result of a part of this sweep, made by this program of this circuit: %2"),
        TS_TEXT("sweep.part_twice", "%1 is part %2 of %3 once more"),
        TS_TEXT("sweep.missing_part", "part %1 of %2 is missing"),
        TS_TEXT("markov.out_of_range",
            "MTTFd above zero, coverage and beta from 0 to 1, a check interval from 1/100 000 of the mission time to "
            "all of it"),
        TS_TEXT("finding.as_built.one_channel", "%1, %2: one channel as built. These faults alone lose the stop: %3"),
        TS_TEXT("finding.as_built.untested",
            "%1, %2: category 2 is claimed, but nothing notices these faults before the demand: %3"),
        TS_TEXT("mend.as_built.untested",
            "Let a test with an output of its own act while the machine runs, or claim category 1."),
        TS_TEXT("finding.as_built.only_warns",
            "%1, %2: a test that stops the machine is claimed, but these faults are only warned of: %3"),
        TS_TEXT("mend.as_built.only_warns",
            "Give the test an output that stops the machine, or say in the claim that it only warns (PL c at most)."),
        TS_TEXT("finding.as_built.accumulates",
            "%1, %2: category 4 is claimed, but these faults stay hidden, are forgotten, or let it start at the reset, "
            "and lose the stop together with a second one: %3"),
        TS_TEXT("finding.as_built.unknown", "%1, %2: the structure could not be decided"),
        TS_TEXT("finding.as_built.coverage", "%1, %2: coverage %3 as built, %4 claimed. Nothing automatic notices: %5"),
        TS_TEXT("finding.as_built.outside", "%1: parts that the claim does not name can lose the stop alone: %2"),
        TS_TEXT(
            "finding.as_built.restart", "%1: the stop holds, but a single fault starts the machine at the reset: %2"),
        TS_TEXT("finding.as_built.limit",
            "%1: without any fault it does not do what it should, or could not be run, with %2"),
        TS_TEXT("mend.as_built.limit",
            "Look at the stop in its worst case: which device is too slow, or does not hold, there."),
        TS_TEXT("finding.as_built.common_cause", "%1: one cause that breaks several things at once defeats it: %2"),
        TS_TEXT("mend.as_built.common_cause",
            "Answer for it among the common cause measures: separate or protected cables, short-circuit protection "
            "that lets no contactor weld (coordination type 2)."),
        TS_TEXT("fault.cut", "%1: all cores cut"),
        TS_TEXT("fault.crushed", "%1: crushed, all cores touch"),
        TS_TEXT("fault.interrupted_briefly", "supply interrupted for a cycle (20 ms)"),
        TS_TEXT("fault.interrupted", "supply interrupted for 2 s, and back"),
        TS_TEXT("fault.dip_to_40", "supply dips to 40 % for 0.2 s"),
        TS_TEXT("fault.dip_to_70", "supply dips to 70 % for 0.5 s"),
        TS_TEXT("fault.overvoltage", "supply at 173 % for 5 s"),
        TS_TEXT("fault.welded_together", "%1 welded together by one short behind them"),
        TS_TEXT("finding.as_built.not_running",
            "%1: %2 does not run at the demand of the scenario; nothing is shown about it"),
        TS_TEXT("consequence.as_built",
            "The category's conditions are not met by the wiring as it is: a person may rely on a stop that one fault "
            "takes away."),
        TS_TEXT("finding.duty.typical",
            "%1 takes the power from %2 while it runs up (inching, plugging): the typical B10d is for AC-3 and does "
            "not hold"),
        TS_TEXT("finding.duty.sheet",
            "%1 takes the power from %2 while it runs up (inching, plugging): its B10d must be the manufacturer's for "
            "AC-4"),
        TS_TEXT("consequence.duty",
            "At locked-rotor current contacts wear many times faster than the value that is reckoned with."),
        TS_TEXT("mend.duty",
            "Take B10d from the manufacturer's curve at the breaking current, or let another contactor inch."),
        TS_TEXT("finding.duty.fewer",
            "%1: %2 is reckoned with %3, but works %4 by the scenarios and how often they happen"),
        TS_TEXT("consequence.duty.fewer", "It wears out sooner than the claim says."),
        TS_TEXT("mend.duty.fewer",
            "Take the counted operations into the claim, or correct how often the scenarios happen."),
        TS_TEXT("evidence.duty.fewer", "counted over all scenarios, for %1 hours on %2 days a year"),
        TS_TEXT("evidence.duty", "pulls in %1 times in the scenarios"),
        TS_TEXT("finding.distance", "%1: the distance is %2, at least %3 is needed"),
        TS_TEXT("consequence.distance", "Somebody reaches the hazard before it stands still."),
        TS_TEXT("mend.distance", "Put the detection further away, lock the guard until standstill, or stop faster."),
        TS_TEXT("evidence.distance",
            "%1 from the demand to rest (the latest of all loads, limits, single faults that do not lose the stop, and "
            "measured stops), approach at %2, reaching in %3, as for %4"),
        TS_TEXT("finding.distance.open", "%1: the distance from the guard is not entered; at least %2 is needed"),
        TS_TEXT("mend.distance.open", "Enter it, or lock the guard until standstill."),
        TS_TEXT("finding.measured.few", "%1: %2 stops were measured, %3 are needed"),
        TS_TEXT("consequence.measured.few",
            "A few good stops say little of the bad ones; the longest of them counts, "
            "without the spread"),
        TS_TEXT("mend.measured.few", "Measure the rest, from the speed and load that stop latest"),
        TS_TEXT("finding.restart.by_release", "%1: %2 starts again when %3 is brought back"),
        TS_TEXT("finding.restart.by_reset", "%1: %2 starts again by the reset at %3, without a start action"),
        TS_TEXT("finding.restart.rule",
            "%1: an emergency stop lets the machine start again by itself, by its reset or its return"),
        TS_TEXT("consequence.restart",
            "Somebody who is still in the danger zone is not warned by a start that somebody else gives."),
        TS_TEXT("mend.restart",
            "Let the start need its own action after the reset: a hold that drops with the stop, or a monitored "
            "start."),
        TS_TEXT("mend.restart.rule", "Choose the start action as what starts the machine again."),
        TS_TEXT("finding.as_built.category", "%1, %2: as built the conditions of category %3 are not met"),
        TS_TEXT("mend.as_built.category", "Mend what is not met; as it is, category %1 and PL %2 at the very most."),
        TS_TEXT("mend.as_built.no_category", "Mend what is not met; as it is, no category's conditions are met."),
        TS_TEXT("mend.as_built.one_channel",
            "Give the function a second way to stop, or exclude the fault with its table of ISO 13849-2 and a reason."),
        TS_TEXT("mend.as_built.accumulates",
            "Let the fault be noticed before the machine can start again, and not be forgotten."),
        TS_TEXT("mend.as_built.unknown", "Try second faults too, and look at the faults that are undecided."),
        TS_TEXT("mend.as_built.coverage",
            "Bring a mirror or linked contact of it into the feedback loop, or claim no coverage."),
        TS_TEXT("mend.as_built.outside",
            "Name the part in the claim, or exclude the fault with its table of ISO 13849-2 and a reason."),
        TS_TEXT("finding.as_built.restart_without",
            "%1: the stop holds, but a single fault starts the machine when it ends, or by itself: %2"),
        TS_TEXT("mend.as_built.restart_without",
            "Let a reset stand between the end of the stop and the start, and start by a rising edge."),
        TS_TEXT("mend.as_built.restart",
            "Start by a rising edge or a monitored start, or state in the risk assessment why nobody is in danger at "
            "the reset."),
        TS_TEXT("mend.as_built.not_running", "Add an operating state in which it runs, with its own demand."),
        TS_TEXT("evidence.sweep", "%1 runs with %2 faults"),
    };
    return kEntries;
}

std::string consequenceText(
    const faults::SweptFault& fault, const faults::FaultOutcome& outcome, faults::Moment moment, const Plant& plant)
{
    if (fault.welds.empty() || outcome.variant[static_cast<std::size_t>(moment)] + 1u != fault.variants.size())
        return {};
    std::vector<std::string> contacts;
    for (int l : fault.welds) {
        const PlantLink& link = plant.links[static_cast<std::size_t>(l)];
        contacts.push_back(tagOfDevice(plant, link.device) + " " + link.role);
    }
    return said("run.welds", {joined(contacts, ", ")});
}

std::string sweptFaultLabel(const faults::SweptFault& fault, const Circuit& circuit)
{
    return sentence(faults::labelOf(fault, circuit));
}

std::string sweptFaultText(const faults::SweptFault& fault, const Circuit& circuit)
{
    return sentence(faults::messageOf(fault, circuit));
}

std::string runText(const faults::RunResult& run, const Plant& plant)
{
    using namespace faults;
    if (run.loss != Loss::None)
        return said("run.lost", {tagOfDevice(plant, run.lostMotor), wordOf("loss.", nameOf(run.loss))});
    if (run.isUndecided)
        return said("run.chatters", {});
    if (run.notice.grade == Grade::None)
        return said("run.unnoticed", {});
    return said("run.noticed",
        {wordOf("noticed.", nameOf(run.notice.when)), tagOfDevice(plant, run.notice.device),
            wordOf("grade.", nameOf(run.notice.grade))});
}

#undef TS_TEXT

std::string stopCaseText(const StopCase& c, const std::vector<faults::SweptFault>& faults, const Dossier& dossier)
{
    const Scenario* state = dossier.scenario(std::to_string(c.state.value));
    const faults::SweptFault* fault = c.fault.empty() ? nullptr : faults::faultNamed(faults, c.fault);
    const std::string circumstance = fault ? said("case.with", {sweptFaultText(*fault, dossier.circuit)})
                                           : word("case." + std::string(nameOf(c.kind)));
    return said("case.in", {state ? state->name : std::string("?"), circumstance});
}

std::string stopCategoryText(const ActuatorStudy& actuator)
{
    return actuator.category ? said("stop.category", {std::to_string(*actuator.category)})
                             : word(actuator.cases.empty() ? "stop.not_running" : "case.not_the_same");
}

std::string mendText(const improving::Mend& m, const Dossier& dossier, const Plant& plant)
{
    std::string what = word("do." + m.offer);
    if (what.ends_with(" ..."))
        what.resize(what.size() - 4);
    std::vector<std::string> answers;
    for (const offers::Offer& o : offers::offersFor(dossier, m.target))
        for (const offers::Question& q : o.id == m.offer ? o.questions : std::vector<offers::Question>{})
            for (const offers::Choice& c : q.choices)
                if (const auto given = m.answers.find(q.id); given != m.answers.end() && given->second == c.value)
                    answers.push_back(sentence(c.text));
    const Device* device = dossier.circuit.device(m.target.device);
    const auto worst = static_cast<std::size_t>(
        std::find(m.outcome.outcomes.begin(), m.outcome.outcomes.end(), m.outcome.overall)
        - m.outcome.outcomes.begin());
    const std::string at = (device ? device->tag : std::string("?"))
        + (m.target.role.empty() ? "" : " " + m.target.role);
    return said("mend.line",
        {what, at, joined(answers, ", "), wordOf("outcome.", faults::nameOf(m.outcome.overall)),
            runText(m.outcome.runs[worst], plant)});
}

} // namespace ts::wording
