// mistakes, tests, rehearse: what can be wired wrong, the plan that shows it, and the plan taken on a panel that is not
// as it should be.

#include "cli/commands.h"
#include "cli/measured_json.h"
#include "cli/test_plan.h"
#include "core/finding/search.h"
#include "core/io/dossier_file.h"
#include "core/measuring/rehearsal.h"
#include "wording/finding_words.h"
#include "wording/test_words.h"
#include "wording/wording.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

using namespace measuring;
using Json = nlohmann::ordered_json;

Json stepJson(const TestStep& t)
{
    Json j{{"id", t.id}, {"stage", isDead(t.stage) ? "dead" : wordOf(t.stage)}, {"part", wordOf(t.stage)}};
    addLook(j, t.in, t.look);
    j["expect"] = readingJson(t.expect, t.look.with);
    j["covers"] = t.covers;
    j["serves"] = t.serves;
    j["seconds"] = t.seconds;
    return j;
}

int writeMistake(const Request& r, const DossierFile& file, const std::vector<Mistake>& all, Session& s)
{
    const auto it = std::find_if(all.begin(), all.end(), [&r](const Mistake& m) { return m.id == r.make; });
    if (it == all.end())
        return fail({ErrorCode::NotFound, message("mistake.unknown", {r.make})}, s);
    auto built = builtWith(file.dossier.circuit, *it);
    if (!built)
        return fail(built.error(), s);
    DossierFile other = file;
    other.dossier.circuit = *std::move(built);
    if (const auto saved = io::saveDossier(r.output, other); !saved)
        return fail(saved.error(), s);
    s.out << r.output << ": " << wording::mistakeText(file.dossier.circuit, *it) << '\n';
    return 0;
}

void printStep(const Circuit& c, const TestStep& t, Session& s)
{
    s.out << fmt::format("{}  {:<12} {:<10} ", t.id, wording::word("stage." + std::string(wordOf(t.stage))),
        wording::word("power." + std::string(wordOf(t.in.power))))
          << wording::lookLine(c, t.in, t.look) << " = " << wording::readingText(t.expect, t.look.with) << '\n';
}

} // namespace

int mistakes(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const Circuit& c = file->dossier.circuit;
    const auto all = mistakesOf(c);
    if (!all)
        return fail(all.error(), s);
    if (!r.make.empty())
        return writeMistake(r, *file, *all, s);
    if (r.json) {
        Json list = Json::array();
        for (const Mistake& m : *all)
            list.push_back(mistakeJson(c, m));
        print({{"format", "mistakes-1"}, {"mistakes", list}}, s);
        return 0;
    }
    for (const Mistake& m : *all)
        s.out << m.id << "  " << wording::mistakeText(c, m)
              << (m.isHarmless ? "  " + wording::word("mistake.harmless") : "") << '\n';
    return 0;
}

int tests(const Request& r, Session& s)
{
    const auto planned = plannedFrom(r, s);
    if (!planned)
        return fail(planned.error(), s);
    const auto& [file, plan] = *planned;
    if (r.json) {
        Json steps = Json::array(), leftOut = Json::array(), hidden = Json::array();
        for (const TestStep& t : plan.steps)
            steps.push_back(stepJson(t));
        for (const TestStep& t : plan.leftOut)
            leftOut.push_back(stepJson(t));
        for (const Unshown& h : plan.hidden)
            hidden.push_back({{"id", h.id}, {"reason", wordOf(h.reason)}});
        print(
            {{"format", "tests-1"}, {"circuit", circuitHash(file.dossier.circuit)}, {"steps", steps},
                {"left_out", leftOut}, {"not_insulated", plan.notInsulated}, {"mistakes", plan.mistakes},
                {"faults", plan.faults}, {"harmless", plan.harmless}, {"revealed", plan.revealed}, {"hidden", hidden}},
            s);
        return 0;
    }
    for (const TestStep& t : plan.steps)
        printStep(file.dossier.circuit, t, s);
    s.out << wording::coverageText(plan) << '\n';
    for (const TestStep& t : plan.leftOut) {
        s.out << wording::word("test.left_out") << ": ";
        printStep(file.dossier.circuit, t, s);
    }
    if (!plan.notInsulated.empty())
        s.out << wording::said("test.not_insulated", {wording::joined(plan.notInsulated, ", ")}) << '\n';
    for (const Unshown& h : plan.hidden)
        s.out << wording::word("test.hidden") << ": " << h.id << ": "
              << wording::word("hidden." + std::string(wordOf(h.reason))) << '\n';
    s.out << wording::word("caution.text") << '\n';
    return 0;
}

int rehearse(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file), other = io::loadDossier(r.built);
    if (!file || !other)
        return fail(file ? other.error() : file.error(), s);
    const auto plan = planOf(file->dossier, r, s);
    if (!plan)
        return fail(plan.error(), s);
    const auto rehearsed = rehearsalOf(file->dossier.circuit, *plan, other->dossier.circuit, Until::End, s.stop);
    if (!rehearsed)
        return fail(rehearsed.error(), s);
    Json steps = Json::array(), dangers = Json::array();
    for (std::size_t k = 0; k < rehearsed->steps.size(); ++k) {
        const RehearsedStep& t = rehearsed->steps[k];
        const Instrument with = plan->steps[k].look.with;
        steps.push_back({{"id", t.id}, {"reading", t.reading ? readingJson(*t.reading, with) : Json(nullptr)},
            {"agrees", t.agrees}});
        if (!r.json && !t.agrees) {
            printStep(file->dossier.circuit, plan->steps[k], s);
            s.out << "    " << wording::word("test.reads") << ' '
                  << (t.reading ? wording::readingText(*t.reading, with) : wording::word("test.not_possible")) << '\n';
        }
    }
    for (const RehearsedDanger& d : rehearsed->dangers) {
        dangers.push_back({{"step", d.step}, {"what", std::string(wordOf(d.danger.kind)) + " " + d.danger.device},
            {"before_disagreement", d.isBeforeDisagreement}});
        if (!r.json)
            s.out << wording::word("test.danger") << ": " << d.step << ": "
                  << wording::sentence(message("danger." + std::string(wordOf(d.danger.kind)), {d.danger.device}))
                  << '\n';
    }
    const auto built = compile(other->dossier.circuit);
    if (!built)
        return fail(built.error(), s);
    StandIn panel(std::make_shared<const Plant>(*built), {}, nullptr, s.stop);
    const auto search = finding::searchAfter(file->dossier.circuit, *plan, *rehearsed, panel, s.stop);
    if (!search)
        return fail(search.error(), s);
    Json concluded = Json::array();
    if (*search && !(*search)->finding.classes.empty())
        concluded = candidatesJson(file->dossier.circuit, (*search)->finding.classes.front());
    if (r.json)
        print({{"format", "rehearse-1"}, {"steps", steps}, {"dangers", dangers}, {"concluded", concluded},
                  {"measurements", *search ? (*search)->measurements.size() : 0}},
            s);
    else if (*search)
        s.out << wording::findingText(file->dossier.circuit, (*search)->finding) << '\n';
    const bool agrees = std::all_of(
        rehearsed->steps.begin(), rehearsed->steps.end(), [](const RehearsedStep& t) { return t.agrees; });
    if (!r.json && agrees)
        s.out << wording::said("test.all_agree", {static_cast<long long>(rehearsed->steps.size())}) << '\n';
    return agrees ? 0 : kFindings;
}

} // namespace ts::cli
