// skyline FILE: all safety functions on one scale, as SVG.

#include "cli/commands.h"
#include "core/analysis/kept_sweep.h"
#include "core/io/dossier_file.h"
#include "core/io/result_store.h"
#include "core/report/figure_svg.h"
#include "wording/skyline_words.h"
#include "wording/wording.h"

namespace ts::cli {

int skyline(const Request& r, Session& s)
{
    const auto all = analysed(r, s);
    if (!all)
        return fail(all.error(), s);
    const Dossier& d = all->file.dossier;
    const io::ResultStore store(r.remember);
    std::vector<std::optional<FaultAnalysis>> kept;
    std::vector<const FaultAnalysis*> swept;
    for (const SafetyFunction& f : d.functions) {
        kept.emplace_back();
        if (const auto text = store.find(sweepKey(d, f)))
            if (auto sweep = sweepFrom(*text, d, f))
                kept.back() = analysedSweep(d, f, std::move(*sweep));
    }
    for (const auto& k : kept)
        swept.push_back(k ? &*k : nullptr);
    const figures::Figure figure = figures::skyline(
        wording::towersOf(d, all->analysis, swept), wording::skylineWords(), 1000, 640);
    const std::string svg = report::figureSvgFile(
        figure, d.machine.name + ": " + wording::word("report.skyline").toStdString());
    if (r.output.empty()) {
        s.out << svg;
        return kInOrder;
    }
    const auto saved = io::saveText(r.output, svg);
    return saved ? kInOrder : fail(saved.error(), s);
}

} // namespace ts::cli
