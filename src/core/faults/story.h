#pragma once
// The story of one fault in three scenes: what is in and what is out, with the fault and without it. By running it
// again.

#include "core/faults/sweep.h"

namespace ts::faults {

/// Which moment a scene shows.
enum class SceneWhen : std::uint8_t { AtRest, BeforeStart, BeforeDemand, AfterDemand, Watched, AtReset, WhenLost };
std::string_view nameOf(SceneWhen);

struct StoryScene {
    SceneWhen when = SceneWhen::BeforeDemand;
    TimeNs at = 0; ///< from switching on
};

/// A device that takes part: the trigger, relays with outputs, contactors, motors.
struct StoryRow {
    enum class What : std::uint8_t { Trigger, Outputs, Armature, Motor };
    int device = 0; ///< plant device
    What what = What::Armature;
    std::array<bool, 3> isOn{}, isOnHealthy{}; ///< by scene: operated, outputs on, pulled in, turning
    bool operator==(const StoryRow&) const = default;
};

struct Story {
    std::array<StoryScene, 3> scenes;
    std::vector<StoryRow> rows;
    std::vector<Stimulus> script; ///< all actions and the fault, to play on the Bench
    TimeNs showAt = 0; ///< where it shows best
};

/// Fails as faults::sweep does. `place`: of the fault in the sweep.
Expected<Story> storyOf(const Dossier& dossier, const SafetyFunction& function, const Sweep& sweep, int place,
    Moment moment, std::stop_token stop = {});

} // namespace ts::faults
