// sweep FILE: every fault at every moment, then second faults; what the wiring really is, held against the claim.

#include "cli/commands.h"
#include "cli/sweep_part.h"
#include "core/base/at.h"
#include "core/checks/as_built.h"
#include "core/io/dossier_file.h"
#include "core/keeping/kept_sweep.h"
#include "core/keeping/result_store.h"
#include "core/results/study_ids.h"
#include "wording/fault_texts.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <charconv>

namespace ts::cli {
namespace {

using namespace faults;
using Json = nlohmann::ordered_json;

std::string wordOf(std::string_view before, std::string_view name)
{
    return wording::word(std::string(before) + std::string(name));
}

/// "2/5": the second of five.
Expected<void> readShard(const std::string& text, SweepOptions& options)
{
    if (text.empty())
        return {};
    const std::size_t slash = text.find('/');
    int n = 0, of = 0;
    const char *begin = text.data(), *end = begin + text.size();
    if (slash != std::string::npos) {
        std::from_chars(begin, begin + slash, n);
        const auto read = std::from_chars(begin + slash + 1, end, of);
        if (read.ptr != end)
            of = 0;
    }
    if (n < 1 || of < n || of > 1000)
        return failure(ErrorCode::Refused, message("sweep.bad_shard", {text}));
    options.shard = n - 1;
    options.shards = of;
    return {};
}

Json jsonOf(const RunResult& r, Outcome outcome, Limit limit, const Plant& plant)
{
    Json j{{"outcome", fileWord(outcome, r)}, {"loss", nameOf(r.loss)}};
    if (r.loss != Loss::None)
        j["lost"] = plant.devices[at(r.lostMotor)].tag;
    j["noticed"] = nameOf(r.notice.when);
    j["grade"] = nameOf(r.notice.grade);
    if (limit != Limit::None)
        j["only_at"] = nameOf(limit);
    if (r.notice.device >= 0)
        j["by"] = plant.devices[at(r.notice.device)].tag;
    j["blocks_restart"] = r.blocks;
    return j;
}

Json jsonOf(const Sweep& s, const Plant& plant)
{
    Json list = Json::array();
    for (std::size_t k = 0; k < s.faults.size(); ++k) {
        const SweptFault& f = s.faults[k];
        const FaultOutcome& o = s.outcomes[k];
        Json j{{"fault", f.id}, {"group", f.group}, {"outcome", fileWord(o)}, {"excluded", f.isExcluded},
            {"may_be_excluded_under", f.table}};
        if (o.isRun)
            for (Moment m : kMoments)
                j["moments"][std::string(nameOf(m))] = jsonOf(o.runs[static_cast<std::size_t>(m)],
                    o.outcomes[static_cast<std::size_t>(m)], o.limits[static_cast<std::size_t>(m)], plant);
        for (int l : f.welds)
            j["welds"].push_back(plant.devices[at(plant.links[at(l)].device)].tag + " " + plant.links[at(l)].role);
        if (o.mate >= 0)
            j["counts_with"] = s.faults[at(o.mate)].id;
        if (o.hides >= 0)
            j["hides"] = s.faults[at(o.hides)].id;
        if (!o.forgottenBy.empty())
            j["forgotten_by"] = o.forgottenBy;
        list.push_back(std::move(j));
    }
    return list;
}

Json pairsOf(const Sweep& s, const Plant& plant)
{
    Json list = Json::array();
    for (const FaultPair& p : s.pairs)
        list.push_back({{"first", s.faults[at(p.first)].id}, {"second", s.faults[at(p.second)].id},
            {"moment", nameOf(p.moment)}, {"first_is_hidden", p.firstIsHidden}, {"loss", nameOf(p.run.loss)},
            {"lost", plant.devices[at(p.run.lostMotor)].tag}});
    return list;
}

Json builtOf(const FaultAnalysis& a, const Circuit& circuit)
{
    Json list = Json::array();
    for (const SubsystemBuilt& b : a.built.subsystems) {
        Json parts = Json::array();
        for (const auto& channel : b.channels)
            for (const PartCoverage& p : channel)
                parts.push_back({{"device", circuit.device(p.device) ? circuit.device(p.device)->tag : "?"},
                    {"role", p.role}, {"claimed", p.claimed}, {"built", p.built ? Json(*p.built) : Json()}});
        list.push_back({{"name", b.name}, {"structure", nameOf(b.verdict.structure)},
            {"without_exclusions", nameOf(b.withoutExclusions)}, {"parts", parts}});
    }
    return list;
}

Json cutSetsOf(const FaultAnalysis& a, const Circuit& circuit)
{
    if (!a.cutSets)
        return {};
    const auto nameOf = [&](int place) -> Json {
        if (place < 0)
            return {};
        const CutSets::Part& part = a.cutSets->parts[at(place)];
        return {{"device", circuit.device(part.device) ? circuit.device(part.device)->tag : "?"}, {"role", part.role}};
    };
    Json sets = Json::array();
    for (const CutSet& set : a.cutSets->sets)
        sets.push_back({{"first", nameOf(set.first)}, {"second", nameOf(set.second)},
            {"pfhd_per_hour", set.pfhdPerHour}, {"fault", a.sweep.faults[at(set.fault)].id},
            {"mate", set.mate < 0 ? Json() : Json(a.sweep.faults[at(set.mate)].id)}});
    return {{"pfhd_per_hour", a.cutSets->pfhdPerHour()}, {"common_cause_per_hour", a.cutSets->commonCausePerHour},
        {"makers_per_hour", a.cutSets->makersPerHour}, {"sets", sets}};
}

void printJson(const FaultAnalysis& a, const std::vector<Finding>& found, const Plant& plant, const Circuit& circuit,
    const SweepOptions& options, const std::string& key, Session& s)
{
    Json compared = Json::array();
    for (const ComparedSubsystem& c : a.compared) {
        Json conditions = Json::array();
        for (const safety::Condition& x : c.conditions)
            conditions.push_back({{"condition", safety::nameOf(x.demand)}, {"met", safety::nameOf(x.met)}});
        compared.push_back(
            {{"name", c.name}, {"conditions", conditions}, {"claimed_category_met", safety::nameOf(c.isMet)},
                {"category", c.category ? Json(safety::nameOf(*c.category)) : Json()},
                {"performance_level", c.level ? Json(safety::nameOf(*c.level)) : Json()},
                {"category_nothing_excluded",
                    c.categoryWithoutExclusions ? Json(safety::nameOf(*c.categoryWithoutExclusions)) : Json()},
                {"dc_avg_as_built", c.coverage ? Json(*c.coverage) : Json()},
                {"pfhd_markov_per_hour", c.pfhdPerHour ? Json(*c.pfhdPerHour) : Json()}});
    }
    Json findings = Json::array();
    for (const Finding& f : found)
        findings.push_back(wording::sentence(f.what));
    print({{"format", "sweep-2"}, {"function", a.sweep.function.value}, {"circuit", key}, {"shard", options.shard + 1},
              {"shards", options.shards}, {"runs", a.sweep.runCount}, {"limit_runs", a.sweep.limitRunCount},
              {"pair_runs", a.sweep.pairRunCount}, {"has_pairs", a.sweep.hasPairs}, {"run_down_s", a.sweep.runDownS},
              {"worst_rest_s", a.sweep.worstRestS}, {"skipped_in_pairs", a.sweep.skippedCount},
              {"checked_of_skipped", a.sweep.checkedCount}, {"not_running", a.sweep.notRunning},
              {"subsystems", builtOf(a, circuit)}, {"structure", nameOf(a.built.whole.structure)},
              {"structure_without_exclusions", nameOf(a.built.wholeWithoutExclusions)}, {"comparison", compared},
              {"cut_sets", cutSetsOf(a, circuit)}, {"findings", findings}, {"faults", jsonOf(a.sweep, plant)},
              {"pairs", pairsOf(a.sweep, plant)}},
        s);
}

void printCsv(const FaultAnalysis& a, const Plant& plant, const Circuit& circuit, Session& s)
{
    s.out << "fault,words,group,moment,outcome,what,excluded\n";
    for (std::size_t k = 0; k < a.sweep.faults.size(); ++k)
        for (Moment m : kMoments) {
            const SweptFault& f = a.sweep.faults[k];
            const FaultOutcome& o = a.sweep.outcomes[k];
            const auto i = static_cast<std::size_t>(m);
            s.out << csvCell(f.id) << ',' << csvCell(wording::sweptFaultText(f, circuit)) << ',' << csvCell(f.group)
                  << ',' << nameOf(m) << ',' << fileWord(o.outcomes[i], o.runs[i]) << ','
                  << csvCell(o.isRun ? wording::runText(o.runs[i], plant) : "") << ',' << (f.isExcluded ? "yes" : "no")
                  << '\n';
        }
}

void printText(const FaultAnalysis& a, const std::vector<Finding>& found, const SafetyFunction& function,
    const Plant& plant, const Circuit& circuit, Session& s)
{
    s.out << function.name << '\n';
    for (Outcome o :
        {Outcome::Lost, Outcome::Undecided, Outcome::Hidden, Outcome::Caught, Outcome::Safe, Outcome::NotRun})
        s.out << fmt::format("  {:<10} {}\n", wordOf("outcome.", nameOf(o)), a.sweep.count(o, false));
    s.out << fmt::format("  {:<10} {}\n", "excluded",
        std::count_if(a.sweep.faults.begin(), a.sweep.faults.end(), [](const SweptFault& f) { return f.isExcluded; }));
    for (Outcome o : {Outcome::Lost, Outcome::Undecided, Outcome::Hidden, Outcome::Caught})
        for (std::size_t k = 0; k < a.sweep.faults.size(); ++k) {
            const FaultOutcome& x = a.sweep.outcomes[k];
            if (x.overall != o || a.sweep.faults[k].isExcluded)
                continue;
            const auto worst = static_cast<std::size_t>(
                std::find(x.outcomes.begin(), x.outcomes.end(), o) - x.outcomes.begin());
            s.out << fmt::format("{}: {}  ({}): {}", wordOf("outcome.", nameOf(o)), a.sweep.faults[k].id,
                wordOf("moment.", nameOf(kMoments[worst])), wording::runText(x.runs[worst], plant));
            if (const std::string welds = wording::consequenceText(a.sweep.faults[k], x, kMoments[worst], plant);
                !welds.empty())
                s.out << "; " << welds;
            if (x.limits[worst] != Limit::None)
                s.out << "; only with " << wordOf("case.", nameOf(x.limits[worst]));
            if (x.mate >= 0)
                s.out << "; counts with " << a.sweep.faults[at(x.mate)].id;
            if (!x.forgottenBy.empty())
                s.out << "; forgotten by: " << x.forgottenBy;
            s.out << '\n';
        }
    s.out << '\n';
    for (const SubsystemBuilt& b : a.built.subsystems)
        s.out << fmt::format("{}: {} (nothing excluded: {})\n", b.name,
            wordOf("structure.", nameOf(b.verdict.structure)), wordOf("structure.", nameOf(b.withoutExclusions)));
    for (const ComparedSubsystem& c : a.compared) {
        if (c.conditions.empty())
            continue;
        s.out << c.name << ": category as built "
              << (c.category ? std::string(safety::nameOf(*c.category))
                             : std::string(c.isMet == safety::Met::Unknown ? "not known" : "none"))
              << (c.level ? ", PL " + std::string(safety::nameOf(*c.level)) : "") << '\n';
        for (const safety::Condition& x : c.conditions)
            s.out << fmt::format("  {:<9}{}: {}\n", wordOf("met.", safety::nameOf(x.met)), wording::sentence(x.wanted),
                wording::sentence(x.found));
    }
    for (const ComparedSubsystem& c : a.compared)
        if (c.pfhdPerHour)
            s.out << fmt::format("{}: DCavg {} as built, PFHd {} by the Markov model (beta 2 %, 20 years, checked {}; "
                                 "for comparison, not the result of ISO 13849-1)\n",
                c.name, wording::number(*c.coverage, "%"), wording::number(*c.pfhdPerHour, "1/h"),
                a.checkIntervalS > 0.0 ? "at every demand" : "once a year, as demands are not known");
    for (const CutSetLine& line :
        a.cutSets ? linesOf(*a.cutSets, a.sweep, circuit, a.checkIntervalS) : std::vector<CutSetLine>{})
        s.out << fmt::format(
            "{}{}: {}\n", line.isSum ? "" : "  ", wording::sentence(line.what), wording::number(line.perHour, "1/h"));
    for (const Finding& f : found)
        s.out << '\n' << wording::sentence(f.what) << '\n' << "  what to do: " << wording::sentence(f.mend) << '\n';
    s.out << fmt::format(
        "\nlatest rest after a demand in any run with one fault that is not lost: {}; without a fault: {}\n",
        wording::number(a.sweep.worstRestS, "s"), wording::number(a.sweep.runDownS, "s"));
    if (!a.sweep.hasPairs)
        s.out << "second faults were not tried: what is called hidden or caught may be safe\n";
    for (const auto& [limit, why] : a.sweep.limitTrouble)
        s.out << wordOf("case.", nameOf(limit)) << ": " << wording::sentence(why) << '\n';
    s.out << fmt::format("{} runs with one fault (one that has several names is run once and counted under each), {} "
                         "at the limits of times, voltage and load, {} with two\n",
        a.sweep.runCount, a.sweep.limitRunCount, a.sweep.pairRunCount)
          << wording::word("caution.text") << '\n';
}

/// What a part must fit, whatever its shard: everything that the sweep depends on.
std::string circuitOf(const Dossier& dossier, const SafetyFunction& function, SweepOptions options)
{
    options.shard = 0;
    options.shards = 1;
    options.withPairs = true;
    return io::contentHash(sweepKey(dossier, function, options));
}

Expected<Sweep> merged(const std::vector<std::string>& parts, const PartOf& whole)
{
    SecondFaults found;
    std::vector<bool> seen;
    for (const std::string& path : parts) {
        const auto text = io::systemFiles().read(path);
        if (!text)
            return Unexpected{text.error()};
        if (auto ok = addPart(*text, path, whole, seen, found); !ok)
            return Unexpected{ok.error()};
    }
    for (std::size_t k = 0; k < seen.size(); ++k)
        if (!seen[k])
            return failure(ErrorCode::Refused,
                message("sweep.missing_part", {static_cast<long long>(k + 1), static_cast<long long>(seen.size())}));
    return withSecondFaults(whole.sweep, found);
}

} // namespace

int sweep(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const auto function = functionNamed(file->dossier, r.function);
    if (!function)
        return fail(function.error(), s);
    SweepOptions options;
    options.threads = r.threads;
    options.withPairs = !r.singlesOnly && r.merge.empty();
    options.withExcluded = !r.withoutExcluded;
    if (auto ok = readShard(r.shard, options); !ok)
        return fail(ok.error(), s);
    std::size_t told = 0;
    const auto listener = [&](const SweepProgress& p) {
        const std::size_t percent = p.total ? 100 * p.done / p.total : 100;
        if (percent / 10 != told || p.done == p.total) {
            told = percent / 10;
            s.err << (p.stage == SweepProgress::Stage::Single ? "single faults: "
                    : p.stage == SweepProgress::Stage::Limits ? "at the limits: "
                                                              : "second faults: ")
                  << percent << " %\n";
        }
    };
    const io::ResultStore store(options.shards == 1 ? r.remember : std::string());
    const std::string key = keptName(
        options.withPairs ? kSecondFaults.id : kSingleFaults.id, sweepKey(file->dossier, **function, options));
    const auto kept = store.find(key);
    auto remembered = kept ? sweepFrom(*kept, file->dossier, **function) : std::nullopt;
    const bool isRemembered = remembered.has_value();
    auto swept = isRemembered ? Expected<faults::Sweep>(std::move(*remembered))
                              : faults::sweep(file->dossier, **function, options, listener, s.stop);
    if (swept && !isRemembered)
        store.keep(key, keptText(*swept));
    if (!swept)
        return fail(swept.error(), s);
    const Plant plant = *compile(file->dossier.circuit); // it has been run
    const std::string circuit = circuitOf(file->dossier, **function, options);
    if (!r.merge.empty())
        swept = merged(r.merge, {*swept, plant, circuit});
    if (!swept)
        return fail(swept.error(), s);
    const FaultAnalysis analysis = analysedSweep(file->dossier, **function, std::move(*swept));
    for (const std::string& exclusion : emptyExclusions(analysis.sweep.faults, file->dossier))
        s.err << wording::sentence(message("sweep.empty_exclusion", {exclusion})) << '\n';
    const std::vector<Finding> found = checks::asBuiltFindings(file->dossier.circuit, **function, analysis);
    if (r.json)
        printJson(analysis, found, plant, file->dossier.circuit, options, circuit, s);
    else if (r.csv)
        printCsv(analysis, plant, file->dossier.circuit, s);
    else
        printText(analysis, found, **function, plant, file->dossier.circuit, s);
    const bool isToBeMended = std::any_of(
        found.begin(), found.end(), [](const Finding& f) { return f.severity != Severity::Note; });
    return isToBeMended ? kFindings : analysis.sweep.hasPairs ? kInOrder : kNotLookedAt;
}

} // namespace ts::cli
