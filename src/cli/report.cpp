// report FILE: the whole dossier as one HTML file.

#include "report/report.h"
#include "cli/standing.h"
#include "core/io/dossier_file.h"

#include <algorithm>

namespace ts::cli {

int report(const Request& r, Session& s)
{
    WorkOptions options;
    for (const Study& study : allStudies())
        if (study.cost != Cost::Long)
            options.only.push_back(study.id);
    for (const auto& [word, id] :
        {std::pair{"sweep", kSecondFaults.id}, {"orders", kOrders.id}, {"stop", kWorstStop.id}})
        if (r.all || std::find(r.with.begin(), r.with.end(), word) != r.with.end())
            options.only.push_back(id);
    const auto w = worked(r, s, options);
    if (!w)
        return fail(w.error(), s);
    const auto html = report::reportHtml(w->file.dossier, w->results, w->file.record);
    if (!html)
        return fail(html.error(), s);
    if (r.output.empty()) {
        s.out << *html;
    } else if (const auto saved = io::saveText(r.output, *html); !saved) {
        return fail(saved.error(), s);
    }
    return exitCodeOf(standingOf(w->file.dossier, w->results));
}

} // namespace ts::cli
