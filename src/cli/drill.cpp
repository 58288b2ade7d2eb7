// drill, rig: practising on a panel with something hidden in it; at the keyboard, or with instruments and an operator
// over the network.

#include "core/practice/drill.h"
#include "cli/commands.h"
#include "cli/measured_json.h"
#include "cli/rig.h"
#include "core/io/dossier_file.h"
#include "wording/finding_words.h"
#include "wording/practice_words.h"
#include "wording/wording.h"

#include <istream>

namespace ts::cli {
namespace {

using namespace practice;
using Json = nlohmann::ordered_json;

Expected<Drill> drillFor(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return Unexpected{file.error()};
    const Circuit& circuit = file->dossier.circuit;
    if (r.lesson > 0)
        return lessonOf(circuit, r.lesson, r.seed, s.stop);
    return r.make.empty() ? drillOf(circuit, r.difficulty, r.seed, s.stop) : drillWith(circuit, r.make, r.seed, s.stop);
}

struct Begun {
    Drill drill;
    PracticePanel panel;
};
Expected<Begun> begunFor(const Request& r, Session& s)
{
    auto drill = drillFor(r, s);
    if (!drill)
        return Unexpected{drill.error()};
    auto panel = panelOf(*drill, s.stop);
    if (!panel)
        return Unexpected{panel.error()};
    return Begun{*std::move(drill), *std::move(panel)};
}

Json scoreJson(const Drill& drill, const Score& score)
{
    Json lapses = Json::array();
    for (const Lapse& l : score.lapses)
        lapses.push_back({{"kind", wordOf(l.kind)}, {"what", l.what}});
    return {{"format", "drill-1"}, {"right", score.isRight}, {"hidden", suspectJson(drill.circuit, drill.hidden)},
        {"measurements", score.measurements}, {"finder_measurements", score.finderMeasurements},
        {"seconds", score.seconds}, {"finder_seconds", score.finderSeconds}, {"bits_left", drill.bitsLeft},
        {"lapses", lapses}};
}

void printScore(const Drill& drill, const Score& score, const Request& r, Session& s)
{
    if (r.json)
        return print(scoreJson(drill, score), s);
    s.out << wording::scoreText(drill, score) << '\n';
}

} // namespace

int drill(const Request& r, Session& s)
{
    auto begun = begunFor(r, s);
    if (!begun)
        return fail(begun.error(), s);
    auto& [drill, panel] = *begun;
    if (!r.json) {
        s.out << wording::word("drill.simulated") << '\n';
        for (const std::string& line : wording::symptomLines(drill.told))
            s.out << line << '\n';
        if (drill.told.empty())
            s.out << wording::word("drill.nothing_seen") << '\n';
        if (r.lesson > 0)
            s.out << wording::lessonText(r.lesson) << '\n';
        s.out << wording::word("drill.lines") << '\n';
    }
    for (std::string line; std::getline(s.in, line);) {
        if (line == "give_up" || line.starts_with("name ")) {
            const Score score = scoreOf(drill, panel, line.starts_with("name ") ? line.substr(5) : std::string());
            printScore(drill, score, r, s);
            return score.isRight ? kInOrder : kFindings;
        }
        if (!line.empty() && !r.json)
            s.out << wording::answerTo(panel, line) << '\n';
        else if (!line.empty())
            (void)wording::answerTo(panel, line);
    }
    return fail({ErrorCode::Cancelled, message("drill.ended")}, s);
}

int rig(const Request& r, Session& s)
{
    auto begun = begunFor(r, s);
    if (!begun)
        return fail(begun.error(), s);
    auto& [drill, panel] = *begun;
    return serve(panel, wording::answerTo, r.port, r.operatorPort, s);
}

} // namespace ts::cli
