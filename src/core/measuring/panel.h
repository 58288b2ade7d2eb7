#pragma once
// A panel is what can be operated and looked at. Plan, rehearsal and a person's own hands go through the same two
// calls; here is the one that is simulated.

#include "core/exploration/settling.h"
#include "core/measuring/test_plan.h"

#include <map>

namespace ts::measuring {

class Panel {
public:
    virtual ~Panel() = default;
    /// Fails with NotFound for a device or an action that is not there, with Cancelled.
    virtual Expected<void> bring(const Situation& in) = 0;
    /// In the situation it was brought to. Fails with NotFound for a terminal or device that is not there.
    virtual Expected<Reading> look(const Look& look) = 0;
};

/// What was there after each thing done, the last one last.
using Trail = std::vector<State>;

class StandIn : public Panel {
public:
    /// With faults in it from the start. `memory`: of the same circuit, or null.
    explicit StandIn(std::shared_ptr<const Plant> plant, std::vector<Fault> faults = {},
        std::shared_ptr<CircuitMemory> memory = nullptr, std::stop_token stop = {});

    Expected<void> bring(const Situation& in) override;
    Expected<Reading> look(const Look& look) override;

    const Plant& plant() const { return *m_plant; }
    /// Of the last live situation.
    const Trail& trail() const { return m_trail; }
    /// From where it stands now, one thing more; none if the circuit chatters or it cannot be done.
    std::optional<State> after(const State& before, const std::string& operation);

private:
    Expected<void> bringDead(const Situation& in);
    Expected<void> bringLive(const Situation& in);
    std::vector<Fault> takenOut(const Situation& in) const;
    Expected<int> nodeOf(const std::string& terminal) const;
    Expected<Reading> wired(const Look& look) const;
    Expected<Reading> volts(const Look& look) const;
    Expected<Reading> sequence(const Look& look) const;
    Expected<Reading> loop(const Look& look) const;
    Expected<Reading> amperes(const Look& look) const;
    Expected<Reading> seen(const Look& look) const;
    Expected<Reading> timed(const Look& look) const;
    Expected<Reading> later(const Look& look);

    struct Reached {
        State state;
        TimeNs doneAt = 0; ///< the last thing
        std::vector<Event> since; ///< then
        bool isChattering = false;
    };
    Expected<Reached> next(const Reached& before, const std::string& operation, bool isBrief);

    std::shared_ptr<const Plant> m_plant;
    std::vector<Fault> m_faults;
    Workspace m_workspace;
    std::stop_token m_stop;
    std::map<Situation, Reached> m_known; ///< of live situations: many begin alike
    bool m_isDead = true;
    std::vector<std::uint8_t> m_travel; ///< dead
    std::vector<MovedWire> m_gone; ///< dead
    Reached m_now; ///< live
    Trail m_trail;
    std::string m_lastDone; ///< of the live situation; empty: switched on only
};

/// "Q1 in", "P1 lit", "M1 right": how a device looks. Empty for one that shows nothing.
std::string lookOf(const Plant& plant, const State& state, int device);
/// "S2 press": what somebody does, as bring() reads it. Empty if no word of the device does that.
std::string operationText(const Plant& plant, const Stimulus& stimulus);
/// "S5 press + S6 press": what hands do at the same moment.
std::string joinedAtOnce(const std::vector<std::string>& operations);

} // namespace ts::measuring
