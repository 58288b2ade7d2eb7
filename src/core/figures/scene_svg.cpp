#include "core/figures/scene_svg.h"

#include "core/base/plain_text.h"
#include "core/diagram/symbols.h"
#include "core/figures/fonts.h"

#include <fmt/format.h>

namespace ts::figures {
namespace {

using namespace diagram;

bool isClosedAtRest(SymbolKind kind)
{
    return kind != SymbolKind::NormallyOpen && kind != SymbolKind::MainContact;
}

std::string pathData(const std::vector<Point>& points, bool closed)
{
    std::string d;
    for (std::size_t i = 0; i < points.size(); ++i)
        d += fmt::format("{}{:.1f} {:.1f}", i == 0 ? "M" : "L", points[i].x, points[i].y);
    return d + (closed ? "Z" : "");
}

} // namespace

std::string escaped(std::string_view text)
{
    std::string out;
    for (char c : plainText(text, Lines::Many))
        switch (c) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        case '\'':
            out += "&#39;";
            break;
        default:
            out += c;
        }
    return out;
}

std::string sceneSvg(const Scene& scene, std::string_view title)
{
    std::string svg = fmt::format(
        "<svg viewBox=\"0 0 {:.0f} {:.0f}\" width=\"{:.0f}\" role=\"img\"><title>{}</title>\n", scene.width,
        scene.height, scene.width, escaped(title));
    for (const Conductor& c : scene.conductors)
        svg += fmt::format("<path class=\"{}\" d=\"{}\"/>\n", c.isRail ? "rail" : "wire", pathData(c.points, false));
    for (const Symbol& s : scene.symbols) {
        const diagram::SymbolShape shape = shapeOf(s, isClosedAtRest(s.kind));
        for (const StrokePath& p : shape.paths)
            svg += fmt::format("<path class=\"{}\" d=\"{}\"/>\n", p.part == StrokePart::Linkage ? "link" : "wire",
                pathData(p.points, p.isClosed));
        for (const Ring& r : shape.rings)
            svg += fmt::format("<circle class=\"ring\" cx=\"{:.1f}\" cy=\"{:.1f}\" r=\"{:.1f}\"/>\n", r.centre.x,
                r.centre.y, r.radius);
    }
    for (const Dot& d : scene.dots)
        svg += fmt::format("<circle class=\"dot\" cx=\"{:.1f}\" cy=\"{:.1f}\" r=\"2.5\"/>\n", d.at.x, d.at.y);
    for (const Text& t : scene.texts) {
        static constexpr const char* kClass[] = {"tag", "marking", "number", "note"};
        static constexpr const char* kAnchor[] = {"start", "middle", "end"};
        svg += fmt::format("<text class=\"{}\" x=\"{:.1f}\" y=\"{:.1f}\" text-anchor=\"{}\">{}</text>\n",
            kClass[static_cast<int>(t.style)], t.at.x, t.at.y, kAnchor[static_cast<int>(t.anchor)], escaped(t.text));
    }
    return svg + "</svg>\n";
}

const char* const
    kDrawingStyle = R"(.wire,.rail,.ring{fill:none;stroke:#17232A;stroke-width:1.5} .rail{stroke-width:2.5} )"
                    R"(.link{fill:none;stroke:#17232A;stroke-dasharray:3 2} .dot{fill:#17232A}
)"
                    R"(text{font-family:"Sentry Mono","DejaVu Sans Mono",monospace;font-size:11px;fill:#17232A} )"
                    R"(text.tag{font-size:13px;font-weight:bold} text.number,text.note{fill:#5b676c}
)";

std::string fontRules()
{
    std::string rules;
    for (const auto& [family, weight, bytes] : reportFonts())
        rules += fmt::format("@font-face{{font-family:\"{}\";font-weight:{};src:url(data:font/otf;base64,{})}}\n",
            family, weight, base64(bytes));
    return rules;
}

std::string sceneSvgFile(const Scene& scene, std::string_view title)
{
    std::string svg = sceneSvg(scene, title);
    svg.insert(svg.find("<svg") + 4, " xmlns=\"http://www.w3.org/2000/svg\"");
    const std::size_t content = svg.find("</title>") + 8;
    svg.insert(content,
        "\n<style>" + fontRules() + kDrawingStyle + "</style>\n<rect width=\"100%\" height=\"100%\" fill=\"#fff\"/>");
    return "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n" + svg;
}

} // namespace ts::figures
