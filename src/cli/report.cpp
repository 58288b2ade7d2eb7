// report FILE: the whole dossier as one HTML file.

#include "cli/commands.h"
#include "core/io/dossier_file.h"
#include "core/report/report.h"
#include "wording/speech.h"

namespace ts::cli {

int report(const Request& r, Session& s)
{
    const auto all = analysed(r, s);
    if (!all)
        return fail(all.error(), s);
    const auto html = report::reportHtml(all->file.dossier, all->analysis, wording::speech());
    if (!html)
        return fail(html.error(), s);
    if (r.output.empty()) {
        s.out << *html;
    } else if (const auto saved = io::saveText(r.output, *html); !saved) {
        return fail(saved.error(), s);
    }
    return all->analysis.findings.empty() ? kInOrder : kFindings;
}

} // namespace ts::cli
