// report FILE: the whole dossier as one HTML file.

#include "core/report/report.h"
#include "cli/commands.h"
#include "core/io/dossier_file.h"
#include "wording/speech.h"

#include <algorithm>

namespace ts::cli {
namespace {

template <class T> Expected<void> take(Expected<T> found, std::vector<std::shared_ptr<const T>>& into)
{
    if (!found)
        return Unexpected{found.error()};
    into.push_back(std::make_shared<const T>(std::move(*found)));
    return {};
}

/// What --with asks for, run before it is reported.
Expected<void> runAll(const Dossier& dossier, const Request& r, Session& s, report::Tried& results)
{
    const auto wants = [&r](std::string_view what) {
        return std::find(r.with.begin(), r.with.end(), what) != r.with.end();
    };
    for (const SafetyFunction& f : dossier.functions) {
        if (wants("sweep"))
            if (auto ok = take(faultAnalysis(dossier, f, {.withExcluded = false}, {}, s.stop), results.sweeps); !ok)
                return ok;
        if (wants("stop"))
            if (auto ok = take(stopStudy(dossier, f, {}, {}, s.stop), results.stops); !ok)
                return ok;
    }
    exploration::Request request;
    request.withFaults = false;
    return wants("orders") ? take(exploration::explore(dossier, request, {}, s.stop), results.explored)
                           : Expected<void>{};
}

} // namespace

int report(const Request& r, Session& s)
{
    const auto all = analysed(r, s);
    if (!all)
        return fail(all.error(), s);
    report::Tried results;
    if (const auto ok = runAll(all->file.dossier, r, s, results); !ok)
        return fail(ok.error(), s);
    const auto html = report::reportHtml(all->file.dossier, all->analysis, wording::speech(), results);
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
