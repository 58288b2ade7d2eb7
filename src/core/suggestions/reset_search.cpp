#include "core/suggestions/reset_search.h"

#include "core/base/at.h"
#include "core/faults/cycle.h"

#include <algorithm>

namespace ts {
namespace {

constexpr TimeNs kDemandLasts = 2 * kSecondNs; ///< contactors have dropped out, also delayed ones of most relays
constexpr TimeNs kWait = kSecondNs; ///< for what comes by itself, and for what a press brings
constexpr TimeNs kPressed = 3 * kSecondNs / 10;

class ResetSearch {
public:
    ResetSearch(const Plant& plant, Workspace& workspace, std::stop_token stop)
        : m_plant(plant)
        , m_workspace(workspace)
        , m_stop(std::move(stop))
    {
    }

    DeviceId found(std::span<const Stimulus> stimuli, std::size_t demand)
    {
        const auto back = faults::wayBack(m_plant, stimuli[demand]);
        State state = initialState(m_plant);
        if (!back || !goOn(state, stimuli.first(demand), stimuli[demand].at))
            return {};
        const State before = state;
        if (!operate(state, stimuli[demand], kDemandLasts) || !operate(state, *back, kWait))
            return {};
        m_gone = goneBetween(before, state);
        DeviceId starting;
        for (std::size_t d = 0; d < m_plant.devices.size() && !m_gone.empty(); ++d)
            switch (pressed(static_cast<int>(d), state)) {
            case Effect::Resets:
                return m_plant.devices[d].id;
            case Effect::ResetsAndStarts:
                starting = starting ? starting : m_plant.devices[d].id;
                break;
            case Effect::None:
                break;
            }
        return starting;
    }

private:
    enum class Effect { None, Resets, ResetsAndStarts };

    bool goOn(State& state, std::span<const Stimulus> stimuli, TimeNs until)
    {
        Trace trace;
        return advance(m_plant, state, stimuli, {until, m_stop, {}, false}, trace, m_workspace) == Pause::Reached;
    }

    bool operate(State& state, Stimulus what, TimeNs for_)
    {
        what.at = state.now;
        return goOn(state, std::span(&what, 1), state.now + for_);
    }

    /// What logic had actuated before and does not any more.
    std::vector<int> goneBetween(const State& before, const State& after) const
    {
        std::vector<int> gone;
        for (std::size_t m = 0; m < m_plant.movers.size(); ++m)
            if (m_plant.movers[m].spec.driver == MoverSpec::Driver::Logic && before.travel[m] == 2
                && after.travel[m] == 0)
                gone.push_back(static_cast<int>(m));
        return gone;
    }

    Effect pressed(int device, State state)
    {
        for (const auto& [word, what] : m_plant.devices[at(device)].actions) {
            if (word != "press" || m_plant.movers[at(what.first)].spec.latches)
                continue;
            Stimulus press;
            press.slot = what.first;
            press.target = what.second;
            const auto release = faults::wayBack(m_plant, press);
            if (!release || !operate(state, press, kPressed) || !operate(state, *release, kWait))
                return Effect::None;
            if (std::none_of(m_gone.begin(), m_gone.end(), [&state](int m) { return state.travel[at(m)] == 2; }))
                return Effect::None;
            const bool starts = std::any_of(state.actuatorMode.begin(), state.actuatorMode.end(),
                [](MotorMode mode) { return mode == MotorMode::Driven; });
            return starts ? Effect::ResetsAndStarts : Effect::Resets;
        }
        return Effect::None;
    }

    const Plant& m_plant;
    Workspace& m_workspace;
    std::stop_token m_stop;
    std::vector<int> m_gone;
};

} // namespace

DeviceId resetAfter(const Plant& plant, std::span<const Stimulus> stimuli, std::size_t demand, Workspace& workspace,
    std::stop_token stop)
{
    return ResetSearch(plant, workspace, std::move(stop)).found(stimuli, demand);
}

} // namespace ts
