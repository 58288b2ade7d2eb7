#include "wording/note_texts.h"

namespace ts::wording {

#define TS_TEXT(id, text)                                                                                              \
    Entry                                                                                                              \
    {                                                                                                                  \
        id, text                                                                                                       \
    }

std::span<const Entry> noteEntries()
{
    static const Entry kEntries[] = {
        TS_TEXT("note.unfinished",
            "the line is not finished: \"Q1 13 > S2 14\" is a wire, \"Q1 = contactor\" says what a device is, "
            "\"K1 5-6 nc\" what a contact does"),
        TS_TEXT("note.no_terminal", "here a terminal is missing, such as S2 14"),
        TS_TEXT("note.no_marking", "at %1: on which terminal, as it is printed on the device?"),
        TS_TEXT("note.too_much", "\"%1\" has no meaning here"),
        TS_TEXT("note.no_kind", "%1 is what? As in \"%1 = contactor\""),
        TS_TEXT("note.no_second", "what does it %1? As in \"Q1 locks Q2\", \"Y1 brakes M1\""),
        TS_TEXT("note.place", "\"%1\": a device stands @door, @plate or @field"),
        TS_TEXT("note.did_lock", "%1 and %2 lock one another mechanically"),
        TS_TEXT("note.did_brake", "%1 brakes the shaft of %2"),
        TS_TEXT("note.neither_value_nor_contact",
            "\"%1\" is neither a value, as in coil_voltage_v=24, nor a contact, as in 13-14"),
        TS_TEXT("note.contact_effect",
            "what does contact %1 do? \"nc\": closed as long as nothing acts on the device, \"no\": open then, "
            "\"?\": nobody knows yet"),
        TS_TEXT("note.control", "the control voltage is written as \"control 24 dc\" or \"control 230 ac\""),
        TS_TEXT("note.route_colon",
            "where the wires that follow are laid ends with a colon, as in \"in door duct: enclosure\"; \"in:\" alone "
            "says nothing of it any more"),
        TS_TEXT("note.route_kind",
            "\"%1\": wires are laid in an enclosure, cable, protected_cable, shielded_cable or moving_cable"),
        TS_TEXT("note.other_kind", "%1 is there already, and is a %2"),
        TS_TEXT("note.no_contacts", "%1 is a %2, which has no contacts of its own choice"),
        TS_TEXT("note.no_such_terminal", "%1 has no terminal %2. It has: %3"),
        TS_TEXT("note.wire_twice",
            "between %1 and %2 there is wire %3 already; a second one is written with its number behind it, as in =%3"),
        TS_TEXT("note.ask_kind", "%1 is not there yet. Say what it is in a line ahead, as in \"%1 = contactor\""),
        TS_TEXT("note.ask_values", "%1, a %2, needs: %3"),
        TS_TEXT("note.ask_contact",
            "%1: to which contact terminal %2 belongs and what it does cannot be told from its number. Say so in a "
            "line "
            "ahead, as in \"%1 5-6 nc\""),
        TS_TEXT("note.did_route", "the wires that follow are laid in %1 (%2)"),
        TS_TEXT("note.did_no_route", "where the wires that follow are laid is not said"),
        TS_TEXT("note.did_control", "control voltage %1 %2: coils and lamps that follow are taken to be made for it"),
        TS_TEXT("note.did_device", "%1: %2"),
        TS_TEXT("note.did_alike", "%1 %2, as at %3"),
        TS_TEXT("note.did_values", "%1 changed"),
        TS_TEXT("note.did_contact", "%1 has contact %2"),
        TS_TEXT("note.did_terminal", "%1 has terminal %2"),
        TS_TEXT("note.did_unknown",
            "%1 has contact %2, and nobody knows what it does: measure between its terminals with nothing acting on "
            "the "
            "device and without voltage. Closed: nc. Open: no"),
        TS_TEXT("note.did_wire", "%1 - %2: wire %3, laid nobody said where"),
        TS_TEXT("note.did_wire_in", "%1 - %2: wire %3, in %4"),
        TS_TEXT("note.errors", "%1 lines could not be taken; nothing was written"),
        TS_TEXT("word.plain", "%1"),
        TS_TEXT("word.ac", "AC"),
        TS_TEXT("word.dc", "DC"),
        TS_TEXT("deed.starts", "%1, %2: starts %3%4, and it stays on"),
        TS_TEXT("deed.runs_while_held", "%1, %2: %3 runs%4 as long as it is held"),
        TS_TEXT("deed.stops", "%1, %2: stops %3%4"),
        TS_TEXT("deed.stops_while_held", "%1, %2: %3 stops%4 as long as it is held, and runs on then"),
        TS_TEXT("deed.after", "%1. Before it: %2"),
        TS_TEXT("deed.direction.1", " forwards"),
        TS_TEXT("deed.direction.-1", " backwards"),
        TS_TEXT("deed.direction.0", ""),
        TS_TEXT("deed.prepares", "%1 starts and stops nothing by itself, and is worked before: %2"),
        TS_TEXT("deed.idle", "%1 changes nothing that runs, in any state that was tried"),
        TS_TEXT("deed.never_ran", "nothing that was tried brings %1 to run"),
        TS_TEXT("deed.lamp.never", "%1 was never on"),
        TS_TEXT("deed.lamp.always", "%1 was on in every state"),
        TS_TEXT("deed.lamp.while_driven", "%1 is on exactly while %2 is driven"),
        TS_TEXT("deed.lamp.while_not_driven", "%1 is on exactly while %2 is not driven"),
        TS_TEXT("deed.lamp.none", "%1 is on in some states: by no single motor"),
        TS_TEXT("deed.tried", "tried: every hand from each of %1 states, %2 runs"),
        TS_TEXT(
            "deed.left_out", "%1 more states were seen, and not tried from: what is not said here was not looked at"),
        TS_TEXT("deed.undecided", "in %1 runs the circuit chatters: nothing is said of them"),
        TS_TEXT("deed.name_starts", "%1 starts %2"),
        TS_TEXT("deed.name_stops", "%1 stops %2"),
        TS_TEXT(
            "deed.kept", "%1 scenarios and %2 functions were added: look at each, what they expect is what was seen"),
        TS_TEXT("check.contacts", "What every contact does is known"),
        TS_TEXT("finding.contact.unknown", "%1: nobody has said what contact %2 does"),
        TS_TEXT("consequence.contact.unknown",
            "It was taken to act as its number says, or to close: every run and every verdict rests on that. If it is "
            "the "
            "other way round, what should stop the machine may not"),
        TS_TEXT("mend.contact.unknown",
            "Measure between its terminals without voltage and with nothing acting on the device: closed means it "
            "opens "
            "(nc), open means it closes (no)"),
        TS_TEXT("evidence.contact", "%1 of %2 is marked as unknown"),
    };
    return kEntries;
}

#undef TS_TEXT

} // namespace ts::wording
