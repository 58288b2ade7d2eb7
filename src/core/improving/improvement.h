#pragma once
// What would reach the required level: changes from a catalogue, one at a time and two together, each carried out on
// the dossier and calculated. A change of the circuit is then run again: the faults that nothing noticed are put into
// the changed circuit. What mends one fault is in mending/.

#include "core/analysis/fault_analysis.h"
#include "core/model/dossier.h"

#include <functional>
#include <stop_token>

namespace ts::improving {

/// What it costs the person who does it, the least first.
enum class Effort : std::uint8_t {
    Answer = 1, ///< something is shown or confirmed that may be there already
    Use = 2, ///< the machine is operated otherwise
    Part = 3, ///< another part in the same place
    Wires = 5, ///< some wires more or moved
    Device = 8 ///< another device, with its wires
};

/// One change of the catalogue.
struct Change {
    std::string id; ///< "answer", "measure", "feedback", "second_contactor", "own_output", "test_rate",
                    ///< "monitored_block", "other_part", "fewer_operations", "separate_cable", "category", "exclude":
                    ///< wording "improve.<id>"
    Effort effort = Effort::Answer;
    std::vector<Argument> words; ///< of its sentence
    bool changesCircuit = false;
    std::vector<DeviceId> watched{}; ///< "feedback", "second_contactor": whose faults are noticed then
    std::size_t subsystem = 0; ///< of the claim
    std::vector<std::string> excludes{}; ///< "exclude": fault ids
    std::vector<std::string> defeats{}; ///< fault ids that lose the function alone now and are not to any more
    std::vector<DeviceId> apart{}; ///< "own_output": no short at one of these may lose the changed circuit
    std::function<Expected<DossierFile>(const DossierFile&)> carriedOut;
};

/// What came of the faults that are to be mended, tried on the changed circuit.
struct Rerun {
    int tried = 0,
        mended = 0; ///< faults; mended: noticed automatically, and the machine does not start again, or they cannot do
                    ///< anything any more
    bool stillStops = false; ///< without any fault
    bool holds() const { return stillStops && tried == mended; }
};

struct Improvement {
    std::vector<Change> changes; ///< one or two
    std::optional<safety::Level> level; ///< none: some condition is still not met
    double pfhdPerHour = 0;
    bool reaches = false; ///< the required level
    std::optional<Rerun> rerun; ///< none: estimated from the last sweep, or nothing to run
    DossierFile changed;
    int effort() const;
};

struct Improved {
    std::optional<safety::Level> now; ///< as built where a sweep is there, else as claimed
    double pfhdNow = 0;
    std::vector<Improvement> list; ///< that make it better: those that reach first, then by effort, then by PFHd
    Phrases alone; ///< faults that lose the function alone, as built: whatever leaves them there stays one channel
    std::size_t combinations = 0; ///< that were calculated
};

struct Options {
    std::size_t mostRerun = 10;
    std::size_t mostKept = 40;
};

/// `built` may be null: then claims count as they are. Fails with NotFound for no such function, and with Cancelled.
Expected<Improved> improvementsOf(const DossierFile& file, FunctionId function, const FaultAnalysis* built,
    const Options& options = {}, std::stop_token stop = {});

/// The catalogue for one function: whatever could change something in its subsystems.
std::vector<Change> catalogueOf(const DossierFile& file, const SafetyFunction& function, const FaultAnalysis* built);

} // namespace ts::improving
