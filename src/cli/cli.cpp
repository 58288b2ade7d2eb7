#include "cli/cli.h"

#include "cli/commands.h"
#include "core/base/date.h"
#include "core/checks/check.h"
#include "core/io/dossier_file.h"
#include "core/patterns/choices.h"
#include "wording/wording.h"

#include <CLI/CLI.hpp>

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <set>

namespace ts::cli {

std::string exactSeconds(long long ns)
{
    return fmt::format("{}.{:09}", ns / 1'000'000'000, ns % 1'000'000'000);
}

void print(const nlohmann::ordered_json& json, Session& s)
{
    s.out << json.dump(2) << '\n';
}

Expected<const SafetyFunction*> functionNamed(const Dossier& d, const std::string& name)
{
    if (d.functions.empty())
        return failure(ErrorCode::NotFound, message("sweep.none"));
    std::string known;
    for (const SafetyFunction& f : d.functions) {
        if (name.empty() || f.name == name || std::to_string(f.id.value) == name)
            return &f;
        known += fmt::format("{}{} ({})", known.empty() ? "" : ", ", f.id.value, f.name);
    }
    return failure(ErrorCode::NotFound, message("sweep.no_function", {name, known}));
}

int fail(const Error& error, Session& s)
{
    s.err << wording::sentence(error) << '\n';
    return error.code == ErrorCode::Cancelled ? kCancelled : kUnusable;
}

namespace {

template <class Word> std::map<std::string, Word> named(std::initializer_list<Word> words)
{
    std::map<std::string, Word> all;
    for (const Word w : words)
        all.emplace(wordOf(w), w);
    return all;
}

std::map<std::string, finding::History> histories()
{
    using finding::History;
    return named({History::Wired, History::Changed, History::RanUntilNow});
}

std::map<std::string, measuring::Occasion> occasions()
{
    using measuring::Occasion;
    return named({Occasion::EmergencyStops, Occasion::Replaced, Occasion::Feeder});
}

std::map<std::string, practice::Difficulty> difficulties()
{
    using practice::Difficulty;
    return named({Difficulty::Easy, Difficulty::Hard, Difficulty::Masked});
}

} // namespace

int run(std::span<const std::string> arguments, std::istream& in, std::ostream& out, std::ostream& err,
    std::stop_token stop, const std::string& cache)
{
    CLI::App app(
        "Verifies the protective functions around motor starters. " + wording::word("caution.text"), "tall-sentry-cli");
    app.require_subcommand(1);
    Request request;
    request.cache = cache;
    Session session{in, out, err, std::move(stop)};
    int (*command)(const Request&, Session&) = nullptr;
    const auto addBare = [&](const char* name, const char* what, int (*function)(const Request&, Session&)) {
        CLI::App* sub = app.add_subcommand(name, what);
        sub->callback([&command, function] { command = function; });
        return sub;
    };
    const auto add = [&](const char* name, const char* what, int (*function)(const Request&, Session&)) {
        CLI::App* sub = addBare(name, what, function);
        sub->add_option("FILE", request.file, "dossier to read")->required();
        return sub;
    };
    const auto json = [&](CLI::App* sub) {
        sub->add_flag("--json", request.json, "ids, words and SI numbers instead of sentences");
    };
    const auto all = [&](CLI::App* sub) {
        sub->add_flag(
            "--all", request.all, "also what takes its time: second faults, every order, the stop in its worst case");
    };
    const auto remembers = [&](CLI::App* sub) {
        sub->add_option("--remember", request.remember, "folder in which results are kept, and looked for first");
    };
    CLI::App* checked = addBare(
        "check", "verdict on each function, findings of all checks, and what was not looked at", check);
    checked->add_option("FILE", request.file, "dossier to read");
    json(checked);
    all(checked);
    remembers(checked);
    std::set<std::string> groups;
    for (const Check& c : allChecks())
        groups.insert(std::string(c.group));
    checked->add_option("--group", request.group, "only the checks of one group")->check(CLI::IsMember(groups));
    checked->add_option("--on", request.day, "what is overdue on that day (2031-05-31) instead of today")
        ->check([](const std::string& text) {
            return isDate(text) ? std::string() : wording::said("cli.no_date", {text});
        });
    checked->add_flag("--list", request.lists, "every check there is, in its group; reads no file");
    checked->add_option("--explain", request.explain, "what one check asks, reads and finds; reads no file");
    CLI::App* level = add("levels", "performance level of each function with every intermediate value", levels);
    json(level);
    all(level);
    remembers(level);
    level->add_flag("--csv", request.csv, "a line for each value");
    CLI::App* improved = add("improve", "what would make a function's level better, the least effort first", improve);
    json(improved);
    improved->add_option("--function", request.function, "id or name of the safety function; the first if left out");
    improved->add_flag("--swept", request.isSwept, "with what a sweep of faults shows; else as claimed");
    remembers(improved);
    CLI::App* sky = add("skyline", "all functions on one scale, as SVG", skyline);
    sky->add_option("--remember", request.remember, "folder of sweeps that were made before: what they found is shown");
    sky->add_option("-o,--output", request.output, "file to write; standard output if left out");
    CLI::App* sim = add("simulate", "trace of one scenario", simulate);
    json(sim);
    sim->add_option("--scenario", request.scenario, "id or name; the first if left out");
    sim->add_option("--until", request.untilS, "end in simulated seconds")->check(CLI::Range(0.001, 3600.0));
    sim->add_option("--fault", request.faults, "SITE:MODE, present from the start; may be given more than once");
    CLI::App* swept = add(
        "sweep", "every fault at every moment, then second faults; structure and coverage as built", sweep);
    json(swept);
    swept->add_flag("--csv", request.csv, "a line for each fault and moment");
    swept->add_option("--function", request.function, "id or name of the safety function; the first if left out");
    swept->add_flag("--single", request.singlesOnly, "no second faults");
    remembers(swept);
    swept->add_flag("--no-excluded", request.withoutExcluded, "excluded faults are not run");
    swept->add_option("--threads", request.threads, "0: as many as the machine has")->check(CLI::Range(0, 256));
    swept->add_option(
        "--shard", request.shard, "n/m: of the second faults only the n-th of m parts; with --json, to be merged");
    swept->add_option("--merge", request.merge, "JSON results of all parts, put together");
    CLI::App* stopped = add("stop",
        "the stop of each motor in every operating state, at the limits of times and voltage, and with each single "
        "fault",
        stopCategory);
    json(stopped);
    stopped->add_option("--function", request.function, "id or name of the safety function; the first if left out");
    stopped->add_flag("--no-faults", request.withoutFaults, "only the circuit without faults");
    stopped->add_option("--threads", request.threads, "0: as many as the machine has")->check(CLI::Range(0, 256));
    CLI::App* explored = add("explore",
        "every order of operation of every motor, with every single fault, and each interlock alone", explore);
    json(explored);
    explored->add_flag("--csv", request.csv, "a line for each claim");
    explored->add_option("--motor", request.motor, "tag; all motors if left out");
    explored->add_flag("--no-faults", request.withoutFaults, "only the circuit without faults, and its interlocks");
    explored->add_option("--bound", request.bound, "settled states after which a search gives up")
        ->check(CLI::Range(1, 1'000'000));
    explored->add_option("--threads", request.threads, "0: as many as the machine has")->check(CLI::Range(0, 256));
    CLI::App* rep = add("report", "self-contained HTML", report);
    rep->add_option("--with", request.with,
           "sweep (second faults, too), orders, stop: run before, and reported too; may be given more than once")
        ->check(CLI::IsMember({"sweep", "orders", "stop"}));
    rep->add_option("-o,--output", request.output, "file to write; standard output if left out");
    remembers(rep);
    CLI::App* drawing = add("draw", "the control circuit as SVG, fonts inside", draw);
    drawing->add_flag("--power", request.power, "the power circuit instead");
    drawing->add_flag("--ladder", request.ladder, "as rungs of a ladder instead of current paths");
    drawing->add_option("-o,--output", request.output, "file to write; standard output if left out");
    CLI::App* meant = add("change", "what can be meant with a device, an element or a wire; or one of it done", change);
    meant->add_option("WHAT", request.what, "what to do; left out: a list of what there is");
    meant->add_option("--at", request.at, "\"Q1\", \"Q1 21-22\" or \"wire 17\" (its id); left out: the whole circuit");
    meant->add_option("--with", request.with, "QUESTION=ANSWER; may be given more than once");
    meant->add_option("-o,--output", request.output, "dossier to write; left out: only what it would mean is said");
    json(addBare("patterns", "what starters can be made of: every choice and its words", patterns));
    CLI::App* fresh = addBare("new", "a machine from patterns, with its scenarios run", newMachine);
    fresh->add_option("PATTERN", request.pattern, "direct, reversing, star_delta, soft_starter or drive")->required();
    fresh->add_option(
        "--with", request.with, "NAME=WORD, as the command patterns lists them; 2.NAME=WORD for a second starter");
    fresh->add_flag("--advised", request.isAdvised, "what is not said is what a careful person would choose");
    fresh->add_option("-o,--output", request.output, "dossier to write")->required();
    CLI::App* sized = add("size", "what each device and wire needs of what it may take, the worst first", size);
    json(sized);
    sized->add_flag("--csv", request.csv, "a line for each figure");
    CLI::App* wrong = add("mistakes", "what can be wired wrong, one by one", mistakes);
    json(wrong);
    auto* make = wrong->add_option("--make", request.make, "id of one: the panel with it is written");
    auto* made = wrong->add_option("-o,--output", request.output, "dossier to write");
    make->needs(made);
    made->needs(make);
    CLI::App* planned = add("tests", "the plan by which a built panel is proved, and what it shows", tests);
    json(planned);
    remembers(planned);
    CLI::App* rehearsed = add("rehearse", "the plan taken on a panel that may be another one", rehearse);
    rehearsed->add_option("--built", request.built, "dossier of the panel as it is")->required();
    json(rehearsed);
    remembers(rehearsed);
    CLI::App* found = add("find", "what is the matter with a panel, by the fewest looks", find);
    found->add_option("--built", request.built, "dossier of the panel as it is; left out: what to look at first");
    found->add_option("--symptom", request.symptoms, "what was seen: \"operate S2 -> not M1 driven, P1 lit\"");
    found->add_option("--history", request.history, "what it was until now (wired if left out)")
        ->transform(CLI::CheckedTransformer(histories()));
    json(found);
    const auto hides = [&](CLI::App* sub) {
        auto* id = sub->add_option("--mistake", request.make, "id of what is hidden; left out: drawn by the seed");
        sub->add_option("--seed", request.seed, "another number, another drill");
        sub->add_option("--lesson", request.lesson, "of the course: 1 to 12")
            ->check(CLI::Range(1, practice::kLessons))
            ->excludes(id);
        sub->add_option("--difficulty", request.difficulty, "easy, hard or masked (easy if left out)")
            ->transform(CLI::CheckedTransformer(difficulties()))
            ->excludes(id);
    };
    CLI::App* practised = add("drill", "practise: find what is hidden in the panel, line by line", drill);
    hides(practised);
    json(practised);
    CLI::App* rigged = add("rig", "the same panel with a meter (SCPI) and an operator on two ports", rig);
    hides(rigged);
    rigged->add_option("--port", request.port, "of the meter; 0: a free one")->check(CLI::Range(0, 65535));
    rigged->add_option("--operator-port", request.operatorPort, "of the operator; 0: a free one")
        ->check(CLI::Range(0, 65535));
    CLI::App* sheeted = add("sheet", "the plan of tests for the phone, as one file that runs on its own", sheet);
    CLI::Option_group* sheetOf = sheeted->add_option_group("of");
    sheetOf->add_flag("--tests", request.tests, "of the steps that are open, for the phone");
    sheetOf->add_option("--page", request.page, "a page of paper: emergency_stops, replaced (with --device), feeder")
        ->transform(CLI::CheckedTransformer(occasions()));
    sheetOf->require_option(1);
    sheeted->add_option("--device", request.device, "tag of what was replaced");
    sheeted->add_option("-o,--output", request.output, "HTML file to write")->required();
    remembers(sheeted);
    CLI::App* kept = add("record", "readings of a test plan into the record", record);
    CLI::Option_group* taken = kept->add_option_group("what");
    taken->add_option("--add", request.results, "results (JSON, sentry-results-1)");
    taken->add_flag("--stops", request.takesStops, "stopping times of ten runs into the functions they are of");
    taken->require_option(1);
    kept->add_option("-o,--output", request.output, "dossier to write")->required();
    remembers(kept);
    CLI::App* again = add("retest", "steps of the test plan that are open: not done, not valid any more", retest);
    json(again);
    remembers(again);
    CLI::App* bridged = add("bridge", "before two terminals are joined for a while: what is lost by it", bridge);
    bridged->add_option("--between", request.between, "terminal, as S10:21")->required();
    bridged->add_option("--and", request.andEnd, "the other one")->required();
    json(bridged);
    bridged->add_flag("--close", request.closes, "it is off again: the entry that says so");
    CLI::Option* entered = bridged->add_option("-o,--output", request.output, "dossier with the entry in its record");
    CLI::Option* when = bridged->add_option("--on", request.on, "when it is entered, ISO 8601");
    CLI::Option* who = bridged->add_option("--who", request.who, "who enters it");
    CLI::Option* why = bridged->add_option("--reason", request.reason, "why it is needed, or what was tested after it");
    bridged->add_option("--owner", request.owner, "who answers for it (who enters it, if left out)");
    bridged->add_option("--until", request.until, "the day by which it is off, ISO 8601");
    entered->needs(when)->needs(who)->needs(why);
    CLI::App* other = add("plan", "other choices for a machine that was made from patterns and edited since", replan);
    other->add_option("--with", request.with, "NAME=WORD, or 2.NAME=WORD; a starter that is not there is added");
    other->add_option("--without", request.without, "number of a starter that is taken out")
        ->check(CLI::Range(1, ts::patterns::MachinePlan::kMostStarters));
    other->add_option("-o,--output", request.output, "dossier to write; left out: only what would be lost is said");
    CLI::App* imported = addBare("import", "a dossier from a device list and a wire list", importLists);
    imported->add_option("--devices", request.devices, "device list (CSV)")->required();
    imported->add_option("--wires", request.wires, "wire list (CSV)")->required();
    imported->add_option("--parts", request.parts, "parts list (CSV, or JSON if the name ends so)");
    imported->add_option("-o,--output", request.output, "dossier to write")->required();
    CLI::App* seen = add("scenario", "what scenarios a circuit has in it", scenario);
    seen->add_flag("--suggest", request.suggests, "says what each hand does, found out by trying");
    seen->add_option(
        "--from-run", request.fromRun, "file of steps, \"2.0 press S2\" a line: a run of them, kept as seen");
    seen->add_option("--name", request.name, "what the scenario is called");
    seen->add_option("--until", request.untilS, "length in s; 5 s behind the last step if left out");
    seen->add_option("-o,--output", request.output, "dossier to write, with scenarios and functions that show it");
    CLI::App* typed = addBare("take", "a panel that exists, typed line by line as it is read off", takeNotes);
    typed->add_option("NOTES", request.file, "text: \"Q1 = contactor\", \"Q1 13 > S2 14\"")->required();
    typed->add_option("--into", request.into, "dossier that is added to; a new one if left out");
    typed->add_option("-o,--output", request.output, "dossier to write")->required();
    CLI::App* outward = add("export", "lists of a dossier's devices, wires and parts", exportLists);
    outward->add_option("--notes", request.notes, "the circuit as the lines that take reads");
    outward->add_option("--devices", request.devices, "device list to write (CSV)");
    outward->add_option("--wires", request.wires, "wire list to write (CSV)");
    outward->add_option("--parts", request.parts, "parts list to write (CSV, or JSON if the name ends so)");
    CLI::App* library = add("parts", "adds a parts list to a dossier's own", addParts);
    library->add_option("--add", request.parts, "parts list (CSV, or JSON if the name ends so)")->required();
    library->add_option("-o,--output", request.output, "dossier to write")->required();

    std::vector<std::string> reversed(arguments.rbegin(), arguments.rend());
    try {
        app.parse(reversed);
    } catch (const CLI::ParseError& e) {
        const int code = app.exit(e, out, err);
        return code == 0 ? kInOrder : kUnusable;
    }
    return command(request, session);
}

} // namespace ts::cli
