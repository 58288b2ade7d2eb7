// draw FILE: the control or the power circuit as SVG.

#include "cli/commands.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/figures/scene_svg.h"
#include "core/io/dossier_file.h"
#include "wording/wording.h"

namespace ts::cli {

int draw(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const auto graph = diagram::wiredGraph(file->dossier.circuit);
    if (!graph)
        return fail(graph.error(), s);
    const diagram::School school = r.ladder ? diagram::School::Ladder : diagram::School::CurrentPaths;
    const diagram::Scene scene = r.power ? diagram::powerDrawing(*graph)
                                         : diagram::controlDrawing(*graph, school).scene;
    const std::string title = file->dossier.machine.name + ": "
        + wording::word(r.power ? "report.power" : "report.control");
    const std::string svg = figures::sceneSvgFile(scene, title);
    if (r.output.empty()) {
        s.out << svg;
        return kInOrder;
    }
    const auto saved = io::saveText(r.output, svg);
    return saved ? kInOrder : fail(saved.error(), s);
}

} // namespace ts::cli
