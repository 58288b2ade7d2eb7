#include "core/figures/gates_figure.h"

#include <algorithm>
#include <cmath>

namespace ts::figures {
namespace {

constexpr double kTitle = 18, kOpening = 42, kLine = 13, kAfter = 8, kTop = 24;
constexpr double kLeft = 92; ///< for the words of the flows
constexpr double kLoad = 120; ///< for what the way leads to
constexpr double kWidest = 132, kPart = 76, kWire = 40; ///< pitch of a part at the most and at the least, of a wire
constexpr double kJaw = 30, kWireJaw = 10; ///< width of the gates themselves

class GateDrawing {
public:
    GateDrawing(const std::vector<GateRow>& rows, const GateWords& words, double width, double height, int chosen)
        : m_rows(rows)
        , m_words(words)
        , m_chosen(chosen)
    {
        m_figure.width = width;
        m_figure.height = height;
    }

    Figure drawn()
    {
        if (m_rows.empty())
            m_figure.label({0, 18}, m_words.none, LabelSize::Body, Ink::Quiet, Align::Left, m_figure.width);
        for (const GateRow& row : m_rows)
            draw(row);
        m_figure.height = std::max(m_figure.height, m_y);
        return std::move(m_figure);
    }

private:
    double room() const { return m_figure.width - kLeft - kLoad; }

    double least(const Gate& g) const { return g.isWire ? kWire : kPart; }

    /// How many gates go in a line, from `first` on.
    std::size_t fitting(const GateRow& row, std::size_t first) const
    {
        double sum = 0;
        std::size_t end = first;
        while (end < row.gates.size() && (end == first || sum + least(row.gates[end]) <= room()))
            sum += least(row.gates[end++]);
        return end;
    }

    double lineHeight(const GateRow& row) const
    {
        return kTop + kOpening + kLine * (2.0 + static_cast<double>(row.flowWords.size())) + kAfter;
    }

    void draw(const GateRow& row)
    {
        m_figure.label({0, m_y + 14}, row.title, LabelSize::Bold);
        m_figure.label(
            {m_figure.width, m_y + 14}, row.note, LabelSize::Small, Ink::Quiet, Align::Right, m_figure.width * 0.6);
        m_y += kTitle;
        for (std::size_t first = 0; first < row.gates.size() || first == 0;) {
            const std::size_t end = fitting(row, first);
            drawLine(row, first, end);
            m_y += lineHeight(row);
            if (end == first)
                break;
            first = end;
        }
    }

    void drawLine(const GateRow& row, std::size_t first, std::size_t end)
    {
        double sum = 0, parts = 0;
        for (std::size_t k = first; k < end; ++k) {
            sum += least(row.gates[k]);
            parts += row.gates[k].isWire ? 0 : 1;
        }
        const double more = parts > 0 ? std::min(kWidest - kPart, std::max(0.0, room() - sum) / parts) : 0.0;
        const double middle = m_y + kTop + kOpening / 2;
        double x = kLeft;
        const double right = kLeft + sum + more * parts;
        m_figure.line({kLeft - 20, middle}, {right + 16, middle}, Ink::Ink, 2);
        m_figure.label(
            {0, m_y + kTop + kOpening + kLine}, m_words.wires, LabelSize::Small, Ink::Quiet, Align::Left, kLeft - 8);
        for (std::size_t f = 0; f < row.flowWords.size(); ++f)
            m_figure.label({0, flowLine(f)}, row.flowWords[f], LabelSize::Small, Ink::Quiet, Align::Left, kLeft - 8);
        for (std::size_t k = first; k < end; ++k) {
            const double pitch = least(row.gates[k]) + (row.gates[k].isWire ? 0 : more);
            gate(row, k, x + pitch / 2, pitch);
            x += pitch;
        }
        if (end == row.gates.size())
            load(row, right + 16, middle);
        else
            m_figure.label({right + 20, middle + 4}, "...", LabelSize::Bold, Ink::Quiet);
    }

    double flowLine(std::size_t f) const { return m_y + kTop + kOpening + kLine * (3.0 + static_cast<double>(f)) + 2; }

    static Ink inkOf(Gate::State s)
    {
        return s == Gate::State::Over ? Ink::Missing : s == Gate::State::Tight ? Ink::Open : Ink::Ink;
    }

    void gate(const GateRow& row, std::size_t k, double x, double pitch)
    {
        const Gate& g = row.gates[k];
        const double top = m_y + kTop, width = g.isWire ? kWireJaw : kJaw;
        const Area whole{x - width / 2, top, width, kOpening};
        jaws(g, whole);
        const double below = top + kOpening + kLine;
        const LabelSize bold = g.state == Gate::State::Over ? LabelSize::Bold : LabelSize::Figures;
        m_figure.label({x, top - 5}, g.value, g.isWire ? LabelSize::Small : bold,
            g.state == Gate::State::NotJudged ? Ink::Quiet : inkOf(g.state), Align::Middle, pitch + 10);
        m_figure.label({x, below}, g.isWire ? g.about : g.name, g.isWire ? LabelSize::Small : LabelSize::Bold,
            g.isWire ? Ink::Quiet : Ink::Ink, Align::Middle, pitch - 2);
        if (!g.isWire)
            m_figure.label({x, below + kLine}, g.about, LabelSize::Small, Ink::Quiet, Align::Middle, pitch - 4);
        for (std::size_t f = 0; f < g.flows.size() && !g.isWire; ++f)
            m_figure.label({x, flowLine(f)}, g.flows[f], LabelSize::Small, Ink::Ink, Align::Middle, pitch - 4);
        if (static_cast<int>(k) == row.worst)
            marker(x, top - 21, g.state);
        const int item = m_item++;
        const Area spot{x - pitch / 2 + 1, top - kTop, pitch - 2, lineHeight(row) - kAfter};
        if (item == m_chosen)
            m_figure.outline(spot, Ink::Ink, 2);
        m_figure.spots.push_back({spot, item, g.words});
    }

    /// The worst of its row: an arrow that points at it.
    void marker(double x, double y, Gate::State state)
    {
        Shape s;
        s.points = {{x - 5, y - 2}, {x + 5, y - 2}, {x, y + 4}};
        s.isClosed = s.isFilled = true;
        s.fill = inkOf(state);
        s.width = 0;
        m_figure.shapes.push_back(std::move(s));
    }

    void jaws(const Gate& g, const Area& whole)
    {
        if (g.state == Gate::State::NotJudged) {
            m_figure.line({whole.x, whole.y}, {whole.x, whole.y + whole.height}, Ink::Quiet, 1, true);
            m_figure.line(
                {whole.x + whole.width, whole.y}, {whole.x + whole.width, whole.y + whole.height}, Ink::Quiet, 1, true);
            return;
        }
        const double shut = std::clamp(g.hasShare ? g.used : g.state == Gate::State::Over ? 1.0 : 0.0, 0.04, 1.0);
        const double each = shut * whole.height / 2;
        const Ink fill = g.state == Gate::State::Ample ? Ink::Shade : inkOf(g.state);
        m_figure.box({whole.x, whole.y, whole.width, each}, fill, Ink::Ink, 1);
        m_figure.box({whole.x, whole.y + whole.height - each, whole.width, each}, fill, Ink::Ink, 1);
        if (g.state == Gate::State::Over)
            m_figure.hatch(whole, Ink::Panel);
    }

    void load(const GateRow& row, double x, double middle)
    {
        constexpr double kSide = 30;
        m_figure.outline({x, middle - kSide / 2, kSide, kSide}, Ink::Ink, 1.5);
        const double below = m_y + kTop + kOpening + kLine;
        m_figure.label({x, below}, row.load, LabelSize::Bold);
        m_figure.label({x, below + kLine}, row.loadAbout, LabelSize::Small, Ink::Quiet, Align::Left, kLoad - 12);
    }

    const std::vector<GateRow>& m_rows;
    const GateWords& m_words;
    int m_chosen;
    Figure m_figure;
    double m_y = 0;
    int m_item = 0;
};

} // namespace

Figure gates(const std::vector<GateRow>& rows, const GateWords& words, double width, double height, int chosen)
{
    return GateDrawing(rows, words, width, height, chosen).drawn();
}

} // namespace ts::figures
