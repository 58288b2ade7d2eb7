#pragma once
// The studies themselves: each file makes its own. Listed in registry.cpp.

#include "core/studies/study.h"

namespace ts::studies {

Study levels(); ///< what is claimed, and how the functions stop
Study singleFaults(); ///< every fault by itself, one function at a time
Study secondFaults(); ///< every pair of faults, excluded ones, and the limits of times and voltage
Study built(); ///< structure, coverage and level as built, from the faults that were tried
Study path(); ///< each function as its path through the wiring
Study scenarios(); ///< whether every scenario ends as it expects
Study directed(); ///< what each protective device stops, and what starts a motor unasked
Study trials(); ///< what an electrician tries on each running state
Study sizes(); ///< what each device and wire needs of what it may take
Study tests(); ///< the plan by which the built panel is proved
Study otherTriggers(); ///< single faults, with each other trigger of a function
Study worstStop(); ///< the stop in its worst case
Study orders(); ///< every order of operation of a motor
Study designChecks(); ///< all checks with what is known

} // namespace ts::studies
