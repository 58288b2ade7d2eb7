#pragma once
// Checks that read what was tried (exploration/trials.h): each is about some of it.

#include "core/checks/check.h"
#include "core/exploration/trials.h"

namespace ts::checks {

void judgeTrials(const CheckInput&, std::span<const exploration::TrialSeen::What> about, std::vector<Finding>&);

template <exploration::TrialSeen::What... about> void tried(const CheckInput& input, std::vector<Finding>& findings)
{
    static constexpr std::array kAbout{about...};
    judgeTrials(input, kAbout, findings);
}

/// Lost and exchanged lines of motors that no plan has decided about.
void linesAreDecidedAbout(const CheckInput&, std::vector<Finding>&);
/// Buttons and lamps have the colours of the standard for what they were seen to be for, or of the school that was
/// chosen.
void coloursFit(const CheckInput&, std::vector<Finding>&);
/// What nothing brought to run, and states that were not gone through.
std::vector<NotLookedAt> leftOutOfTrials(const CheckInput&);
/// Everything that moves, heats or holds was brought to run, so that it could be tried.
void everythingWasTried(const CheckInput&, std::vector<Finding>&);

} // namespace ts::checks
