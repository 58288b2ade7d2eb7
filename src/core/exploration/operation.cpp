#include "core/exploration/operation.h"

#include "core/base/at.h"

#include <algorithm>

namespace ts::exploration {
namespace {

const MoverSpec& specOf(const Plant& plant, int mover)
{
    return plant.movers[at(mover)].spec;
}

/// A departure from normal when it is not where it should be: a protective device, a switch in the power circuit.
bool isDeparture(const Plant& plant, int mover)
{
    if (specOf(plant, mover).driver == MoverSpec::Driver::Protection)
        return true;
    return specOf(plant, mover).driver == MoverSpec::Driver::Operator
        && std::any_of(plant.links.begin(), plant.links.end(), [mover](const PlantLink& l) {
               return l.contact.mover == mover
                   && (l.contact.kind == ContactKind::Main || l.contact.kind == ContactKind::Pole);
           });
}

/// A button, an armature pushed by hand.
bool springsBack(const Plant& plant, int mover)
{
    const MoverSpec& m = specOf(plant, mover);
    if (m.driver == MoverSpec::Driver::Coil)
        return true;
    if (m.driver != MoverSpec::Driver::Operator || m.latches)
        return false;
    for (const PlantDevice& d : plant.devices)
        for (const auto& [word, what] : d.actions)
            if (what.first == mover && word == "release")
                return true;
    return false;
}

Stimulus knobAt(int knob, double value)
{
    Stimulus s;
    s.kind = Stimulus::Kind::SetKnob;
    s.slot = knob;
    s.value = value;
    return s;
}

bool changes(const Plant& plant, const State& state, const Stimulus& s)
{
    if (s.kind == Stimulus::Kind::SetKnob)
        return state.knobs[at(s.slot)] != s.value;
    if (specOf(plant, s.slot).driver == MoverSpec::Driver::Coil)
        return (state.pushed[at(s.slot)] != 0) != (s.target == 2);
    return state.wish[at(s.slot)] != s.target;
}

} // namespace

Operations::Operations(const Plant& plant, const Cone& cone, const std::vector<int>& also)
    : m_plant(plant)
{
    std::vector<std::uint8_t> isOperated(plant.movers.size());
    for (const auto* list : {&cone.movers, &also})
        for (int m : *list)
            isOperated[at(m)] = 1;
    for (int m = 0; m < static_cast<int>(plant.movers.size()); ++m) {
        m_springsBack.push_back(springsBack(plant, m));
        m_isDeparture.push_back(isDeparture(plant, m));
    }
    addHands(isOperated);
    addSupply(cone);
    m_all.push_back({Operation::Kind::Wait, {}});
}

void Operations::addHands(const std::vector<std::uint8_t>& isOperated)
{
    std::vector<Stimulus> given, letGo;
    for (const PlantDevice& d : m_plant.devices) {
        bool isUsed = false;
        for (const auto& [word, what] : d.actions) {
            Stimulus s;
            s.slot = what.first;
            s.target = what.second;
            s.letGo = word == "release";
            if (!isOperated[at(s.slot)] || (s.letGo && specOf(m_plant, s.slot).latches)) // letting go of what latches
                                                                                         // changes nothing
                continue;
            isUsed = true;
            const bool isKnown = std::any_of(m_all.begin(), m_all.end(), [&s](const Operation& o) {
                return o.stimuli.front().slot == s.slot && o.stimuli.front().target == s.target;
            });
            if (isKnown)
                continue;
            m_all.push_back({Operation::Kind::Hand, {s}});
            if (m_springsBack[at(s.slot)])
                (isGivenByHand(s) ? given : letGo).push_back(s);
        }
        if (!d.actions.empty())
            (isUsed ? m_tags : m_leftAlone).push_back(d.tag);
    }
    for (const auto* list : {&given, &letGo})
        for (std::size_t a = 0; a < list->size(); ++a)
            for (std::size_t b = a + 1; b < list->size(); ++b)
                if ((*list)[a].slot != (*list)[b].slot)
                    m_all.push_back({Operation::Kind::TwoHands, {(*list)[a], (*list)[b]}});
}

void Operations::addSupply(const Cone& cone)
{
    if (cone.knobs.empty())
        return;
    Operation lost{Operation::Kind::SupplyLost, {}}, back{Operation::Kind::SupplyBack, {}};
    for (int k : cone.knobs) {
        lost.stimuli.push_back(knobAt(k, 0.0));
        back.stimuli.push_back(knobAt(k, m_plant.knobs[at(k)].initial));
    }
    m_all.push_back(lost);
    m_all.push_back(back);
    if (cone.knobs.size() < 2)
        return;
    for (std::size_t k = 0; k < cone.knobs.size(); ++k) {
        m_all.push_back({Operation::Kind::PhaseLost, {lost.stimuli[k]}});
        m_all.push_back({Operation::Kind::PhaseBack, {back.stimuli[k]}});
    }
}

int Operations::departuresIn(const State& state) const
{
    int count = 0;
    for (std::size_t m = 0; m < m_isDeparture.size(); ++m)
        count += m_isDeparture[m] && state.wish[m] != m_plant.movers[m].spec.initial;
    for (std::size_t k = 0; k < m_plant.knobs.size(); ++k)
        if (state.knobs[k] != m_plant.knobs[k].initial)
            return count + 1;
    return count;
}

bool Operations::isHeld(const State& state, int mover) const
{
    if (state.pushed[at(mover)])
        return true;
    const MoverSpec& m = specOf(m_plant, mover);
    return m.driver == MoverSpec::Driver::Operator && m_springsBack[at(mover)] && state.wish[at(mover)] != m.initial;
}

bool Operations::isGivenByHand(const Stimulus& s) const
{
    if (s.kind != Stimulus::Kind::Drive)
        return false;
    const MoverSpec& m = specOf(m_plant, s.slot);
    if (m.driver == MoverSpec::Driver::Coil)
        return s.target == 2;
    return m.driver == MoverSpec::Driver::Operator && s.target != m.initial && !m_isDeparture[at(s.slot)];
}

bool Operations::isPossible(const State& state, const Operation& o, const Restraint& restraint) const
{
    using Kind = Operation::Kind;
    if (o.kind == Kind::Wait)
        return true;
    const auto does = [&](const Stimulus& s) { return changes(m_plant, state, s); };
    if (!std::all_of(o.stimuli.begin(), o.stimuli.end(), does))
        return false;
    if (o.kind == Kind::PhaseBack && std::count(state.knobs.begin(), state.knobs.end(), 0.0) > 1)
        return false; // a supply that was lost comes back as a whole
    int takes = 0, departs = o.kind == Kind::SupplyLost || o.kind == Kind::PhaseLost;
    for (const Stimulus& s : o.stimuli) {
        takes += isGivenByHand(s) && m_springsBack[at(s.slot)];
        departs += s.kind == Stimulus::Kind::Drive && m_isDeparture[at(s.slot)]
            && s.target != specOf(m_plant, s.slot).initial;
    }
    if (departs > 0 && departuresIn(state) + departs > restraint.departures)
        return false;
    if (takes == 0)
        return true;
    for (int m = 0; m < static_cast<int>(m_springsBack.size()); ++m)
        takes += isHeld(state, m);
    return takes <= restraint.hands;
}

namespace {

std::string wordsOf(const Plant& plant, const Stimulus& s)
{
    const PlantDevice& device = plant.devices[at(plant.movers[at(s.slot)].device)];
    for (const auto& [word, what] : device.actions)
        if (what.first == s.slot && what.second == s.target && (word == "release") == s.letGo) {
            std::string said = device.tag + " " + word;
            std::replace(said.begin(), said.end(), '_', ' ');
            return said;
        }
    return device.tag;
}

} // namespace

std::string wordsOf(const Plant& plant, const Operation& operation)
{
    const Stimulus& first = operation.stimuli.front();
    if (operation.kind == Operation::Kind::TwoHands)
        return wordsOf(plant, first) + " and " + wordsOf(plant, operation.stimuli.back());
    if (first.kind != Stimulus::Kind::SetKnob)
        return wordsOf(plant, first);
    const std::string name = operation.stimuli.size() > 1 ? "supply" : plant.knobs[at(first.slot)].name;
    return name + (first.value > 0 ? " back" : " lost");
}

} // namespace ts::exploration
