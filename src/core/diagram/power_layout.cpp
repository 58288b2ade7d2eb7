#include "core/diagram/power_layout.h"

#include "core/base/at.h"

#include <algorithm>
#include <deque>
#include <map>
#include <optional>
#include <set>

namespace ts::diagram {
namespace {

constexpr double kPitch = 40, kDevice = 44, kFlat = 16, kChannel = 28, kTrack = 5, kLeft = 40, kTop = 30;
constexpr double kBranchGap = kPitch * 0.8;

/// A terminal of a device as it is drawn.
struct Pin {
    int terminal = -1;
    int slot = 0; ///< column inside the device
    bool isTop = false;
    Point p;
};

struct PowerDevice {
    int device = 0;
    int row = -1;
    double x = 0;
    int slots = 0;
    std::vector<Pin> pins;
};

class PowerLayout {
public:
    explicit PowerLayout(const WiredGraph& graph)
        : m_graph(graph)
    {
    }

    Scene drawn()
    {
        for (std::size_t d = 0; d < m_graph.devices.size(); ++d)
            if (m_graph.devices[d].isPower)
                m_devices.push_back({static_cast<int>(d)});
        walkFromSupplies();
        deepenRows();
        findRows();
        findColumns();
        makeRoomForTracks();
        for (PowerDevice& d : m_devices)
            drawDevice(d);
        route();
        m_scene.width += kLeft;
        return std::move(m_scene);
    }

private:
    const GraphDevice& graphDevice(const PowerDevice& d) const { return m_graph.devices[at(d.device)]; }
    const GraphNet& netOf(int terminal) const { return m_graph.nets[at(m_graph.netOf(terminal))]; }

    int terminalOf(const GraphDevice& g, int bodyTerminal) const
    {
        const std::string& marking = g.body.terminals[at(bodyTerminal)].marking;
        for (int t : g.terminals)
            if (m_graph.terminals[at(t)].ref.marking == marking)
                return t;
        return -1;
    }

    bool isSupply(const GraphDevice& g) const
    {
        return std::any_of(g.body.elements.begin(), g.body.elements.end(),
            [](const Element& e) { return std::holds_alternative<SourceElement>(e.what); });
    }

    /// Rows by distance from the supplies; a device's pins get their side by which end is reached first.
    void walkFromSupplies()
    {
        std::map<int, int> rowOfNet; // net -> row of the device that feeds it
        std::deque<std::size_t> queue;
        for (std::size_t i = 0; i < m_devices.size(); ++i)
            if (isSupply(graphDevice(m_devices[i]))) {
                m_devices[i].row = 0;
                queue.push_back(i);
            }
        bool startAnew = true;
        while (startAnew) {
            while (!queue.empty()) {
                PowerDevice& d = m_devices[queue.front()];
                queue.pop_front();
                choosePins(d, rowOfNet);
                for (const Pin& pin : d.pins)
                    if (!pin.isTop && !netOf(pin.terminal).isEarth)
                        rowOfNet.try_emplace(m_graph.netOf(pin.terminal), d.row);
                // Terminal blocks come first: what hangs on the same conductors is drawn behind them.
                for (const bool blocks : {true, false})
                    for (std::size_t i = 0; i < m_devices.size(); ++i)
                        if (m_devices[i].row < 0 && isBlock(m_devices[i]) == blocks)
                            if (const int row = feedingRow(m_devices[i], rowOfNet); row >= 0) {
                                m_devices[i].row = row + 1;
                                queue.push_back(i);
                                if (blocks)
                                    for (int t : graphDevice(m_devices[i]).terminals)
                                        if (!netOf(t).isEarth)
                                            rowOfNet[m_graph.netOf(t)] = row + 1;
                            }
            }
            startAnew = false;
            for (std::size_t i = 0; i < m_devices.size() && !startAnew; ++i)
                if (m_devices[i].row < 0) { // not connected to any supply
                    m_devices[i].row = 0;
                    queue.push_back(i);
                    startAnew = true;
                }
        }
    }

    /// Every device stands below all that feed its upper terminals, by the longest way. Rings stop it after one round
    /// each.
    void deepenRows()
    {
        for (std::size_t round = 0; round < m_devices.size(); ++round) {
            bool changed = false;
            for (PowerDevice& d : m_devices)
                for (const PowerDevice& feeder : m_devices)
                    if (&feeder != &d && feeder.row >= d.row && feeder.row < static_cast<int>(m_devices.size())
                        && feeds(feeder, d)) {
                        d.row = feeder.row + 1;
                        changed = true;
                    }
            if (!changed)
                return;
        }
    }

    bool feeds(const PowerDevice& feeder, const PowerDevice& d) const
    {
        if (isBlock(feeder) && isBlock(d))
            return false;
        for (const Pin& out : feeder.pins)
            if (!out.isTop || (isBlock(feeder) && !isSupply(graphDevice(d))))
                for (const Pin& in : d.pins)
                    if (in.isTop && !isSupply(graphDevice(d))
                        && m_graph.netOf(in.terminal) == m_graph.netOf(out.terminal) && !netOf(in.terminal).isEarth)
                        return true;
        return false;
    }

    bool isBlock(const PowerDevice& d) const { return graphDevice(d).body.elements.empty(); }

    /// Row of the lowest device that feeds one of its terminals; -1 if none does yet.
    int feedingRow(const PowerDevice& d, const std::map<int, int>& rowOfNet) const
    {
        const GraphDevice& g = graphDevice(d);
        int row = -1;
        for (int t : g.terminals)
            if (const auto known = rowOfNet.find(m_graph.netOf(t)); known != rowOfNet.end() && isPowerTerminal(g, t))
                row = std::max(row, known->second);
        return row;
    }

    /// Contacts and coils of the same device belong to the control circuit.
    bool isPowerTerminal(const GraphDevice& g, int terminal) const
    {
        return std::none_of(m_graph.edges.begin(), m_graph.edges.end(), [&](const GraphEdge& e) {
            return !e.isPole && &m_graph.devices[at(e.device)] == &g && (e.a == terminal || e.b == terminal);
        });
    }

    /// A block's terminal is drawn here only if something of the power circuit hangs on it.
    bool joinsPower(int terminal) const
    {
        const auto& all = netOf(terminal).terminals;
        return std::any_of(all.begin(), all.end(), [&](int t) {
            const GraphDevice& g = m_graph.devices[at(m_graph.terminals[at(t)].device)];
            return g.isPower && !g.body.elements.empty() && isPowerTerminal(g, t);
        });
    }

    void choosePins(PowerDevice& d, const std::map<int, int>& rowOfNet)
    {
        const GraphDevice& g = graphDevice(d);
        const auto isFed = [&](int t) { return t >= 0 && rowOfNet.contains(m_graph.netOf(t)); };
        std::set<int> taken;
        const auto pin = [&](int terminal, int slot, bool isTop) {
            if (terminal >= 0 && taken.insert(terminal).second)
                d.pins.push_back({terminal, slot, isTop, {}});
        };
        int slot = 0;
        for (const GraphEdge& e : m_graph.edges)
            if (e.isPole && e.device == d.device) {
                const bool turned = isFed(e.b) && !isFed(e.a);
                pin(turned ? e.b : e.a, slot, true);
                pin(turned ? e.a : e.b, slot, false);
                ++slot;
            }
        std::vector<const Element*> loads; // known by their times
        for (const Element& e : g.body.elements) {
            const auto t = [&](int k) { return terminalOf(g, e.terminals[at(k)]); };
            const auto* transformer = std::get_if<TransformerElement>(&e.what);
            if (transformer && transformer->nominalSecondaryV > 0.0) {
                for (int k = 0; k < 2; ++k)
                    if (!taken.contains(t(k))) // a tap that two sections share has its place already
                        pin(t(k), slot++, true);
                pin(t(2), 0, false);
                pin(t(3), 1, false);
            } else if (isConverter(e)) {
                for (int k = 0; k < 4; ++k)
                    pin(t(k), k % 2, k < 2);
                slot = std::max(slot, 2);
            } else if (std::holds_alternative<DriveElement>(e.what)) {
                for (int k = 0; k < 6; ++k)
                    pin(t(k), k % 3, k < 3);
                slot = std::max(slot, 3);
            } else if (const auto* m = std::get_if<MotorElement>(&e.what)) {
                for (int k = 0; k < (m->sixTerminal ? 6 : 3); ++k)
                    pin(t(k), k, true);
                slot = std::max(slot, m->sixTerminal ? 6 : 3);
            } else if (isTimedLoad(g.body, e)) {
                loads.push_back(&e);
            } else if (transformer) { // a current transformer's secondary leads away
                pin(t(2), slot++, false);
                pin(t(3), slot++, false);
            }
        }
        for (std::size_t end : {0u, 1u}) // lines first, a star point behind them
            for (const Element* e : loads)
                if (const int t = terminalOf(g, e->terminals[end]);
                    !taken.contains(t) && (loads.size() == 1 || m_graph.terminals[at(t)].isWired))
                    pin(t, slot++, true);
        for (int t : g.terminals) // terminal blocks, the supply's terminals, a motor's earth, a monitor's taps
            if (isPowerTerminal(g, t) && !m_graph.terminals[at(t)].isPort && !taken.contains(t)
                && (!g.body.elements.empty() || joinsPower(t)))
                pin(t, slot++, g.body.elements.empty() ? true : !isSupply(g));
        d.slots = std::max(slot, 1);
    }

    double y(int row) const { return m_rowTop.at(row); }

    /// Rows that hold nothing but terminals are flat. Below each row there is a channel with a track for every line
    /// that runs sideways there.
    void findRows()
    {
        std::map<int, double> heightOf;
        for (const PowerDevice& d : m_devices)
            heightOf[d.row] = std::max(heightOf[d.row], isBlock(d) || isSupply(graphDevice(d)) ? kFlat : kDevice);
        double top = kTop;
        for (const auto& [row, height] : heightOf) {
            m_rowTop[row] = top;
            const auto tracks = m_tracksOf.find(row);
            top += height + (tracks == m_tracksOf.end() ? kChannel : std::max(kChannel, 16 + kTrack * tracks->second));
        }
        m_scene.height = top;
    }

    /// Counts the lines that leave each row sideways, and moves everything below them down.
    void makeRoomForTracks()
    {
        for (const auto& [n, ends] : endsByNet())
            m_tracksOf[ends.front().row] += runsSideways(ends);
        findRows();
        for (PowerDevice& d : m_devices)
            for (Pin& p : d.pins)
                p.p.y = isSupply(graphDevice(d)) ? y(d.row) + 14 : p.isTop ? y(d.row) : y(d.row) + kDevice;
    }

    /// A branch takes the columns of all that hangs on it: each device stands at the left of its own, what it feeds
    /// below it from left to right. Lines then run sideways only where a net feeds several branches.
    void findColumns()
    {
        std::vector<std::vector<std::size_t>> fed(m_devices.size());
        std::vector<std::size_t> roots;
        for (std::size_t i = 0; i < m_devices.size(); ++i) {
            const auto feeder = feederOf(i);
            (feeder ? fed[*feeder] : roots).push_back(i);
        }
        double x = kLeft;
        for (std::size_t root : roots)
            x = placeBranch(root, x, fed) + kBranchGap;
        std::stable_sort(m_devices.begin(), m_devices.end(),
            [](const PowerDevice& p, const PowerDevice& q) { return p.row < q.row; });
        for (PowerDevice& d : m_devices)
            placePins(d);
    }

    /// The one device below which another is drawn: of those that feed it the lowest, of these the first.
    std::optional<std::size_t> feederOf(std::size_t device) const
    {
        std::optional<std::size_t> best;
        for (std::size_t i = 0; i < m_devices.size(); ++i)
            if (i != device && m_devices[i].row < m_devices[device].row && feeds(m_devices[i], m_devices[device])
                && (!best || m_devices[i].row > m_devices[*best].row))
                best = i;
        return best;
    }

    /// Returns where the branch ends.
    double placeBranch(std::size_t device, double x, const std::vector<std::vector<std::size_t>>& fed)
    {
        PowerDevice& d = m_devices[device];
        d.x = x;
        const double own = x + (d.slots - 1) * kPitch + kPitch * 1.2;
        double end = own;
        double next = x;
        for (std::size_t child : fed[device]) {
            const double pin = firstPinFrom(d, m_devices[child]);
            next = std::max(next, x + pin * kPitch);
            end = std::max(end, placeBranch(child, next, fed));
            next = end + kBranchGap;
        }
        m_scene.width = std::max(m_scene.width, own + 50);
        return end;
    }

    /// Slot of the feeder's first lower pin that leads to the other one's first upper pin, so that a single line is
    /// straight.
    double firstPinFrom(const PowerDevice& feeder, const PowerDevice& d) const
    {
        for (const Pin& in : d.pins)
            for (const Pin& out : feeder.pins)
                if (in.isTop && m_graph.netOf(in.terminal) == m_graph.netOf(out.terminal)
                    && !netOf(in.terminal).isEarth)
                    return std::max(0, out.slot - in.slot);
        return 0;
    }

    void placePins(PowerDevice& d) const
    {
        for (Pin& p : d.pins) {
            p.p = {d.x + p.slot * kPitch, p.isTop ? y(d.row) : y(d.row) + kDevice};
            if (isSupply(graphDevice(d)))
                p.p.y = y(d.row) + 14;
        }
    }

    void drawDevice(const PowerDevice& d)
    {
        const GraphDevice& g = graphDevice(d);
        const double right = d.x + (d.slots - 1) * kPitch;
        for (const GraphEdge& e : m_graph.edges)
            if (e.isPole && e.device == d.device)
                drawPole(d, e);
        const bool hasPoles = std::any_of(m_graph.edges.begin(), m_graph.edges.end(),
            [&](const GraphEdge& e) { return e.isPole && e.device == d.device; });
        if (!hasPoles && !isBlock(d) && !isSupply(g)) {
            Symbol s;
            s.kind = SymbolKind::Device;
            s.device = g.device->id;
            s.top = {d.x - 12, y(d.row) + 10};
            s.bottom = {right + 12, y(d.row) + kDevice - 10};
            s.box = {s.top.x, s.top.y, s.bottom.x - s.top.x, s.bottom.y - s.top.y};
            m_scene.symbols.push_back(s);
            m_scene.texts.push_back({{(s.top.x + s.bottom.x) / 2, (s.top.y + s.bottom.y) / 2 + 4}, markOf(g),
                TextStyle::Marking, Anchor::Middle});
        }
        const double middle = isSupply(g) ? y(d.row) - 12 : isBlock(d) ? y(d.row) + 8 : y(d.row) + kDevice / 2 + 4;
        if (isSupply(g))
            m_scene.texts.push_back({{d.x - 18, middle}, g.device->tag, TextStyle::Tag, Anchor::Left});
        else
            m_scene.texts.push_back({{right + 20, middle}, g.device->tag, TextStyle::Tag, Anchor::Left});
        for (const Pin& p : d.pins)
            drawPin(d, p);
    }

    static std::string markOf(const GraphDevice& g)
    {
        const auto has = [&g](auto kind) {
            return std::any_of(g.body.elements.begin(), g.body.elements.end(),
                [](const Element& e) { return std::holds_alternative<decltype(kind)>(e.what); });
        };
        for (const Element& e : g.body.elements)
            if (isTimedLoad(g.body, e))
                return !g.body.movers[at(std::get<CoilElement>(e.what).mover)].turnsAtOnce
                    ? (g.body.elements.size() > 1 ? "heat 3~" : "heat 1~")
                    : std::get<CoilElement>(e.what).direct ? "M ="
                                                           : "M 1~";
        return has(MotorElement{})      ? "M 3~"
            : has(ConverterElement{})   ? "~ / ="
            : has(DriveElement{})       ? "~ / f"
            : has(TransformerElement{}) ? "~ / ~"
            : has(SenseElement{})       ? "3~ ?"
                                        : "";
    }

    void drawPole(const PowerDevice& d, const GraphEdge& e)
    {
        Symbol s;
        s.kind = e.kind;
        s.operated = e.operated;
        s.device = graphDevice(d).device->id;
        s.role = e.role;
        for (const Pin& p : d.pins)
            if (p.terminal == e.a || p.terminal == e.b) {
                (p.isTop ? s.top : s.bottom) = p.p;
                (p.isTop ? s.upper : s.lower) = m_graph.terminals[at(p.terminal)].ref;
            }
        s.box = {s.top.x - 16, s.top.y, 32, s.bottom.y - s.top.y};
        m_scene.symbols.push_back(s);
    }

    void drawPin(const PowerDevice& d, const Pin& p)
    {
        const GraphDevice& g = graphDevice(d);
        const GraphTerminal& t = m_graph.terminals[at(p.terminal)];
        const bool plain = isSupply(g) || g.body.elements.empty();
        const bool hasPoles = !plain
            && std::any_of(m_graph.edges.begin(), m_graph.edges.end(),
                [&](const GraphEdge& e) { return e.isPole && (e.a == p.terminal || e.b == p.terminal); });
        m_scene.pins.push_back({t.ref, p.p});
        if (plain) {
            Symbol s;
            s.kind = SymbolKind::Port;
            s.device = g.device->id;
            s.upper = s.lower = t.ref;
            s.top = s.bottom = p.p;
            s.box = {p.p.x - 6, p.p.y - 6, 12, 12};
            m_scene.symbols.push_back(s);
            m_scene.texts.push_back({{p.p.x + 7, p.p.y - 6}, t.ref.marking, TextStyle::Marking, Anchor::Left});
            return;
        }
        if (!hasPoles) // lead into the box
            m_scene.conductors.push_back({{p.p, {p.p.x, p.isTop ? p.p.y + 10 : p.p.y - 10}}, t.ref, false});
        m_scene.texts.push_back(
            {{p.p.x + 5, p.isTop ? p.p.y + 9 : p.p.y - 1}, t.ref.marking, TextStyle::Marking, Anchor::Left});
    }

    /// A place where a net meets a device.
    struct End {
        Point p;
        bool isTop = false;
        int row = 0;
    };

    /// Ends of every net that is wired, the one that feeds it first.
    std::map<int, std::vector<End>> endsByNet() const
    {
        std::map<int, std::vector<End>> endsOf;
        std::vector<const PowerDevice*> byRow;
        for (const PowerDevice& d : m_devices)
            byRow.push_back(&d);
        std::stable_sort(byRow.begin(), byRow.end(), [](auto* a, auto* b) { return a->row < b->row; });
        for (const PowerDevice* d : byRow)
            for (const Pin& p : d->pins) {
                if (!m_graph.terminals[at(p.terminal)].isWired)
                    continue;
                auto& list = endsOf[m_graph.netOf(p.terminal)];
                const bool isTop = p.isTop && !isSupply(graphDevice(*d));
                list.insert(isTop ? list.end() : list.begin(), {p.p, isTop, d->row});
            }
        return endsOf;
    }

    /// A net on its way: where it begins, and the track on which it runs sideways.
    struct Course {
        int net = 0;
        std::vector<End> ends;
        std::optional<double> track;
    };

    void route()
    {
        std::vector<Course> courses;
        for (auto& [n, ends] : endsByNet()) {
            if (m_graph.nets[at(n)].isEarth)
                drawEarths(n, ends);
            else if (ends.size() > 1)
                courses.push_back({n, ends, {}});
            else if (m_graph.nets[at(n)].isRail)
                drawToControl(n, ends.front().p, ends.front().isTop);
        }
        // First what must run where it runs: straight lines, and each net's way to its track.
        for (Course& c : courses) {
            const Point start = c.ends.front().p;
            for (const End& e : c.ends)
                if (e.p.x == start.x && e.p.y > start.y)
                    m_verticals.push_back({start.x, start.y, e.p.y, c.net});
            if (runsSideways(c.ends))
                takeTrack(c);
        }
        for (Course& c : courses)
            routeNet(c);
    }

    static bool runsSideways(const std::vector<End>& ends)
    {
        return std::any_of(ends.begin(), ends.end(), [&](const End& e) { return e.p.x != ends.front().p.x; });
    }

    void takeTrack(Course& c)
    {
        const Point start = c.ends.front().p;
        c.track = start.y + 9 + m_tracks[start.y]++ * kTrack;
        m_verticals.push_back({start.x, start.y, *c.track, c.net});
        for (const End& e : c.ends)
            if (!e.isTop)
                m_verticals.push_back({e.p.x, std::min(e.p.y, *c.track), std::max(e.p.y, *c.track), c.net});
    }

    void drawEarths(int n, const std::vector<End>& ends)
    {
        for (const End& end : ends) {
            Symbol s;
            s.kind = SymbolKind::Earth;
            s.upper = s.lower = m_graph.terminals[at(m_graph.nets[at(n)].terminals.front())].ref;
            s.top = end.p;
            s.bottom = {end.p.x, end.p.y + (end.isTop ? -14 : 14)};
            s.box = {end.p.x - 8, std::min(s.top.y, s.bottom.y), 16, 16};
            m_scene.symbols.push_back(s);
        }
    }

    void drawToControl(int n, Point p, bool isTop)
    {
        const TerminalRef ref = m_graph.terminals[at(m_graph.nets[at(n)].terminals.front())].ref;
        const double dy = isTop ? -14 : 14;
        m_scene.conductors.push_back({{p, {p.x, p.y + dy}}, ref, false});
        m_scene.texts.push_back(
            {{p.x, p.y + (isTop ? -18 : 26)}, m_graph.nets[at(n)].name, TextStyle::WireNumber, Anchor::Middle});
    }

    /// Whether a vertical line may run there: nothing of another net stands or runs in the way.
    bool isFree(double x, double y0, double y1, int net) const
    {
        constexpr double kClear = 7;
        for (const PowerDevice& d : m_devices)
            for (const Pin& p : d.pins)
                if (std::abs(p.p.x - x) < kClear && y(d.row) < y1 - 1
                    && y(d.row) + (isBlock(d) || isSupply(graphDevice(d)) ? kFlat : kDevice) > y0 + 1)
                    return false;
        return std::none_of(m_verticals.begin(), m_verticals.end(),
            [&](const Vertical& v) { return v.net != net && std::abs(v.x - x) < kClear && v.y0 < y1 && v.y1 > y0; });
    }

    /// The nearest place beside `x` where a vertical line is free; `x` itself if there is none.
    double freeX(double x, double y0, double y1, int net) const
    {
        for (double offset :
            {0.0, 0.5, -0.5, 0.25, -0.25, 0.75, -0.75, 1.5, -1.5, 1.25, -1.25, 2.5, -2.5, 3.5, -3.5, 4.5, -4.5})
            if (isFree(x + offset * kPitch, y0, y1, net))
                return x + offset * kPitch;
        return x;
    }

    void routeNet(Course& c)
    {
        const TerminalRef ref = m_graph.terminals[at(m_graph.nets[at(c.net)].terminals.front())].ref;
        const Point start = c.ends.front().p;
        std::map<double, int> touches{{start.x, 1}}; // on the track: how many lines come from above or below
        const auto line = [&](std::vector<Point> points) {
            m_scene.conductors.push_back({std::move(points), ref, false});
        };
        for (std::size_t i = 1; i < c.ends.size(); ++i) {
            const Point end = c.ends[i].p;
            if (end.x == start.x && isFree(end.x, start.y, end.y, c.net)) {
                line({start, end});
                ++touches[start.x];
                continue;
            }
            if (!c.track)
                takeTrack(c);
            const double y0 = *c.track, x = c.ends[i].isTop ? freeX(end.x, y0, end.y, c.net) : end.x;
            if (x == end.x)
                line({start, {start.x, y0}, {end.x, y0}, end});
            else
                line({start, {start.x, y0}, {x, y0}, {x, end.y - 4}, {end.x, end.y - 4}, end});
            ++touches[x];
            m_verticals.push_back({x, y0, end.y, c.net});
        }
        if (c.track)
            for (const auto& [x, count] : touches)
                if (count + (x > touches.begin()->first) + (x < touches.rbegin()->first) > 2)
                    m_scene.dots.push_back({{x, *c.track}, ref});
        m_scene.texts.push_back(
            {{start.x - 5, start.y + 5}, m_graph.nets[at(c.net)].name, TextStyle::WireNumber, Anchor::Right});
    }

    struct Vertical {
        double x = 0, y0 = 0, y1 = 0;
        int net = 0;
    };
    std::vector<Vertical> m_verticals;
    std::map<double, int> m_tracks; ///< channel -> tracks used
    const WiredGraph& m_graph;
    std::vector<PowerDevice> m_devices;
    std::map<int, double> m_rowTop;
    std::map<int, int> m_tracksOf; ///< row -> lines that leave it sideways
    Scene m_scene;
};

} // namespace

Scene powerDrawing(const WiredGraph& graph)
{
    return PowerLayout(graph).drawn();
}

} // namespace ts::diagram
