// sheet: the plan of tests as a file for the phone, or a part of it as a page of paper.

#include "cli/commands.h"
#include "cli/test_plan.h"
#include "core/io/dossier_file.h"
#include "report/field_sheet.h"
#include "report/paper_sheet.h"
#include "wording/wording.h"

namespace ts::cli {
namespace {

int page(const Request& r, const Planned& planned, Session& s)
{
    const auto& [file, plan] = planned;
    const auto places = measuring::stepsFor(*r.page, plan, file.dossier.circuit, r.device);
    if (!places)
        return fail(places.error(), s);
    const std::string html = report::paperSheet(file.dossier, plan, *places, *r.page, r.device);
    if (const auto written = io::saveText(r.output, html); !written)
        return fail(written.error(), s);
    s.out << wording::said("sheet.page_written", {r.output, static_cast<long long>(places->size())}) << '\n';
    return kInOrder;
}

} // namespace

int sheet(const Request& r, Session& s)
{
    const auto planned = plannedFrom(r, s);
    if (!planned)
        return fail(planned.error(), s);
    if (r.page)
        return page(r, *planned, s);
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
