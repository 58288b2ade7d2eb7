#include "core/figures/machine_map.h"

#include <algorithm>
#include <cmath>

namespace ts::figures {
namespace {

constexpr double kTop = 26, kStep = 46, kBox = 34, kReset = 34;
constexpr double kUnder = 10; ///< the line runs below what is said of its device

class MapDrawing {
public:
    MapDrawing(const MapContent& content, const MapWords& words, double width, double height, int chosen)
        : m_content(content)
        , m_words(words)
        , m_chosen(chosen)
    {
        const std::size_t most = std::max<std::size_t>({content.demands.size(), content.rests.size(), 1});
        m_figure.width = width;
        m_figure.height = std::max(height, kTop + kStep * static_cast<double>(most) + kReset);
        m_half = width / 2;
    }

    Figure drawn()
    {
        m_figure.label({2, 12}, m_words.demands, LabelSize::Small, Ink::Quiet);
        m_figure.label({m_half + 20, 12}, m_words.rests, LabelSize::Small, Ink::Quiet);
        joins();
        for (std::size_t k = 0; k < m_content.demands.size(); ++k)
            demand(k);
        for (std::size_t k = 0; k < m_content.rests.size(); ++k)
            rest(k);
        if (!m_content.reset.empty())
            m_figure.label({2, m_figure.height - 8}, m_words.reset + " " + m_content.reset, LabelSize::Small, Ink::Ink,
                Align::Left, m_figure.width - 4);
        return std::move(m_figure);
    }

private:
    double middle(std::size_t k, std::size_t of) const
    {
        const double room = m_figure.height - kTop - kReset;
        const double step = std::min(room / static_cast<double>(std::max<std::size_t>(of, 1)), 64.0);
        return kTop + step * (static_cast<double>(k) + 0.5);
    }

    /// All that demand it lead to one line, and from there to all that must rest.
    void joins()
    {
        const double x = m_half - 4;
        double top = 1e9, bottom = 0;
        const auto join = [&](double y, double from, double to) {
            m_figure.line({from, y}, {to, y}, Ink::Claimed, 2.5);
            top = std::min(top, y);
            bottom = std::max(bottom, y);
        };
        for (std::size_t k = 0; k < m_content.demands.size(); ++k)
            if (m_content.demands[k].part == MapItem::Part::Here)
                join(middle(k, m_content.demands.size()) + kUnder, kBox - 2, x);
        for (std::size_t k = 0; k < m_content.rests.size(); ++k)
            if (m_content.rests[k].part == MapItem::Part::Here)
                join(middle(k, m_content.rests.size()), x, m_half + 20);
        if (bottom > top)
            m_figure.line({x, top}, {x, bottom}, Ink::Claimed, 2.5);
    }

    void shape(const MapItem& item, std::vector<Position> points, bool isChosen)
    {
        Shape s;
        s.points = std::move(points);
        s.isClosed = s.isFilled = true;
        s.fill = item.part == MapItem::Part::Here ? Ink::Ink : Ink::Panel;
        s.stroke = item.part == MapItem::Part::Nowhere ? Ink::Missing : Ink::Ink;
        s.isDashed = item.part == MapItem::Part::Nowhere;
        s.width = isChosen ? 3 : 1.5;
        m_figure.shapes.push_back(std::move(s));
    }

    void words(const MapItem& item, Position at, double room)
    {
        const std::string about = item.part == MapItem::Part::Here
            ? item.about
            : (item.about.empty() ? std::string() : item.about + ", ")
                + (item.part == MapItem::Part::Nowhere ? m_words.nowhere : m_words.elsewhere);
        m_figure.label({at.x, at.y - 3}, item.tag, LabelSize::Bold,
            item.part == MapItem::Part::Here ? Ink::Ink : Ink::Quiet, Align::Left, room);
        m_figure.label({at.x, at.y + 12}, about, LabelSize::Small,
            item.part == MapItem::Part::Nowhere ? Ink::Missing : Ink::Quiet, Align::Left, room);
    }

    /// A notched square: something that is pressed, opened, interrupted.
    void demand(std::size_t k)
    {
        const MapItem& item = m_content.demands[k];
        const double y = middle(k, m_content.demands.size()), h = kBox / 2 - 3;
        shape(item, {{4, y - h}, {4 + 2 * h - 8, y - h}, {4 + 2 * h, y - h + 8}, {4 + 2 * h, y + h}, {4, y + h}},
            m_chosen == static_cast<int>(k));
        const double room = m_half - kBox - 24;
        words(item, {kBox + 10, y - (item.part == MapItem::Part::Here ? kUnder - 3 : 0)}, room);
        m_figure.spots.push_back({{0, y - kBox / 2, m_half - 8, kBox}, static_cast<int>(k), item.words});
    }

    void rest(std::size_t k)
    {
        const MapItem& item = m_content.rests[k];
        const double y = middle(k, m_content.rests.size()), r = kBox / 2 - 3, x = m_half + 20 + r;
        std::vector<Position> ring;
        for (int i = 0; i < 28; ++i) {
            const double angle = 2 * 3.14159265358979 * i / 28;
            ring.push_back({x + r * std::cos(angle), y + r * std::sin(angle)});
        }
        const int number = static_cast<int>(m_content.demands.size() + k);
        shape(item, std::move(ring), m_chosen == number);
        words(item, {x + r + 8, y}, m_figure.width - x - r - 10);
        m_figure.spots.push_back({{m_half + 14, y - kBox / 2, m_figure.width - m_half - 14, kBox}, number, item.words});
    }

    const MapContent& m_content;
    const MapWords& m_words;
    int m_chosen;
    double m_half = 0;
    Figure m_figure;
};

} // namespace

Figure machineMap(const MapContent& content, const MapWords& words, double width, double height, int chosen)
{
    return MapDrawing(content, words, width, height, chosen).drawn();
}

} // namespace ts::figures
