#pragma once
// What is tried on a fed panel, in stages: incoming lines, control with everything that moves cut off, direction of
// each motor, stops, what single faults do, times to rest. What to do comes from what hands do to the right circuit
// (exploration/behaviour.h), what to expect from running it. Internal to measuring/.

#include "core/exploration/behaviour.h"
#include "core/measuring/panel.h"

namespace ts::measuring {

struct LiveSteps {
    std::vector<TestStep> steps; ///< with what is expected, in the order of work
    std::vector<Trail> trails; ///< what was there on the way to each, one of each
    std::vector<Reading> right; ///< what each reads on the right circuit, without bands
    std::vector<std::string> stops; ///< what stops motors, as bring() reads it
};

Expected<LiveSteps> liveStepsOf(std::shared_ptr<const Plant> plant, const exploration::Behaviour& behaviour,
    std::shared_ptr<CircuitMemory> memory, std::stop_token stop);

} // namespace ts::measuring
