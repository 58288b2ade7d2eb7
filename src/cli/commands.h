#pragma once
// One function per command, one file each. All get their streams, none looks at the process.

#include "cli/cli.h"
#include "core/base/csv.h"
#include "core/base/expected.h"
#include "core/measuring/occasions.h"
#include "core/model/dossier.h"
#include "core/practice/drill.h"
#include "core/simulation/scenario_run.h"

#include <nlohmann/json_fwd.hpp>

#include <istream>
#include <optional>
#include <ostream>

namespace ts::cli {

struct Request {
    std::string file;
    bool json = false;
    std::string scenario; ///< id or name; empty: the first
    double untilS = 0; ///< 0: the scenario's length
    std::vector<std::string> faults; ///< SITE:MODE, from the start of the run
    std::string output; ///< file to write; report: empty is stdout
    std::string pattern; ///< new: the base
    std::vector<std::string> with; ///< new, plan, change: NAME=WORD
    std::vector<int> without; ///< plan: starters
    bool isAdvised = false; ///< new
    std::string group, explain; ///< check
    bool lists = false; ///< check
    std::string devices, wires, parts; ///< lists to read or write
    bool suggests = false; ///< scenario
    std::string fromRun, name; ///< scenario: file of steps, and what it shall be called
    std::string notes; ///< export: file to write
    std::string into; ///< take: dossier that is added to; empty: a new one
    std::string at, what; ///< change: target and offer
    std::string function; ///< sweep, stop: id or name; empty: the first
    std::string shard; ///< sweep: "2/5"
    std::vector<std::string> merge; ///< sweep: JSON of all shards
    int threads = 0; ///< sweep, explore, stop; 0: as many as the machine has
    bool csv = false, singlesOnly = false, withoutExcluded = false; ///< sweep; csv: explore too
    std::string motor; ///< explore: tag; empty: all
    std::size_t bound = 20'000; ///< explore: settled states
    bool isSwept = false; ///< improve
    std::string day; ///< check: the date on which tests and parts may be overdue; empty: today
    std::string remember; ///< folder of results that were worked out before; empty: that of all calls, or none
    bool withoutFaults = false; ///< explore, stop
    bool all = false; ///< check, levels: also what takes its time
    std::string make; ///< mistakes, drill, rig: id of the one to write, or to hide
    unsigned seed = 1; ///< drill, rig
    int lesson = 0; ///< drill, rig: of the course; 0: none
    practice::Difficulty difficulty = practice::Difficulty::Easy; ///< drill, rig
    unsigned port = 5025, operatorPort = 0; ///< rig; 5025 is customary for SCPI
    std::string built; ///< rehearse, find: the panel as it is
    std::vector<std::string> symptoms; ///< find: "operate S2 -> not M1 driven"
    finding::History history = finding::History::Wired; ///< find
    std::string results; ///< record: file of readings
    bool takesStops = false; ///< record: times to rest into the functions
    std::string between, andEnd; ///< bridge: terminals
    std::string who, on, owner, until, reason; ///< bridge: who enters it, when, who answers for it, until when, why
    bool closes = false; ///< bridge: it is taken out of force
    bool tests = false; ///< sheet: of the plan of tests
    std::optional<measuring::Occasion> page; ///< sheet: which part of it, on paper
    std::string device; ///< sheet: that was replaced
    std::string cache; ///< folder of results of all calls; empty: nowhere
    bool power = false, ladder = false; ///< draw: which circuit, and how the control circuit is drawn

    const std::string& keptIn() const { return remember.empty() ? cache : remember; }
};

struct Session {
    std::istream& in;
    std::ostream& out;
    std::ostream& err;
    std::stop_token stop;
};

int check(const Request&, Session&);
int improve(const Request&, Session&);
int skyline(const Request&, Session&);
int levels(const Request&, Session&);
int simulate(const Request&, Session&);
int sweep(const Request&, Session&);
int explore(const Request&, Session&);
int stopCategory(const Request&, Session&);
int report(const Request&, Session&);
int draw(const Request&, Session&);
int change(const Request&, Session&);
int patterns(const Request&, Session&);
int newMachine(const Request&, Session&);
int replan(const Request&, Session&);
int size(const Request&, Session&);
int mistakes(const Request&, Session&);
int tests(const Request&, Session&);
int rehearse(const Request&, Session&);
int find(const Request&, Session&);
int drill(const Request&, Session&);
int rig(const Request&, Session&);
int sheet(const Request&, Session&);
int record(const Request&, Session&);
int retest(const Request&, Session&);
int bridge(const Request&, Session&);
int takeNotes(const Request&, Session&);
int scenario(const Request&, Session&);
int importLists(const Request&, Session&);
int exportLists(const Request&, Session&);
int addParts(const Request&, Session&);

/// Says what went wrong on err and gives the exit code for it.
int fail(const Error&, Session&);

/// What a scenario's run showed, in lines; true if everything was as expected.
bool printRun(const Plant& plant, const Scenario& scenario, const ScenarioRun& run, bool withEvents, Session& s);

/// "0.021500000": seconds with all nanoseconds, so that equal runs give equal bytes.
std::string exactSeconds(long long nanoseconds);

/// The function of this id or name, the first for none. Fails with NotFound, listing what is known.
Expected<const SafetyFunction*> functionNamed(const Dossier& dossier, const std::string& name);

void print(const nlohmann::ordered_json&, Session&);

} // namespace ts::cli
