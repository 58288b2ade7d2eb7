#pragma once
// The machine walked from where power comes in to what it feeds: each part a gate that is as wide open as it has room
// left, closed where it needs all that it may take.

#include "core/figures/figure.h"

#include <array>

namespace ts::figures {

struct Gate {
    enum class State : std::uint8_t { NotJudged, Ample, Tight, Over };
    std::string name, about; ///< "Q1", "main contactor"; a wire: empty, "2.5 mm2"
    bool isWire = false;
    State state = State::NotJudged;
    double used = 0; ///< share of what it may take; 1 and more: closed
    bool hasShare = false; ///< false: its worst rule is met or not, and has no share
    std::string value; ///< "104 %"
    std::vector<std::string> flows; ///< what flows in each situation, in the order of the rows' words
    std::string words; ///< all of it, read out
};

struct GateRow {
    std::string title; ///< "Power to M1 rotor"
    std::string note; ///< how it was brought to run
    std::vector<Gate> gates; ///< from the supply on
    std::string load, loadAbout; ///< "M1", "397 V of 400 V"
    std::vector<std::string> flowWords; ///< "running", "starting": one for each line of flows
    int worst = -1; ///< the gate with the least room; -1: none has a share
};

struct GateWords {
    std::array<std::string, 4> states; ///< by Gate::State
    std::string none; ///< nothing to walk
    std::string wires; ///< what stands under wires: "wires, mm2"
};

/// As wide as wanted, at least as high; more gates than fit beside one another go on in the next line. Spots: all
/// gates, row after row. Pure.
Figure gates(const std::vector<GateRow>& rows, const GateWords& words, double width, double height, int chosen = -1);

} // namespace ts::figures
