#pragma once
// What flows while each motor runs and starts, and what the control circuit then carries: read from runs. Internal to
// sizing/.

#include "core/exploration/behaviour.h"
#include "core/simulation/frame.h"

#include <map>

namespace ts::sizing {

constexpr double kCarries = 0.2; ///< of a motor's line current: less is what a monitor or the control circuit takes

/// One motor running by itself, or with what must run before it.
struct RunningLoad {
    DeviceId motor;
    std::size_t slot = 0;
    State state;
    Frame frame;
    std::optional<Frame> pulling; ///< the moment at which coils take most, armatures still out
    bool isFedByDrive = false;
    double lineA = 0; ///< in its lines, as it runs now
    double ratedA = 0; ///< of its plate: what its lines carry at its rated load
    double protectedA = 0; ///< in its lines, what its protection against overload lets flow for long; 0: none is there
    struct Start {
        double largestA = 0, heatA2s = 0;
    };
    std::map<int, Start> starts; ///< by link: the poles of fuses, from the push to steady running
    std::string said;

    /// Of a link, at the plate's load.
    double ratedThrough(int link) const
    {
        return lineA > 0 ? frame.links[static_cast<std::size_t>(link)].rmsA() * ratedA / lineA : 0.0;
    }
};

struct Loads {
    Plant plant;
    std::vector<RunningLoad> running;
    Frame rest; ///< switched on, nothing started
    std::vector<DeviceId> neverRan;
};

/// Fails as compile() does, and with Cancelled.
Expected<Loads> loadsOf(
    const Circuit& circuit, const std::function<void(std::size_t, std::size_t)>& listener, std::stop_token stop);

/// The state that a deed ends in; what runs only while it is held is held on.
State stateAfter(const Plant& plant, const exploration::Deed& deed, Workspace& workspace, const std::stop_token& stop);

} // namespace ts::sizing
