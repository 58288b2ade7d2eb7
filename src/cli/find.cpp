// find: what is the matter with a panel, by the fewest looks; or, without one, what to look at first.

#include "cli/commands.h"
#include "cli/measured_json.h"
#include "core/finding/search.h"
#include "core/io/dossier_file.h"
#include "wording/finding_words.h"
#include "wording/test_words.h"
#include "wording/wording.h"

namespace ts::cli {
namespace {

using namespace finding;
using Json = nlohmann::ordered_json;

Json classesJson(const Circuit& c, const finding::Finding& f)
{
    Json classes = Json::array();
    for (const Class& each : f.classes)
        classes.push_back({{"share", each.share}, {"candidates", candidatesJson(c, each)}});
    return classes;
}

Json lookJson(const measuring::Situation& in, const measuring::Look& look, const measuring::Reading* reading)
{
    Json j = Json::object();
    addLook(j, in, look);
    if (reading)
        j["reading"] = readingJson(*reading, look.with);
    return j;
}

int printJson(const Circuit& c, const Search& search, Session& s)
{
    Json measurements = Json::array(), dangers = Json::array();
    for (const Measurement& m : search.measurements) {
        Json one = lookJson(m.taken.in, m.taken.look, &m.taken.reading);
        one["bits"] = m.bits;
        measurements.push_back(std::move(one));
    }
    for (const SearchDanger& d : search.dangers)
        dangers.push_back(
            {{"measurement", d.measurement}, {"what", std::string(wordOf(d.danger.kind)) + " " + d.danger.device}});
    Json pairs = Json::array();
    for (const auto& pair : search.finding.pairs)
        pairs.push_back(
            candidatesJson(c, {0, {pair.begin(), pair.end()}, std::vector<std::vector<measuring::Suspect>>(2)}));
    Json next = nullptr;
    if (search.finding.next)
        next = lookJson(search.finding.next->in, search.finding.next->look, nullptr);
    print({{"format", "find-1"}, {"measurements", measurements}, {"classes", classesJson(c, search.finding)},
              {"dangers", dangers}, {"unexplained", search.finding.isUnexplained}, {"pairs", pairs},
              {"not_on_the_list", search.finding.notOnTheList}, {"concluded", search.finding.isConcluded},
              {"next", next}},
        s);
    return kInOrder;
}

int printText(const Circuit& c, const Search& search, Session& s)
{
    for (const Measurement& m : search.measurements)
        s.out << wording::lookLine(c, m.taken.in, m.taken.look) << " = "
              << wording::readingText(m.taken.reading, m.taken.look.with) << '\n';
    for (const SearchDanger& d : search.dangers)
        s.out << wording::word("test.danger") << ": " << d.measurement + 1 << ": "
              << wording::sentence(message("danger." + std::string(wordOf(d.danger.kind)), {d.danger.device})) << '\n';
    s.out << wording::findingText(c, search.finding) << '\n' << wording::word("caution.text") << '\n';
    return kInOrder;
}

} // namespace

int find(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const Circuit& c = file->dossier.circuit;
    auto finder = Finder::of(c, r.history);
    if (!finder)
        return fail(finder.error(), s);
    for (const std::string& text : r.symptoms) {
        const auto symptoms = symptomsFrom(finder->plant(), text);
        if (!symptoms)
            return fail(symptoms.error(), s);
        if (const auto told = finder->tell(*symptoms, s.stop); !told)
            return fail(told.error(), s);
    }
    Search search;
    if (r.built.empty()) {
        auto finding = finder->think(s.stop);
        if (!finding)
            return fail(finding.error(), s);
        search.finding = *std::move(finding);
    } else {
        const auto other = io::loadDossier(r.built);
        const auto built = other ? compile(other->dossier.circuit) : Expected<Plant>(Unexpected{other.error()});
        if (!built)
            return fail(built.error(), s);
        measuring::StandIn panel(std::make_shared<const Plant>(*built), {}, nullptr, s.stop);
        auto searched = searchOn(*std::move(finder), panel, s.stop);
        if (!searched)
            return fail(searched.error(), s);
        search = *std::move(searched);
    }
    return r.json ? printJson(c, search, s) : printText(c, search, s);
}

} // namespace ts::cli
