// A guard door that stays locked until every motor behind it stands, which a monitor tells at its leads.

#include "core/patterns/sheet.h"

namespace ts::patterns {
namespace {

using Words = std::vector<std::string>;

/// In star-delta the windings lie apart once the contactors are out: the monitor looks at one of them.
Words watchedLeads(const StarterSheet& s)
{
    return s.plan.is("base", "star_delta") ? Words{"M1:U1", "M1:U2"} : Words{"M1:U1", "M1:V1", "M1:W1"};
}

void addStandstillMonitor(StarterSheet& s)
{
    const Words leads = watchedLeads(s);
    s.panel.device("B4", "standstill_monitor", s.before() + "standstill monitor", "plate",
        {{"auxiliary_supply_v", 24.0}, {"leads", std::string(leads.size() == 2 ? "two" : "three")}});
    s.shared.plus.join(s.panel, "B4:A1");
    s.shared.minus.join(s.panel, "B4:A2");
    for (std::size_t k = 0; k < leads.size(); ++k)
        s.panel.wire(leads[k], "B4:L" + std::to_string(k + 1), WireRun::MotorCable);
}

} // namespace

void wireGuardLock(MachineSheet& m)
{
    if (!m.locksGuard())
        return;
    for (StarterSheet& s : m.starters) {
        m.begin(s);
        addStandstillMonitor(s);
    }
    m.panel.beginShared();
    m.panel.device("S9", "push_button", "open guard", "door", {{"contacts", Words{"13-14"}}});
    std::string at;
    for (StarterSheet& s : m.starters) {
        m.begin(s);
        const Pair still{"B4:13", "B4:14"};
        at = "=" + s.tag(at.empty() ? m.plus.through(m.panel, still) : m.panel.through(at, still));
    }
    m.panel.beginShared();
    at = m.panel.through(at, {"S9:13", "S9:14"}, WireRun::Door);
    m.panel.wire(at, "B2:E1", WireRun::Field);
    m.minus.join(m.panel, "B2:E2", WireRun::Field);
}

} // namespace ts::patterns
