// skyline FILE: all safety functions on one scale, as SVG.

#include "cli/standing.h"
#include "core/figures/figure_svg.h"
#include "core/io/dossier_file.h"
#include "core/keeping/kept_sweep.h"
#include "core/studies/kept_studies.h"
#include "wording/skyline_words.h"
#include "wording/wording.h"

namespace ts::cli {

int skyline(const Request& r, Session& s)
{
    auto w = worked(r, s);
    if (!w)
        return fail(w.error(), s);
    const Dossier& d = w->file.dossier;
    const io::ResultStore store(r.remember);
    for (const SafetyFunction& f : d.functions) // second faults that were tried before count more
        if (const auto known = recalled(*studyNamed(kSecondFaults.id), sweepKey(d, f), d, about(f.id), store))
            w->results.put(kBuilt.id, about(f.id), Value::of(analysedSweep(d, f, *known->as<faults::Sweep>())));
    const figures::Figure figure = wording::skylineFigure(d, w->results, 1000, 640);
    const std::string svg = figures::figureSvgFile(figure, d.machine.name + ": " + wording::word("report.skyline"));
    if (r.output.empty()) {
        s.out << svg;
        return kInOrder;
    }
    const auto saved = io::saveText(r.output, svg);
    return saved ? kInOrder : fail(saved.error(), s);
}

} // namespace ts::cli
