#include "wording/gate_words.h"

#include "wording/wording.h"

#include <fmt/format.h>

#include <algorithm>

namespace ts::wording {
namespace {

using figures::Gate;
using sizing::Headroom;
using sizing::Sized;
using sizing::Station;
using sizing::Walk;

constexpr double kTight = 0.9;

bool isOf(DeviceId device, WireId wire, const Station& s)
{
    return s.device ? device == s.device : wire == s.wire && !device;
}

std::string percent(double used)
{
    return used > 9.99 ? fmt::format("{:.0f} x", used) : fmt::format("{:.0f} %", 100 * used);
}

/// Not met before met, then the largest share.
std::vector<const Headroom*> judged(const Sized& sized, const Station& s)
{
    std::vector<const Headroom*> all;
    for (const Headroom& h : sized.all)
        if (isOf(h.device, h.wire, s))
            all.push_back(&h);
    std::stable_sort(all.begin(), all.end(), [](const Headroom* a, const Headroom* b) {
        return std::tuple(a->isMet, !a->isShare, -a->used()) < std::tuple(b->isMet, !b->isShare, -b->used());
    });
    return all;
}

std::string amperes(double a)
{
    return a >= 1000 ? fmt::format("{:.1f} kA", a / 1000) : a > 0 ? number(a, "A") : std::string("-");
}

std::string judgedText(const Headroom& h)
{
    const bool isLeast = h.rule == "wire.minimum" || h.rule == "wire.earth"; // of these the part has more, not less
    std::string text = word("sizing.name." + h.rule) + ": "
        + said(isLeast                  ? "gates.has"
                : h.isShare || !h.isMet ? "gates.needs"
                                        : "gates.meets",
            {number(h.needed, h.unit), number(h.allowed, h.unit)});
    text += h.isShare ? ", " + percent(h.used()) : h.isMet ? std::string() : ", " + word("gates.not_met");
    if (!h.assumed.empty())
        text += "; " + said("gates.assumed", {h.assumed.front()});
    return text;
}

class Sheet {
public:
    Sheet(const Circuit& circuit, const Sized& sized)
        : m_circuit(circuit)
        , m_sized(sized)
    {
    }
    GateSheet result;

    void add(const Walk& w)
    {
        figures::GateRow row;
        const std::string motor = nameOf(w.motor);
        row.title = said(w.isControl ? "gates.control" : "gates.power", {motor});
        row.note = w.said.empty() ? std::string() : said("gates.brought", {w.said});
        row.load = nameOf(w.load).substr(0, nameOf(w.load).find(' '));
        row.loadAbout = said("gates.volts", {number(w.volts, "V"), number(w.ratedV, "V")});
        if (w.isControl)
            row.flowWords = {word("gates.pulling"), word("gates.held"), word("gates.left")};
        else
            row.flowWords = {word("gates.running"), word("gates.starting"), word("gates.shorted")};
        for (const Station& s : w.stations)
            add(gateOf(s, w.isControl, row.flowWords), s, row.gates);
        row.worst = worstOf(row.gates);
        result.rows.push_back(std::move(row));
    }

private:
    /// Wires between the same two parts are one gate: the worst of them.
    void add(Gate gate, const Station& station, std::vector<Gate>& gates)
    {
        const bool isBeside = gate.isWire && !gates.empty() && gates.back().isWire;
        if (!isBeside) {
            gates.push_back(std::move(gate));
            result.stations.push_back(station);
        } else if (worth(gates.back()) < worth(gate)) {
            gates.back() = std::move(gate);
            result.stations.back() = station;
        }
    }

    static std::pair<int, double> worth(const Gate& g)
    {
        return {g.state == Gate::State::NotJudged ? 2 : g.state == Gate::State::Over ? 1 : 0, g.used};
    }

    std::string nameOf(DeviceId id) const
    {
        const Device* d = m_circuit.device(id);
        return d ? d->tag + (d->label.empty() ? "" : " " + d->label) : std::string();
    }

    static int worstOf(const std::vector<Gate>& gates)
    {
        int worst = -1;
        double most = 0;
        for (std::size_t k = 0; k < gates.size(); ++k) {
            const double used = gates[k].hasShare ? gates[k].used : gates[k].state == Gate::State::Over ? 1.0 : 0.0;
            if (used > most) {
                most = used;
                worst = static_cast<int>(k);
            }
        }
        return worst;
    }

    Gate gateOf(const Station& s, bool isControl, const std::vector<std::string>& flowWords) const
    {
        Gate g;
        if (const Device* d = m_circuit.device(s.device)) {
            g.name = d->tag;
            g.about = d->label;
        } else if (const Wire* w = m_circuit.wire(s.wire)) {
            g.isWire = true;
            g.about = fmt::format("{:g}", w->areaMm2);
        }
        const auto all = judged(m_sized, s);
        if (!all.empty())
            judge(g, *all.front());
        else
            g.value = g.isWire ? std::string("?") : word("gates.not_judged");
        if (isControl)
            g.flows = {amperes(s.startA), amperes(s.runA), number(s.volts, "V")};
        else
            g.flows = {amperes(s.runA), amperes(s.startA), amperes(s.shortA)};
        g.words = g.isWire ? wireName(s) : nameOf(s.device);
        for (std::size_t f = 0; f < g.flows.size(); ++f)
            g.words += (f == 0 ? ": " : ", ") + flowWords[f] + " " + g.flows[f];
        for (const Headroom* h : all)
            g.words += ". " + judgedText(*h);
        if (all.empty())
            g.words += ". " + word("gates.not_judged");
        return g;
    }

    std::string wireName(const Station& s) const
    {
        const Wire* w = m_circuit.wire(s.wire);
        return w ? m_circuit.nameOf(w->from) + " - " + m_circuit.nameOf(w->to) : std::string();
    }

    static void judge(Gate& g, const Headroom& h)
    {
        g.hasShare = h.isShare;
        g.used = h.used();
        g.state = !h.isMet ? Gate::State::Over : h.isShare && g.used > kTight ? Gate::State::Tight : Gate::State::Ample;
        g.value = h.isShare ? percent(g.used) : word(h.isMet ? "gates.met" : "gates.not_met");
        if (!h.assumed.empty())
            g.value += '*';
    }

    const Circuit& m_circuit;
    const Sized& m_sized;
};

} // namespace

GateSheet gateSheet(const Circuit& circuit, const Sized& sized, DeviceId motor)
{
    Sheet sheet(circuit, sized);
    for (const Walk& w : sized.walks)
        if (!motor || w.motor == motor)
            sheet.add(w);
    return std::move(sheet.result);
}

figures::GateWords gateWords()
{
    return {{word("gates.not_judged"), word("gates.ample"), word("gates.tight"), word("gates.not_met")},
        word("gates.none"), word("gates.wires")};
}

std::vector<std::string> judgedOf(const Sized& sized, const Station& station)
{
    std::vector<std::string> lines;
    for (const Headroom* h : judged(sized, station)) {
        lines.push_back(judgedText(*h) + " (" + sizing::clauseOf(h->rule) + ")");
    }
    for (const sizing::NotJudged& n : sized.notJudged)
        if (isOf(n.device, n.wire, station))
            lines.push_back(word("sizing.name." + n.rule) + ": " + word("gates.not_judged") + ": " + sentence(n.enter));
    return lines;
}

} // namespace ts::wording
