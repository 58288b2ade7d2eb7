#include "core/patterns/panel.h"

#include <algorithm>
#include <map>
#include <set>

namespace ts::patterns {
namespace {

/// Rows of typical_reliability.csv: a beginning, marked as typical in every output, until somebody enters the maker's
/// value. Electronics have none.
const std::map<std::string, std::string> kTypicalOf{{"contactor", "contactor.nominal_load"},
    {"contactor_relay", "relay.nominal_load"}, {"plug_in_relay", "relay.nominal_load"},
    {"emergency_stop", "emergency_stop"}, {"guard_switch", "guard_switch"}, {"push_button", "push_button"}};

/// What each starter has for itself, as the first one calls it. None of them, with a number put in, is another of them.
const std::set<std::string, std::less<>> kOwnTags{"M1", "Q1", "Q2", "Q3", "Q5", "Q9", "F1", "F2", "F8", "B1", "B4",
    "B5", "B6", "K1", "K3", "K4", "K5", "K6", "K7", "K8", "K11", "K12", "K13", "T2", "T4", "T11", "T12", "T13", "S1",
    "S2", "S3", "S5", "S6", "S7", "S8", "G2", "Y1", "P1", "P2", "P3", "P4"};

struct RunSpec {
    const char* route;
    double lengthM;
};

constexpr double kCabinetM = 0.6, kDoorM = 1.5, kMotorM = 8.0, kIdealM = 10.0;

} // namespace

Panel::Panel(DossierFile file, double controlCableM, RouteKind controlCable)
    : m_file(std::move(file))
    , m_controlCableM(controlCableM)
{
    m_file = edit::withRoute(m_file, "cabinet", RouteKind::Enclosure);
    m_file = edit::withRoute(m_file, "door", RouteKind::Enclosure);
    m_file = edit::withRoute(m_file, "control cable", controlCable);
    m_file = edit::withRoute(m_file, "motor cable", RouteKind::Cable);
}

void Panel::beginStarter(int number, double powerAreaMm2, double motorAreaMm2)
{
    m_starter = number;
    m_powerAreaMm2 = powerAreaMm2;
    m_motorAreaMm2 = motorAreaMm2;
}

std::string Panel::own(std::string_view name) const
{
    if (name.starts_with('='))
        return std::string(name.substr(1));
    const std::size_t end = std::min(name.find_first_of(":./"), name.size());
    const std::string_view tag = name.substr(0, end);
    if (m_starter == 1 || !kOwnTags.contains(tag))
        return std::string(name);
    const std::string number = std::to_string(m_starter);
    return tag == "M1" ? "M" + number + std::string(name.substr(end))
                       : std::string(tag.substr(0, 1)) + number + std::string(name.substr(1));
}

void Panel::refuse(Error error)
{
    if (!m_trouble)
        m_trouble = std::move(error);
}

void Panel::take(Expected<DossierFile> changed)
{
    if (changed)
        m_file = std::move(*changed);
    else
        refuse(changed.error());
}

std::string Panel::device(
    std::string tag, std::string kind, std::string label, std::string place, ParameterMap parameters, std::string part)
{
    Device d;
    tag = own(tag);
    d.tag = tag;
    d.kind = std::move(kind);
    d.label = std::move(label);
    d.place = std::move(place);
    d.parameters = std::move(parameters);
    d.part = std::move(part);
    if (const auto typical = kTypicalOf.find(d.kind); typical != kTypicalOf.end() && d.part.empty()) {
        d.reliability.emplace();
        d.reliability->typicalPart = typical->second;
    }
    take(edit::withDevice(m_file, std::move(d)));
    return tag;
}

void Panel::wire(std::string_view from, std::string_view to, WireRun run)
{
    if (m_trouble)
        return;
    Wire w;
    const bool doorIsFar = m_controlCableM > kIdealM; // then the buttons are a station at the end of the cable
    const bool isInCabinet = run == WireRun::Cabinet || run == WireRun::Mains || run == WireRun::Power;
    const RunSpec spec = isInCabinet         ? RunSpec{"cabinet", kCabinetM}
        : run == WireRun::Door && !doorIsFar ? RunSpec{"door", kDoorM}
        : run != WireRun::MotorCable         ? RunSpec{"control cable", m_controlCableM}
                                             : RunSpec{"motor cable", kMotorM};
    w.lengthM = spec.lengthM;
    w.areaMm2 = run == WireRun::MotorCable ? m_motorAreaMm2
        : run == WireRun::Power            ? m_powerAreaMm2
        : run == WireRun::Mains            ? m_mainsAreaMm2
                                           : 1.0;
    w.route = edit::routeNamed(m_file.dossier.circuit, spec.route);
    take(edit::withWire(m_file, own(from), own(to), std::move(w)));
}

std::string Panel::through(std::string_view from, const Pair& contact, WireRun run)
{
    wire(from, contact.a, run);
    return contact.b;
}

Pair Panel::contact(const std::string& local, bool closes)
{
    const std::string tag = own(local);
    for (Device& d : m_file.dossier.circuit.devices) {
        if (d.tag != tag)
            continue;
        ParameterValue& value = d.parameters.try_emplace("auxiliary_contacts", std::vector<std::string>{})
                                    .first->second;
        auto& list = std::get<std::vector<std::string>>(value);
        const std::string n = std::to_string(list.size() + 1);
        const std::string a = n + (closes ? "3" : "1"), b = n + (closes ? "4" : "2");
        list.push_back(a + "-" + b);
        return {tag + ":" + a, tag + ":" + b};
    }
    refuse({ErrorCode::NotFound, message("scenario.no_device", {tag})});
    return {};
}

void Panel::interlock(std::string_view first, std::string_view second)
{
    take(edit::withMechanicalInterlock(m_file, own(first), own(second)));
}

void Panel::brakeOn(std::string_view brake, std::string_view motor)
{
    take(edit::withBrakeOnShaft(m_file, own(brake), own(motor)));
}

void Panel::part(const Part& part)
{
    if (auto changed = edit::withParts(m_file.dossier, {part}))
        m_file.dossier = std::move(*changed);
    else
        refuse(changed.error());
}

ScenarioId Panel::scenario(Scenario scenario)
{
    m_file = edit::withScenario(m_file, std::move(scenario));
    return m_file.dossier.scenarios.back().id;
}

Expected<DossierFile> Panel::result() const
{
    if (m_trouble)
        return Unexpected{*m_trouble};
    return m_file;
}

} // namespace ts::patterns
