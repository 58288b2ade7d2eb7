#include "core/figures/path_figure.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <set>

namespace ts::figures {
namespace {

constexpr double kHeadings = 24, kLeast = 36, kValueLine = 18, kGap = 6, kLane = 22;
constexpr double kRoomForBoth = 116; ///< of a knot: its value, and beside it what comes of its faults
constexpr double kRestRoom = 108; ///< for how a motor comes to rest
constexpr double kMostWidth = 124, kLeastGutter = 40, kSmallLine = 14;
constexpr double kSmallSign = 5.6; ///< width of a sign of small text, about

/// Lines of at most so many signs.
std::vector<std::string> wrapped(const std::string& text, std::size_t signs)
{
    std::vector<std::string> lines;
    std::string line;
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = std::min(text.find(' ', at), text.size());
        const std::string word = text.substr(at, end - at);
        if (!line.empty() && line.size() + 1 + word.size() > signs) {
            lines.push_back(line);
            line.clear();
        }
        line += (line.empty() ? "" : " ") + word;
        at = end + 1;
    }
    if (!line.empty())
        lines.push_back(line);
    return lines;
}

class PathDrawing {
public:
    PathDrawing(const PathContent& content, const PathWords& words, double width, double height, int chosen)
        : m_content(content)
        , m_words(words)
        , m_chosen(chosen)
    {
        m_figure.width = width;
        m_figure.height = height;
    }

    Figure drawn()
    {
        if (m_content.knots.empty()) {
            m_figure.label({0, 18}, m_words.none, LabelSize::Body, Ink::Quiet, Align::Left, m_figure.width);
            return std::move(m_figure);
        }
        measure();
        place();
        headings();
        shortfalls();
        watches();
        for (const Way& w : m_content.ways)
            if (!isLit(w))
                way(w);
        for (const Way& w : m_content.ways)
            if (isLit(w))
                way(w);
        for (std::size_t k = 0; k < m_content.knots.size(); ++k)
            knot(k);
        return std::move(m_figure);
    }

private:
    using Column = std::vector<std::size_t>;

    bool isLit(const Way& w) const { return m_chosen >= 0 && (w.from == m_chosen || w.to == m_chosen); }
    double bottomOf(const Area& a) const { return a.y + a.height; }

    double notes() const ///< height of what is said below a frame
    {
        std::size_t most = 0;
        for (const Shortfall& s : m_content.shortfalls)
            most = std::max(most, wrapped(s.text, signsOf(s)).size());
        return most == 0 ? 0 : kSmallLine * static_cast<double>(most) + 10;
    }

    double lanes() const ///< height of the lanes along the bottom
    {
        std::set<int> watchers;
        for (const Watch& w : m_content.watches)
            watchers.insert(w.by);
        return kLane + kSmallLine * static_cast<double>(std::max<std::size_t>(watchers.size(), 1) - 1);
    }

    std::size_t signsOf(const Shortfall&) const
    {
        return static_cast<std::size_t>(std::max(18.0, (m_pitch * 2 - 16) / kSmallSign));
    }

    /// In a narrow window the word stands under the value, so that no line runs through it.
    bool isStacked() const { return m_knotWidth < kRoomForBoth; }

    void measure()
    {
        const double columns = std::max(1, m_content.columns);
        m_knotWidth = std::min(
            kMostWidth, (m_figure.width - kLeast - kRestRoom) / std::max(1.0, columns - 1) - kLeastGutter);
        m_below = kValueLine + (isStacked() ? kSmallLine : 0.0);
        m_pitch = m_content.columns > 1
            ? std::min((m_figure.width - kLeast - kRestRoom - 12) / (columns - 1), m_knotWidth + 150)
            : m_figure.width;
        m_columns.assign(static_cast<std::size_t>(columns), {});
        for (std::size_t k = 0; k < m_content.knots.size(); ++k)
            m_columns[static_cast<std::size_t>(m_content.knots[k].column)].push_back(k);
        std::size_t most = 1;
        for (const Column& c : m_columns)
            most = std::max(most, c.size());
        const double needed = kHeadings + static_cast<double>(most) * (kLeast + m_below + kGap) + lanes() + notes();
        m_figure.height = std::max(m_figure.height, needed);
        m_room = m_figure.height - kHeadings - lanes() - notes();
        m_areas.assign(m_content.knots.size(), {});
        double shares = 1;
        for (const Knot& k : m_content.knots)
            shares += k.share;
        shares = std::max(1.0, shares - 1);
        for (std::size_t c = 0; c < m_columns.size(); ++c) {
            const double spare = m_room - static_cast<double>(m_columns[c].size()) * (kLeast + m_below + kGap);
            for (std::size_t k : m_columns[c])
                m_areas[k] = {4 + m_pitch * static_cast<double>(c), 0, m_knotWidth,
                    kLeast + std::min(std::max(0.0, spare), m_room * 0.55) * m_content.knots[k].share / shares};
        }
    }

    double middleOf(std::size_t k) const { return m_areas[k].y + m_areas[k].height / 2; }

    /// From the right: each in the middle of what it leads to; then nothing may overlap.
    void place()
    {
        for (std::size_t c = m_columns.size(); c-- > 0;) {
            std::vector<double> wish;
            for (std::size_t k : m_columns[c]) {
                double sum = 0;
                int count = 0;
                for (const Way& w : m_content.ways)
                    if (static_cast<std::size_t>(w.from) == k) {
                        sum += middleOf(static_cast<std::size_t>(w.to));
                        ++count;
                    }
                wish.push_back(count > 0 ? sum / count : kHeadings + m_room / 2);
            }
            spread(m_columns[c], wish);
        }
    }

    void spread(const Column& column, const std::vector<double>& wish)
    {
        std::vector<std::size_t> order(column.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::stable_sort(
            order.begin(), order.end(), [&wish](std::size_t a, std::size_t b) { return wish[a] < wish[b] - 1e-9; });
        double used = 0, centre = 0;
        for (std::size_t i : order) {
            used += m_areas[column[i]].height + m_below;
            centre += wish[i] / static_cast<double>(order.size());
        }
        // Spread over the room that is there, so that lines have place between them.
        const double free = m_room - used, gap = std::min(free / static_cast<double>(order.size()), 72.0);
        const double whole = used + gap * static_cast<double>(order.size() - 1);
        double y = std::clamp(centre - whole / 2, kHeadings + 4, std::max(kHeadings + 4, kHeadings + m_room - whole));
        for (std::size_t i : order) {
            m_areas[column[i]].y = y;
            y += m_areas[column[i]].height + m_below + gap;
        }
    }

    void headings()
    {
        for (const auto& h : m_content.headings) {
            const double x = 4 + m_pitch * h.first, room = m_pitch * (h.last - h.first + 1) - 10;
            m_figure.label(
                {x, 14}, h.text, LabelSize::Small, Ink::Quiet, Align::Left, std::min(room, m_figure.width - x));
        }
    }

    /// A height at which a line crosses a column without running through a knot or its words.
    double freeHeight(std::size_t column, double wish) const
    {
        std::vector<double> candidates{wish};
        const auto isFree = [&](double y) {
            return std::none_of(m_columns[column].begin(), m_columns[column].end(),
                [&](std::size_t k) { return y > m_areas[k].y - 5 && y < bottomOf(m_areas[k]) + m_below - 2; });
        };
        for (std::size_t k : m_columns[column])
            candidates.insert(candidates.end(), {m_areas[k].y - 6, bottomOf(m_areas[k]) + m_below + 2});
        std::sort(candidates.begin(), candidates.end(),
            [wish](double a, double b) { return std::abs(a - wish) < std::abs(b - wish); });
        for (double y : candidates)
            if (isFree(y) && y > kHeadings - 6)
                return y;
        return wish;
    }

    void way(const Way& w)
    {
        const auto from = static_cast<std::size_t>(w.from), to = static_cast<std::size_t>(w.to);
        const Area &a = m_areas[from], &b = m_areas[to];
        const double lane = w.isPower ? -10 : -22; // in the gutter ahead of the next column
        const double out = middleOf(from) + (w.isPower ? 5 : -5), in = middleOf(to) + (w.isPower ? 5 : -5);
        Shape s;
        s.points = {{a.x + a.width, out}};
        double y = out;
        for (int c = m_content.knots[from].column + 1; c <= m_content.knots[to].column; ++c) {
            const bool isLast = c == m_content.knots[to].column;
            const double next = isLast ? in : freeHeight(static_cast<std::size_t>(c), in);
            const double x = 4 + m_pitch * c + lane;
            s.points.push_back({x, y});
            s.points.push_back({x, next});
            y = next;
        }
        s.points.push_back({b.x, in});
        s.stroke = w.isPower ? Ink::Claimed : isLit(w) ? Ink::Ink : Ink::Quiet;
        s.width = (w.isPower ? 2.5 : 1.2) + (isLit(w) ? 1.5 : 0);
        m_figure.shapes.push_back(std::move(s));
    }

    /// Along the bottom to whoever looks.
    void watches()
    {
        std::vector<int> watchers; // each with a lane of its own
        for (const Watch& w : m_content.watches) {
            const auto from = static_cast<std::size_t>(w.from), by = static_cast<std::size_t>(w.by);
            const bool lit = m_chosen >= 0 && (w.from == m_chosen || w.by == m_chosen);
            auto place = std::find(watchers.begin(), watchers.end(), w.by);
            const bool isFirst = place == watchers.end();
            if (isFirst)
                place = watchers.insert(watchers.end(), w.by);
            const double lane = m_figure.height - notes() - kLane / 2 + 2
                - kSmallLine * static_cast<double>(place - watchers.begin());
            const Area &a = m_areas[from], &b = m_areas[by];
            const double x = a.x - 34, up = bottomOf(a) - 6, eye = b.x + b.width - 14;
            Shape s;
            s.points = {{a.x, up}, {x, up}, {x, lane}, {eye, lane}, {eye, bottomOf(b)}};
            s.stroke = Ink::Reached;
            s.isDashed = true;
            s.width = lit ? 2.5 : 1;
            m_figure.shapes.push_back(std::move(s));
            if (isFirst)
                m_figure.label({eye + 8, lane - 4}, m_content.knots[by].name + " " + m_words.watched, LabelSize::Small,
                    Ink::Reached, Align::Left, std::max(60.0, m_figure.width - eye - 12));
        }
    }

    void shortfalls()
    {
        for (const Shortfall& s : m_content.shortfalls) {
            if (s.knots.empty())
                continue;
            Area all = m_areas[static_cast<std::size_t>(s.knots.front())];
            for (int k : s.knots) {
                const Area& a = m_areas[static_cast<std::size_t>(k)];
                const double right = std::max(all.x + all.width, a.x + a.width),
                             bottom = std::max(bottomOf(all), bottomOf(a));
                all.x = std::min(all.x, a.x);
                all.y = std::min(all.y, a.y);
                all.width = right - all.x;
                all.height = bottom - all.y;
            }
            Shape frame;
            frame.isClosed = frame.isDashed = true;
            frame.stroke = Ink::Missing;
            frame.width = 1.5;
            const double left = std::max(1.0, all.x - 7), top = all.y - 7, right = all.x + all.width + 7,
                         bottom = bottomOf(all) + m_below + 2;
            frame.points = {{left, top}, {right, top}, {right, bottom}, {left, bottom}};
            m_figure.shapes.push_back(std::move(frame));
            double y = m_figure.height - notes() + kSmallLine;
            Shape lead; // from the frame down to its words
            lead.points = {{left + 12, bottom}, {left + 12, y - 11}};
            lead.stroke = Ink::Missing;
            m_figure.shapes.push_back(std::move(lead));
            for (const std::string& line : wrapped(s.text, signsOf(s))) {
                m_figure.label({left, y}, line, LabelSize::Small, Ink::Missing, Align::Left, m_figure.width - left);
                y += kSmallLine;
            }
        }
    }

    /// Shapes tell them apart, as in the skyline: pale and full notched square, hollow one, broken one.
    void mark(Knot::State state, Position p)
    {
        Shape s;
        s.isClosed = true;
        switch (state) {
        case Knot::State::Untried:
            s.points = {{p.x + 3, p.y + 3}, {p.x + 7, p.y + 3}, {p.x + 7, p.y + 7}, {p.x + 3, p.y + 7}};
            s.stroke = s.fill = Ink::Quiet;
            s.isFilled = true;
            break;
        case Knot::State::NoPart:
        case Knot::State::Noticed:
            s.points = {{p.x, p.y}, {p.x + 6, p.y}, {p.x + 10, p.y + 4}, {p.x + 10, p.y + 10}, {p.x, p.y + 10}};
            s.stroke = s.fill = Ink::Reached;
            s.isFilled = state == Knot::State::Noticed;
            break;
        case Knot::State::Hidden:
            s.points = {{p.x + 1, p.y + 1}, {p.x + 9, p.y + 1}, {p.x + 9, p.y + 9}, {p.x + 1, p.y + 9}};
            s.stroke = Ink::Open;
            s.width = 2;
            break;
        case Knot::State::Lost:
            s.points = {{p.x, p.y}, {p.x + 10, p.y}, {p.x + 6, p.y + 5}, {p.x + 10, p.y + 10}, {p.x, p.y + 10}};
            s.stroke = s.fill = Ink::Missing;
            s.isFilled = true;
            break;
        }
        m_figure.shapes.push_back(std::move(s));
    }

    void body(const Knot& k, const Area& a, bool isChosen)
    {
        Shape s;
        s.isClosed = s.isFilled = true;
        s.isDashed = k.isOutside;
        s.stroke = k.isOutside ? Ink::Quiet : Ink::Ink;
        s.width = isChosen ? 3 : 1.4;
        if (k.isRound)
            for (int i = 0; i < 32; ++i) {
                const double angle = 2 * 3.14159265358979 * i / 32, r = std::min(a.height, a.width) / 2;
                s.points.push_back({a.x + r + r * std::cos(angle), a.y + a.height / 2 + r * std::sin(angle)});
            }
        else
            s.points = {{a.x, a.y}, {a.x + a.width, a.y}, {a.x + a.width, bottomOf(a)}, {a.x, bottomOf(a)}};
        m_figure.shapes.push_back(std::move(s));
    }

    void knot(std::size_t index)
    {
        const Knot& k = m_content.knots[index];
        const Area& a = m_areas[index];
        body(k, a, static_cast<int>(index) == m_chosen);
        if (k.isRound) {
            const double size = std::min(a.height, a.width), x = a.x + size + 8, room = m_figure.width - x;
            m_figure.label(
                {a.x + size / 2, middleOf(index) + 5}, k.name, LabelSize::Bold, Ink::Ink, Align::Middle, size - 4);
            m_figure.label({x, middleOf(index) - 2}, k.about, LabelSize::Small, Ink::Ink, Align::Left, room);
            m_figure.label({x, middleOf(index) + 13}, k.value, LabelSize::Small, Ink::Quiet, Align::Left, room);
        } else {
            const double middle = a.x + a.width / 2, y = middleOf(index);
            m_figure.label({middle, y - (k.about.empty() ? -5 : 2)}, k.name, LabelSize::Bold, Ink::Ink, Align::Middle,
                a.width - 8);
            m_figure.label({middle, y + 14}, k.about, LabelSize::Small, Ink::Quiet, Align::Middle, a.width - 8);
            m_figure.label({a.x, bottomOf(a) + 14}, k.isOutside ? m_words.outside : k.value,
                k.isOutside ? LabelSize::Small : LabelSize::Figures, k.isOutside ? Ink::Quiet : Ink::Ink);
            if (k.hasState && !k.isOutside) {
                const std::string& word = m_words.states[static_cast<std::size_t>(k.state)];
                const double x = a.x + (isStacked() ? 0 : 62), line = bottomOf(a) + (isStacked() ? kSmallLine : 0);
                mark(k.state, {x, line + 5});
                m_figure.label({x + 14, line + 14}, word, LabelSize::Small,
                    k.state == Knot::State::Lost ? Ink::Missing : Ink::Quiet, Align::Left, m_pitch - (x - a.x) - 18);
            }
        }
        const double right = k.isRound ? m_figure.width : a.x + a.width;
        m_figure.spots.push_back(
            {{a.x - 3, a.y - 3, right - a.x + 6, a.height + m_below}, static_cast<int>(index), k.words});
    }

    const PathContent& m_content;
    const PathWords& m_words;
    int m_chosen;
    double m_knotWidth = 0, m_pitch = 0, m_room = 0, m_below = kValueLine;
    std::vector<Column> m_columns;
    std::vector<Area> m_areas;
    Figure m_figure;
};

} // namespace

Figure functionPath(const PathContent& content, const PathWords& words, double width, double height, int chosen)
{
    return PathDrawing(content, words, width, height, chosen).drawn();
}

} // namespace ts::figures
