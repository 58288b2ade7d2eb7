#include "core/sizing/sizing.h"

#include "core/library/melting.h"
#include "core/library/table.h"
#include "core/sizing/judge.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {

void Judge::share(Headroom h)
{
    h.isShare = true;
    h.isMet = h.needed <= h.allowed;
    const auto known = std::find_if(m_all.begin(), m_all.end(),
        [&](const Headroom& o) { return o.rule == h.rule && o.device == h.device && o.wire == h.wire; });
    if (known == m_all.end())
        m_all.push_back(std::move(h));
    else if (known->used() < h.used())
        *known = std::move(h);
}

void Judge::met(Headroom h)
{
    h.isShare = false;
    const auto known = std::find_if(m_all.begin(), m_all.end(),
        [&](const Headroom& o) { return o.rule == h.rule && o.device == h.device && o.wire == h.wire; });
    if (known == m_all.end())
        m_all.push_back(std::move(h));
    else if (known->isMet && (!h.isMet || known->note.id.empty()))
        *known = std::move(h);
}

bool Judge::has(std::string_view rule, WireId wire) const
{
    return std::any_of(m_all.begin(), m_all.end(), [&](const Headroom& h) { return h.rule == rule && h.wire == wire; });
}

void Judge::add(NotJudged n)
{
    if (std::find(m_notJudged.begin(), m_notJudged.end(), n) == m_notJudged.end())
        m_notJudged.push_back(std::move(n));
}

void Judge::lacks(std::string rule, const Device& device, const char* parameter, const char* id)
{
    add({std::move(rule), device.id, {}, message(id, {device.tag, "@parameter." + std::string(parameter)}), parameter});
}

std::optional<Parameters> Judge::parameters(DeviceId device) const
{
    const Device* d = circuit.device(device);
    auto p = d ? parametersOf(circuit, *d) : Expected<Parameters>(failure(ErrorCode::NotFound, {}));
    return p ? std::optional(std::move(*p)) : std::nullopt;
}

double Judge::number(const Parameters& p, const char* name, Headroom& h) const
{
    if (!p.isWritten(name))
        h.assumed.push_back(p.tag() + " " + name);
    return p.number(name);
}

double Judge::sheetOr(const Device& device, const char* parameter, double otherwise, Headroom& h) const
{
    const auto p = hasParameter(device, parameter) ? parameters(device.id) : std::nullopt;
    if (p && p->isWritten(parameter))
        return p->number(parameter);
    h.assumed.push_back(device.tag + " " + parameter);
    return otherwise;
}

const Device* Judge::supplyDevice() const
{
    for (const char* kind : {"supply_three_phase", "supply_single_phase"})
        for (const Device& d : circuit.devices)
            if (d.kind == kind)
                return &d;
    return nullptr;
}

double opensWithin(double ratedA, double seconds)
{
    const MeltingCurve slow = ggCurve(ratedA, Timing::Slow);
    double low = ratedA, high = 1000 * ratedA;
    for (int k = 0; k < 60; ++k) {
        const double middle = std::sqrt(low * high);
        const auto t = clearingTimeS(slow, middle);
        (t && *t <= seconds ? high : low) = middle;
    }
    return high;
}

double lockedRotorRatio(const Parameters& motor)
{
    return motor.isWritten("locked_rotor_ratio") ? motor.number("locked_rotor_ratio")
                                                 : deviceDefault("motor", "locked_rotor_ratio").nominal;
}

bool hasParameter(const Device& d, std::string_view name)
{
    const DeviceKind* kind = deviceKind(d.kind);
    return kind && std::any_of(kind->parameters.begin(), kind->parameters.end(), [name](const ParameterSpec& s) {
        return s.name == name;
    });
}

Sized Judge::result()
{
    std::stable_sort(m_all.begin(), m_all.end(), [](const Headroom& a, const Headroom& b) {
        return std::tuple(!a.isShare, a.isShare ? -a.used() : 0.0)
            < std::tuple(!b.isShare, b.isShare ? -b.used() : 0.0);
    });
    Sized sized{std::move(m_all), std::move(m_notJudged), {}, {}};
    const Table& t = sizingRulesTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (!m_here.contains(t.cell(row, "id")))
            sized.notHere.emplace_back(t.cell(row, "id"));
    return sized;
}

std::string clauseOf(const std::string& rule)
{
    const Table& t = sizingRulesTable();
    const std::string clause(t.cell(*rowOf(t, rule), "clause"));
    return clause.starts_with("IEC") ? clause : "EN 60204-1 clause " + clause;
}

Expected<Sized> sizesOf(
    const Dossier& dossier, const std::function<void(std::size_t, std::size_t)>& listener, std::stop_token stop)
{
    const auto loads = loadsOf(dossier.circuit, listener, stop);
    if (!loads)
        return Unexpected{loads.error()};
    const auto plant = compile(dossier.circuit);
    if (!plant)
        return Unexpected{plant.error()};
    const auto duties = switchingDutyOf(dossier, *plant, std::move(stop));
    if (!duties)
        return Unexpected{duties.error()};
    Judge judge(dossier.circuit, *loads);
    judgeMotors(judge);
    judgeControl(judge);
    judgeWires(judge);
    judgeSupplies(judge);
    judgeDuty(judge, dossier, *duties);
    judgeHeat(judge);
    std::vector<Walk> walks = walksOf(judge);
    judgeShorts(judge, walks);
    Sized sized = judge.result();
    sized.walks = std::move(walks);
    return sized;
}

} // namespace ts::sizing
