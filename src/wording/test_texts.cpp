#include "wording/test_texts.h"

namespace ts::wording {

#define TS_TEXT(id, text)                                                                                              \
    Entry                                                                                                              \
    {                                                                                                                  \
        id, text                                                                                                       \
    }

std::span<const Entry> testEntries()
{
    static const Entry kEntries[] = {
        TS_TEXT("study.tests", "Plan of tests for the built panel"),
        TS_TEXT("test.unknown", "there is no %1 on this panel"),
        TS_TEXT("report.tested", "Proved on the built panel"),
        TS_TEXT(
            "report.not_planned", "No plan of tests was made of this circuit: nothing is known here of what was built"),
        TS_TEXT("report.as_expected", "as expected"),
        TS_TEXT("test.left_out", "left out, it would be dangerous under a mistake that nothing before it shows"),
        TS_TEXT("test.hidden_intro", "Shown by no step, %1 in all:"),
        TS_TEXT("test.hidden", "shown by no step"),
        TS_TEXT("test.suspects", "What alone would read like this, and like all that was read before (%1):"),
        TS_TEXT("test.no_suspect",
            "Nothing that is alone would read like this together with what was read before: two things at once, or a "
            "reading that was taken otherwise"),
        TS_TEXT("test.wires", "wires %1"),
        TS_TEXT("test.minutes", "%1 min"),
        TS_TEXT("test.hours", "%1 h %2 min"),
        TS_TEXT("test.reads", "reads"),
        TS_TEXT("test.not_possible", "it cannot be taken there"),
        TS_TEXT("test.danger", "dangerous"),
        TS_TEXT("test.all_agree", "all %1 steps read as expected"),
        TS_TEXT("test.coverage",
            "%1 steps, about %2. They show %3 of %4 wiring mistakes and device faults; %5 they do not"),
        TS_TEXT("caution.dead_work",
            "Only on what is locked off, discharged and proved dead. The owner's lock-out rules and local codes come "
            "first"),
        TS_TEXT("caution.insulation",
            "500 V: people away, electronics disconnected. Discharge afterwards, reconnect, and prove again what was "
            "lifted"),
        TS_TEXT("caution.live",
            "Live: competent persons only, with a rated meter and fused probes, by the arc-flash rules of the site. "
            "Never "
            "ohms on live parts"),
        TS_TEXT("caution.control_only",
            "Brakes and valves work without the motor: secure what could fall or move before it is tried"),
        TS_TEXT("caution.uncoupled", "Uncoupled: loose key secured, guards on. Couple it once the direction is right"),
        TS_TEXT("caution.stop_is_no_isolation", "A stop is no isolation: do not reach in because it stands"),
        TS_TEXT("stage.isolation", "make safe"),
        TS_TEXT("tester.before", "voltage tester on a source that is known to be live, before"),
        TS_TEXT("tester.after", "voltage tester on a source that is known to be live, once more after"),
        TS_TEXT("person.locked_off", "locked off and tagged"),
        TS_TEXT("person.ready_for_live", "leads back on, covers on, people away"),
        TS_TEXT("stage.bonding", "bonding"),
        TS_TEXT("stage.insulation", "insulation"),
        TS_TEXT("stage.windings", "windings"),
        TS_TEXT("stage.continuity", "continuity"),
        TS_TEXT("stage.incoming", "incoming"),
        TS_TEXT("stage.control", "control"),
        TS_TEXT("stage.direction", "direction"),
        TS_TEXT("stage.stops", "stops"),
        TS_TEXT("stage.faults", "faults"),
        TS_TEXT("stage.times", "times"),
        TS_TEXT("power.locked_off", "locked off"),
        TS_TEXT("power.motor_off", "motor off"),
        TS_TEXT("power.on", "power on"),
        TS_TEXT("hidden.same_in_every_net", "inside the devices it joins the same"),
        TS_TEXT("hidden.within_bands", "every reading stays within its band"),
        TS_TEXT("hidden.no_safe_step", "the step that would show it is dangerous if it is there"),
        TS_TEXT("hidden.not_modelled", "nothing that can be looked at on the panel sees it"),
        TS_TEXT("danger.moves", "%1 moves, heats or lets go where it should not"),
        TS_TEXT("danger.two_phases", "%1: a motor runs on two lines, or takes too much"),
        TS_TEXT("danger.unstoppable", "%1 runs, and nothing stops it that should"),
        TS_TEXT("danger.frame_live", "the frame of %1 is live"),
        TS_TEXT("danger.live_poles_joined", "%1 gives way: live conductors are joined"),
        TS_TEXT("danger.over_voltage", "%1 has more voltage than it is made for"),
        TS_TEXT("look.ohms", "Ohms: (1) %1   [2] %2"),
        TS_TEXT("look.low_ohms", "Low ohms (four wires): (1) %1   [2] %2"),
        TS_TEXT("look.volts", "Volts: (1) %1   [2] %2"),
        TS_TEXT("look.amperes", "Clamp around the wire at %1"),
        TS_TEXT("look.sequence", "Sequence at %1"),
        TS_TEXT("look.stopwatch", "Time until %1 stands"),
        TS_TEXT("look.eye", "Look at %1"),
        TS_TEXT("reading.open", "open (1 Mohm and more)"),
        TS_TEXT("reading.closed", "closed (at most %1)"),
        TS_TEXT("reading.from", "%1 and more"),
        TS_TEXT("reading.between", "%1 to %2"),
        TS_TEXT("situation.lifted", "wires lifted: %1"),
        TS_TEXT("situation.isolated", "taken out, so that nothing moves: %1"),
        TS_TEXT("situation.meanwhile", "meanwhile %1"),
        TS_TEXT("results.too_large", "results have %1 bytes: more than 5 MB are not read"),
        TS_TEXT("results.no_step", "there is no step %1 in the plan for this circuit"),
        TS_TEXT("results.figure_wanted", "step %1 wants a figure"),
        TS_TEXT("results.no_date", "step %1: \"%2\" is no day, as in 2026-11-30"),
        TS_TEXT("results.word_wanted", "step %1 wants what was seen, in the words of the plan"),
        TS_TEXT("results.no_such_figure", "step %1: no instrument shows such a figure"),
        TS_TEXT("results.other_circuit",
            "these results were taken on another circuit (%1...) than the one in this file (%2...): load the file as "
            "it "
            "was then, or take the steps again"),
        TS_TEXT("results.added", "%1 readings added, %2 of them not as expected: %3"),
        TS_TEXT("results.open", "%1 of %2 steps are open"),
        TS_TEXT("open.not_done", "not done"),
        TS_TEXT("open.disagrees", "the last reading is not as expected"),
        TS_TEXT("open.not_calibrated", "the instrument's calibration was overdue"),
        TS_TEXT("open.part_changed", "what it proves is another one since"),
        TS_TEXT("open.expectation_changed", "what is expected has changed, and the reading is outside"),
        TS_TEXT("symptom.syntax",
            "\"%1\" is no symptom; right would be: operate S2 -> not M1 driven, P1 lit (actions, an arrow, what was "
            "seen)"),
        TS_TEXT("symptom.operated", "%1 pressed and let go"),
        TS_TEXT("symptom.switched_on", "switched on"),
        TS_TEXT("symptom.is", "%1 is %2"),
        TS_TEXT("symptom.is_not", "%1 is not %2"),
        TS_TEXT("sheet.too_large", "the sheet would have %1 bytes: more than 1 MB is too much for a phone"),
        TS_TEXT("sheet.written", "%1: %2 steps for the phone; what comes back goes in with record --add"),
        TS_TEXT("practice.simulated", "SIMULATED: nothing here says anything of a real panel"),
        TS_TEXT("practice.nothing_seen", "At first nothing is seen that is not as it should be"),
        TS_TEXT("practice.lines",
            "lock_off, prove_dead, switch_on; press S2, release S2, push_in Q1; probe red Q1:A1, probe black Q1:A2; "
            "ohms, "
            "volts, amperes; look P1, look Q1:14; lift 34 Q2:13, refit 34 Q2:13; name ID, or give_up"),
        TS_TEXT("practice.no_line", "\"%1\" is no line that this panel knows"),
        TS_TEXT("practice.no_probes", "both probes first: each reading wants them put anew"),
        TS_TEXT("practice.none", "nothing of that kind was found to be hidden: another seed, or another difficulty"),
        TS_TEXT("practice.ended", "the lines ended before anything was named"),
        TS_TEXT("practice.no_port", "the port cannot be used: %1"),
        TS_TEXT("practice.right", "Right:"),
        TS_TEXT("practice.wrong", "No. It was:"),
        TS_TEXT("practice.score", "%1 measurements (the finder: %2), about %3 (the finder: %4)"),
        TS_TEXT("practice.ohms_on_live", "lapse: ohms on live parts (%1)"),
        TS_TEXT("practice.not_proved_dead", "lapse: not proved dead before \"%1\""),
        TS_TEXT("practice.fuse_under_load", "lapse: under load (%1)"),
        TS_TEXT("practice.dangerous", "lapse: \"%1\" was dangerous with what is hidden there"),
        TS_TEXT("find.as_drawn", "it is as drawn: operated otherwise than told"),
        TS_TEXT("find.class", "%1 %:"),
        TS_TEXT("find.joins_the_same", "(joins the same: %1)"),
        TS_TEXT("find.more", "and %1 more"),
        TS_TEXT("find.not_on_the_list",
            "Nothing on the list explains what was read: two things at once, a part that the model does not have, or "
            "readings that were taken otherwise"),
        TS_TEXT("find.concluded", "What explains it, and what nothing that can be looked at tells apart:"),
        TS_TEXT("find.left", "%1 possibilities are left"),
        TS_TEXT("find.next", "Look next"),
        TS_TEXT("find.again", "Nothing explains this reading together with the others: the same once more"),
        TS_TEXT("mistake.harmless", "(harmless: an element is only turned round)"),
        TS_TEXT("mistake.unknown", "there is no mistake \"%1\"; the command mistakes lists them"),
        TS_TEXT("mistake.no_wire", "\"%1\" is about a wire that is not there"),
        TS_TEXT("mistake.not_a_file", "\"%1\" is a part of the other kind: it cannot be written as a file"),
        TS_TEXT("mistake.missing", "wire %1 is missing"),
        TS_TEXT("mistake.beside", "wire %1 goes from %2 to %3"),
        TS_TEXT("mistake.exchanged", "wires %1 and %2 are exchanged: %3 to %4"),
        TS_TEXT("mistake.left_out", "contact %1 is left out"),
        TS_TEXT("mistake.coil", "the coil of %1 is one for %2"),
        TS_TEXT("mistake.inverted", "contact %1 of %2 is of the other sense"),
    };
    return kEntries;
}

#undef TS_TEXT

} // namespace ts::wording
