// sheet: the plan of tests as a file for the phone.

#include "cli/commands.h"
#include "cli/test_plan.h"
#include "core/io/dossier_file.h"
#include "report/field_sheet.h"
#include "wording/wording.h"

namespace ts::cli {

int sheet(const Request& r, Session& s)
{
    const auto planned = plannedFrom(r, s);
    if (!planned)
        return fail(planned.error(), s);
    const auto& [file, plan] = *planned;
    const auto html = report::fieldSheet(file, plan);
    if (!html)
        return fail(html.error(), s);
    if (const auto written = io::saveText(r.output, *html); !written)
        return fail(written.error(), s);
    const auto states = measuring::standingOf(plan, file);
    const auto open = std::count_if(states.begin(), states.end(), [](const auto& x) { return x.open.has_value(); });
    s.out << wording::said("sheet.written", {r.output, static_cast<long long>(open)}) << '\n';
    return kInOrder;
}

} // namespace ts::cli
