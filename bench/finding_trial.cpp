// How well and how quickly the finder finds: on panels with one mistake drawn by a seed, with and without a symptom,
// beside a search that takes the continuity reading which splits most (any two terminals, one thing operated, an ideal
// beep; left out for large machines by "alone"). With "unlisted" instead: one end of a wire on any terminal where no
// listed mistake puts it. finding_trial FILE [COUNT] [SEED] [alone|unlisted]

#include "core/finding/knowledge.h"
#include "core/finding/search.h"
#include "core/io/dossier_file.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <map>
#include <memory>
#include <random>

namespace {

using namespace ts;
using namespace ts::finding;
using measuring::DeadState;

/// Greedy continuity over all pairs of terminals.
class Greedy {
public:
    explicit Greedy(const Knowledge& k)
        : m_k(k)
    {
        std::set<int> nodes;
        for (const PlantTerminal& t : k.plant().terminals)
            if (!t.inner)
                nodes.insert(t.node);
        m_nodes.assign(nodes.begin(), nodes.end());
        for (std::size_t s = 0; s < k.looks().states.size(); ++s)
            if (k.looks().states[s].bring.size() <= 1 && k.looks().states[s].gone.empty())
                m_states.push_back(s);
        for (const std::size_t c : k.candidates())
            for (const std::size_t s : m_states) {
                measuring::Ohms ohms = k.ohms(c, k.looks().states[s]);
                auto& parts = m_parts[{c, s}];
                for (const int n : m_nodes)
                    parts.push_back(static_cast<std::int16_t>(ohms.partOf(n)));
            }
    }

    std::size_t count(std::size_t truth, std::vector<std::size_t> left) const
    {
        std::size_t measurements = 0;
        while (left.size() > 1 && measurements < 100) {
            double most = 0;
            std::tuple<std::size_t, std::size_t, std::size_t> best;
            for (const std::size_t s : m_states) {
                std::vector<const std::vector<std::int16_t>*> parts;
                for (const std::size_t c : left)
                    parts.push_back(&m_parts.at({c, s}));
                for (std::size_t a = 0; a < m_nodes.size(); ++a)
                    for (std::size_t b = a + 1; b < m_nodes.size(); ++b) {
                        std::size_t beeps = 0;
                        for (const auto* p : parts)
                            beeps += (*p)[a] == (*p)[b];
                        const double share = static_cast<double>(std::min(beeps, parts.size() - beeps));
                        if (share > most) {
                            most = share;
                            best = {s, a, b};
                        }
                    }
            }
            if (most == 0)
                break;
            const auto& [s, a, b] = best;
            const auto answer = [&](std::size_t c) {
                const auto& p = m_parts.at({c, s});
                return p[a] == p[b];
            };
            const bool is = answer(truth);
            std::erase_if(left, [&](std::size_t c) { return answer(c) != is; });
            ++measurements;
        }
        return measurements;
    }

private:
    const Knowledge& m_k;
    std::vector<int> m_nodes;
    std::vector<std::size_t> m_states;
    std::map<std::pair<std::size_t, std::size_t>, std::vector<std::int16_t>> m_parts;
};

/// What an operator could tell: the first thing of a scenario that is not as it should be.
std::optional<Symptom> symptomOf(const Dossier& d, measuring::StandIn& built, measuring::StandIn& right)
{
    for (const Scenario& s : d.scenarios) {
        measuring::Situation in{measuring::Power::On, {}, {}, {}};
        for (const Step& step : s.steps) {
            const std::vector<std::string> words = step.action == "operate"
                ? std::vector<std::string>{"press", "release"}
                : std::vector<std::string>{step.action};
            bool isKnown = true;
            for (const std::string& w : words) {
                isKnown = isKnown && stimuliFor(right.plant(), step.target, w, 0).has_value();
                in.bring.push_back(step.target + " " + w);
            }
            if (!isKnown)
                break;
            for (const Expectation& e : s.expectations) {
                Symptom symptom{in, e.subject, e.state, false};
                if (!right.bring(in) || !built.bring(in))
                    break;
                const auto should = isSeen(right.plant(), right.trail().back(), symptom);
                const auto is = isSeen(built.plant(), built.trail().back(), symptom);
                if (should && is && *should != *is) {
                    symptom.isNot = !*is;
                    return symptom;
                }
            }
        }
    }
    return std::nullopt;
}

struct Tally {
    std::size_t runs = 0, found = 0, unexplained = 0, dangers = 0, measurements = 0, greedy = 0, members = 0;
    double worst = 0, seconds = 0;
    void print(const char* what) const
    {
        const auto n = static_cast<double>(std::max<std::size_t>(runs, 1));
        std::printf("%-16s %4zu runs, right one in the first class %5.1f %%, not on the list %zu, mean class %.2f, "
                    "measurements %.2f against %.2f (ratio %.2f, worst %.2f), dangers %zu, %.2f s each\n",
            what, runs, 100 * static_cast<double>(found) / n, unexplained, static_cast<double>(members) / n,
            static_cast<double>(measurements) / n, static_cast<double>(greedy) / n,
            static_cast<double>(measurements) / static_cast<double>(std::max<std::size_t>(greedy, 1)), worst, dangers,
            seconds / n);
    }
};

/// One end of a wire somewhere else, where no mistake of the list puts it.
int searchUnlisted(const Circuit& circuit, const Knowledge& k, int count, std::mt19937& random)
{
    std::set<std::vector<int>> listed;
    for (const measuring::Deviation& x : k.all())
        if (!x.moved.empty())
            listed.insert(measuring::netsOf(k.plant(), x.moved));
    int runs = 0, unexplained = 0, wireNamed = 0, wrong = 0;
    while (runs < count) {
        Circuit built = circuit;
        Wire& wire = built.wires[random() % built.wires.size()];
        const PlantTerminal& t = k.plant().terminals[random() % k.plant().terminals.size()];
        if (t.inner || t.node == 0)
            continue;
        (random() % 2 ? wire.to : wire.from) = {k.plant().devices[static_cast<std::size_t>(t.device)].id, t.marking};
        const auto plant = compile(built);
        if (!plant)
            continue;
        std::vector<measuring::MovedWire> moved;
        for (std::size_t w = 0; w < k.plant().wires.size(); ++w)
            if (k.plant().wires[w].id == wire.id)
                for (const PlantWire& now : plant->wires)
                    if (now.id == wire.id)
                        moved.push_back({static_cast<int>(w), std::pair{now.p, now.q}});
        if (moved.empty() || listed.contains(measuring::netsOf(k.plant(), moved))
            || measuring::netsOf(k.plant(), moved) == measuring::netsOf(k.plant(), {}))
            continue;
        measuring::StandIn panel(std::make_shared<const Plant>(*plant));
        const auto search = searchOn(*Finder::of(circuit), panel);
        if (!search)
            return EXIT_FAILURE;
        ++runs;
        const auto& f = search->finding;
        unexplained += f.isUnexplained;
        if (f.isUnexplained)
            continue;
        const std::string id = std::to_string(wire.id.value);
        const std::string first = f.classes.empty() ? "nothing" : f.classes.front().candidates.front().id;
        bool isNamed = false;
        for (const measuring::Deviation& x : k.all())
            if (x.id == first)
                isNamed = std::any_of(
                    x.touches.begin(), x.touches.end(), [&](const std::string& s) { return s == "wire/" + id; });
        (isNamed ? wireNamed : wrong) += 1;
        std::printf("  wire %s to %s:%s: %s, %zu measurements\n", id.c_str(),
            k.plant().devices[static_cast<std::size_t>(t.device)].tag.c_str(), t.marking.c_str(), first.c_str(),
            search->measurements.size());
    }
    std::printf("off the list: %d runs, not on the list %d, that wire with another mistake %d, another name %d\n", runs,
        unexplained, wireNamed, wrong);
    return EXIT_SUCCESS;
}

} // namespace

int main(int argc, char** argv)
{
    const auto file = argc > 1 ? io::loadDossier(argv[1]) : Expected<DossierFile>(failure(ErrorCode::NotFound, {}));
    if (!file)
        return EXIT_FAILURE;
    const Circuit& circuit = file->dossier.circuit;
    const int count = argc > 2 ? std::atoi(argv[2]) : 40;
    std::mt19937 random(argc > 3 ? static_cast<unsigned>(std::atoi(argv[3])) : 1u);
    const auto k = *Knowledge::of(circuit);
    if (argc > 4 && std::string_view(argv[4]) == "unlisted")
        return searchUnlisted(circuit, *k, count, random);
    std::vector<std::size_t> mistakes;
    for (const std::size_t c : k->candidates())
        if (k->all()[c].isMistake && !k->all()[c].isHarmless)
            mistakes.push_back(c);
    const bool isAlone = argc > 4;
    const auto greedy = isAlone ? nullptr : std::make_unique<Greedy>(*k);
    Tally with, without;
    std::shuffle(mistakes.begin(), mistakes.end(), random);
    for (int n = 0; n < count && n < static_cast<int>(mistakes.size()); ++n) {
        const std::size_t truth = mistakes[static_cast<std::size_t>(n)];
        const auto right = k->panel(k->asDrawn(), {});
        for (const bool isTold : {false, true}) {
            auto finder = *Finder::of(circuit);
            auto built = k->panel(truth, {});
            std::vector<std::size_t> left = k->candidates();
            const auto begin = std::chrono::steady_clock::now();
            std::optional<Symptom> symptom;
            if (isTold) {
                symptom = symptomOf(file->dossier, *built, *right);
                if (!symptom || !finder.tell({*symptom}))
                    continue;
                std::erase_if(left, [&](std::size_t c) {
                    if (isAlone)
                        return false;
                    const auto panel = k->panel(c, {});
                    if (!panel || !panel->bring(symptom->in))
                        return true;
                    const auto is = isSeen(panel->plant(), panel->trail().back(), *symptom);
                    return !is || !*is;
                });
            }
            const auto search = searchOn(finder, *built);
            if (!search)
                return EXIT_FAILURE;
            const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
            Tally& t = isTold ? with : without;
            const std::size_t by = greedy ? greedy->count(truth, left) : 0;
            ++t.runs;
            t.seconds += seconds;
            t.measurements += search->measurements.size();
            t.greedy += by;
            t.dangers += search->dangers.size();
            t.worst = std::max(t.worst,
                static_cast<double>(search->measurements.size()) / static_cast<double>(std::max<std::size_t>(by, 1)));
            t.unexplained += search->finding.isUnexplained;
            if (search->finding.classes.empty()) {
                std::printf("  %s%s: no class after %zu measurements\n", k->all()[truth].id.c_str(),
                    isTold ? " (told)" : "", search->measurements.size());
                continue;
            }
            const auto& first = search->finding.classes.front().candidates;
            t.members += first.size();
            const bool isFound = std::any_of(
                first.begin(), first.end(), [&](const measuring::Suspect& s) { return s.id == k->all()[truth].id; });
            t.found += isFound;
            if (!isFound || first.size() > 3 || (!isAlone && search->measurements.size() > 2 * by + 3))
                std::printf("  %s%s: %zu in class, first %s, %zu measurements against %zu\n",
                    k->all()[truth].id.c_str(), isTold ? " (told)" : "", first.size(), first.front().id.c_str(),
                    search->measurements.size(), by);
        }
    }
    without.print("without symptom");
    with.print("with a symptom");
    return EXIT_SUCCESS;
}
