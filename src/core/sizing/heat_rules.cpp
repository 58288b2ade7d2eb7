// What becomes warm in the enclosure, against what its walls give off. Source: EN 60204-1 clause 4.4.3; IEC 60890: the
// effective surface of one enclosure; losses_typical.csv.

#include "core/base/at.h"
#include "core/library/table.h"
#include "core/sizing/judge.h"

#include <algorithm>
#include <cmath>

namespace ts::sizing {
namespace {

constexpr double kSmallTransformerVa = 160.0; ///< losses_typical.csv: from there on a smaller share
constexpr double kSmallTransformerShare = 0.10, kLargeTransformerShare = 0.07, kSupplyShare = 0.12, kDriveShare = 0.03,
                 kStarterWPerA = 3.0, kWiringShare = 0.10; ///< losses_typical.csv, in words there

constexpr double kLargestFuseA = 100.0, kLargestBreakerA = 32.0; ///< as far as losses_typical.csv goes

double typicalW(std::string_view item)
{
    const Table& t = lossesTable();
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (t.cell(row, "item") == item)
            return *t.number(row, "loss_w");
    return 0.0;
}

double fuseW(double ratedA)
{
    return typicalW(ratedA <= 16 ? "fuse gG to 16 A"
            : ratedA <= 32       ? "fuse gG 20 to 32 A"
            : ratedA <= 63       ? "fuse gG 40 to 63 A"
                                 : "fuse gG 80 to 100 A");
}

/// Of one pole at its rated current: of the sheet, or of the next larger typical contactor.
double poleW(const Parameters& p)
{
    if (p.isWritten("pole_loss_w"))
        return p.number("pole_loss_w");
    const Table& t = contactorTypicalTable();
    const double ac3 = p.number("rated_current_ac3_a");
    for (std::size_t row = 0; row < t.rowCount(); ++row)
        if (*t.number(row, "ac3_a") >= ac3 || row + 1 == t.rowCount())
            return *t.number(row, "loss_per_pole_w");
    return 0.0;
}

class Losses {
public:
    Losses(const Judge& j, const RunningLoad* running)
        : m_j(j)
        , m_running(running)
        , m_frame(running ? running->frame : j.loads.rest)
    {
    }
    /// Of one device, in W, as the machine runs in this situation.
    double of(const Device& d) const
    {
        const auto p = m_j.parameters(d.id);
        if (!p)
            return 0.0;
        double watts = coilsOf(d);
        if (d.kind == "contactor")
            return watts + poles(d, poleW(*p), p->number("rated_current_ac3_a"));
        if (d.kind == "overload_relay")
            return poles(d, typicalW("overload relay"), p->number("setting_a"));
        if (d.kind == "fuse")
            return poles(d, fuseW(p->number("rated_current_a")), p->number("rated_current_a"));
        if (d.kind == "breaker")
            return poles(d, typicalW("miniature breaker to 32 A"), p->number("rated_current_a"));
        if (d.kind == "motor_protection_switch")
            return poles(d, typicalW("motor protection switch"), p->number("setting_a"));
        if (d.kind == "control_transformer")
            return p->isWritten("loss_w") ? p->number("loss_w") : transformerW(p->number("rated_va"));
        if (d.kind == "supply_24v_dc")
            return kSupplyShare * outputW(d);
        if (d.kind == "safety_relay" || d.kind == "safety_controller")
            return typicalW("safety relay");
        return watts + electronics(d, *p);
    }

private:
    static double transformerW(double va)
    {
        return va * (va <= kSmallTransformerVa ? kSmallTransformerShare : kLargeTransformerShare);
    }

    bool isOf(const Device& d, int slot) const { return slot >= 0 && m_j.deviceOf(slot).id == d.id; }

    double poles(const Device& d, double eachW, double ratedA) const
    {
        double watts = 0;
        for (std::size_t l = 0; l < m_j.plant.links.size(); ++l) {
            const PlantLink& link = m_j.plant.links[l];
            if (!isOf(d, link.device)
                || (link.contact.kind != ContactKind::Main && link.contact.kind != ContactKind::Pole))
                continue;
            const double rated = m_running ? m_running->linksA[l] : 0.0;
            watts += eachW * std::pow((rated > 0 ? rated : m_frame.links[l].rmsA()) / ratedA, 2);
        }
        return watts;
    }

    double coilsOf(const Device& d) const
    {
        double watts = 0;
        for (const PlantCoil& c : m_j.plant.coils) {
            const PlantImpedance& z = m_j.plant.impedances[at(c.impedance)];
            if (isOf(d, z.device))
                watts += std::pow(m_frame.impedancesA[at(c.impedance)], 2)
                    * (c.data.direct ? z.directOhm : z.sealedOhm.real());
        }
        return watts;
    }

    double outputW(const Device& d) const
    {
        for (const PlantConverter* c : m_j.plant.supplies())
            if (isOf(d, c->device))
                return leaving(m_j, m_frame, c->plus) * c->data.outputV;
        return 0.0;
    }

    /// A soft starter that nothing goes past, and a drive at its motor's power.
    double electronics(const Device& d, const Parameters& p) const
    {
        if (d.kind == "soft_starter") {
            const bool isPassed = std::any_of(m_j.plant.variables.begin(), m_j.plant.variables.end(),
                [&](const PlantVariable& v) { return isOf(d, v.device) && joinedTo(m_j, m_frame, v.p).contains(v.q); });
            return m_running && !isPassed ? kStarterWPerA * p.number("motor_current_a") : 0.0;
        }
        if (d.kind != "drive" || !m_running || !m_running->isFedByDrive)
            return 0.0;
        const auto motor = m_j.parameters(m_running->motor);
        return motor ? kDriveShare * motor->number("rated_power_w") : 0.0;
    }

    const Judge& m_j;
    const RunningLoad* m_running;
    const Frame& m_frame;
};

/// IEC 60890: one enclosure by itself, all its walls free or its back at a wall.
double surfaceM2(const Parameters& p)
{
    const double w = p.number("width_m"), h = p.number("height_m"), d = p.number("depth_m");
    return p.word("mounting") == "free" ? 1.8 * h * (w + d) + 1.4 * w * d : 1.4 * w * (h + d) + 1.8 * d * h;
}

} // namespace

void judgeHeat(Judge& j)
{
    j.here("cabinet.heat");
    const Device* enclosure = nullptr;
    for (const Device& d : j.circuit.devices)
        if (const auto p = hasParameter(d, "width_m") ? j.parameters(d.id) : std::nullopt;
            p && p->isWritten("width_m") && p->isWritten("height_m") && p->isWritten("depth_m"))
            enclosure = &d;
    if (!enclosure)
        return j.add({"cabinet.heat", {}, {}, message("sizing.enter.enclosure"), std::string(kEnclosureSize)});
    std::vector<Losses> situations{{j, nullptr}};
    for (const RunningLoad& r : j.loads.running)
        situations.emplace_back(j, &r);
    double watts = 0; // each device as warm as it ever is: whatever can run, runs
    for (const Device& d : j.circuit.devices) {
        double most = 0;
        const auto& traits = deviceKind(d.kind)->traits;
        for (const Losses& l : situations)
            most = std::max(most, d.place == "field" || traits.isActuator || traits.isOutputPart ? 0.0 : l.of(d));
        watts += most;
    }
    const auto p = j.parameters(enclosure->id);
    Headroom h{"cabinet.heat", enclosure->id, {}, true, 0, 0, "K", Severity::Note};
    h.needed = (1 + kWiringShare) * watts / (Judge::fallback("enclosure", "wall_conductance") * surfaceM2(*p));
    h.allowed = std::max(1e-6, j.number(*p, "inside_at_most_c", h) - j.number(*p, "ambient_c", h));
    h.assumed.push_back("typical losses");
    for (const Device& d : j.circuit.devices) // the last row of the table is taken for it
        if (const auto q = d.kind == "fuse" || d.kind == "breaker" ? j.parameters(d.id) : std::nullopt;
            q && q->number("rated_current_a") > (d.kind == "fuse" ? kLargestFuseA : kLargestBreakerA))
            h.assumed.push_back(d.tag + " loss, beyond the table");
    for (std::size_t k = j.plant.motors.size(); k < j.plant.actuators.size(); ++k) // only motors on three lines were
                                                                                   // run
        h.assumed.push_back("no current of " + j.deviceOf(j.plant.actuators[k].device).tag);
    for (DeviceId id : j.loads.neverRan)
        h.assumed.push_back("no current of " + j.circuit.device(id)->tag);
    j.share(std::move(h));
}

} // namespace ts::sizing
