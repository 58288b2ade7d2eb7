#include "core/figures/figure_svg.h"

#include "core/figures/scene_svg.h"

#include <fmt/format.h>

#include <array>

namespace ts::figures {
namespace {

using namespace figures;

constexpr std::array kInks{
    "#17232A", "#5b676c", "#B9C0BC", "#F6F6F4", "#4A5A60", "#0C7C74", "#A8321F", "#6E569C", "#8a6d1a"}; ///< by Ink
constexpr std::array kSizes{11.0, 13.0, 13.0, 20.0, 11.0}; ///< by LabelSize

const char* colour(Ink ink)
{
    return kInks[static_cast<std::size_t>(ink)];
}

double advance(LabelSize size)
{
    return kSizes[static_cast<std::size_t>(size)] * (size == LabelSize::Figures ? 0.65 : 0.58); // mean of the text font
}

/// At most as wide as its room, cut at a whole character.
std::string fitted(const Label& l)
{
    const auto room = static_cast<std::size_t>(l.room / advance(l.size));
    if (l.room <= 0 || l.text.size() <= room)
        return l.text;
    std::size_t cut = room > 2 ? room - 2 : 1;
    while (cut > 0 && (static_cast<unsigned char>(l.text[cut]) & 0xC0) == 0x80)
        --cut;
    return l.text.substr(0, cut) + "...";
}

std::string shapeOf(const Shape& s)
{
    std::string d;
    for (std::size_t i = 0; i < s.points.size(); ++i)
        d += fmt::format("{}{:.1f} {:.1f}", i == 0 ? "M" : "L", s.points[i].x, s.points[i].y);
    const std::string fill = s.isFilled ? colour(s.fill) : "none";
    const std::string stroke = s.width > 0
        ? fmt::format(" stroke=\"{}\" stroke-width=\"{:.1f}\"", colour(s.stroke), s.width)
        : "";
    return fmt::format("<path d=\"{}{}\" fill=\"{}\"{}{}/>\n", d, s.isClosed ? "Z" : "", fill, stroke,
        s.isDashed ? " stroke-dasharray=\"6 4\"" : "");
}

std::string labelOf(const Label& l)
{
    constexpr std::array kAnchor{"start", "middle", "end"};
    const bool isBold = l.size == LabelSize::Bold || l.size == LabelSize::Verdict;
    return fmt::format("<text x=\"{:.1f}\" y=\"{:.1f}\" text-anchor=\"{}\" font-family=\"{}\" font-size=\"{:.0f}\" "
                       "fill=\"{}\"{}>{}</text>\n",
        l.at.x, l.at.y, kAnchor[static_cast<std::size_t>(l.align)],
        l.size == LabelSize::Figures ? "Sentry Mono,DejaVu Sans Mono,monospace" : "Sentry Sans,DejaVu Sans,sans-serif",
        kSizes[static_cast<std::size_t>(l.size)], colour(l.ink), isBold ? " font-weight=\"bold\"" : "",
        escaped(fitted(l)));
}

} // namespace

std::string figureSvg(const Figure& figure, std::string_view title)
{
    std::string svg = fmt::format(
        "<svg viewBox=\"0 0 {:.0f} {:.0f}\" width=\"{:.0f}\" role=\"img\"><title>{}</title>\n", figure.width,
        figure.height, figure.width, escaped(title));
    for (const Shape& s : figure.shapes)
        svg += shapeOf(s);
    for (const Label& l : figure.labels)
        svg += labelOf(l);
    for (const Spot& s : figure.spots)
        svg += fmt::format("<rect x=\"{:.1f}\" y=\"{:.1f}\" width=\"{:.1f}\" height=\"{:.1f}\" fill=\"none\" "
                           "pointer-events=\"all\"><title>{}</title></rect>\n",
            s.area.x, s.area.y, s.area.width, s.area.height, escaped(s.words));
    return svg + "</svg>\n";
}

std::string figureSvgFile(const Figure& figure, std::string_view title)
{
    std::string svg = figureSvg(figure, title);
    svg.insert(svg.find("<svg") + 4, " xmlns=\"http://www.w3.org/2000/svg\"");
    svg.insert(svg.find("</title>") + 8,
        "\n<style>" + fontRules() + "</style>\n<rect width=\"100%\" height=\"100%\" fill=\"#fff\"/>");
    return "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n" + svg;
}

} // namespace ts::figures
