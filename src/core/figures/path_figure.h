#pragma once
// A function as its path: knots from what demands it to what must rest, each as high as its share of the danger, the
// ways between them, what notices whose failure, and what is missing where it is missing.

#include "core/figures/figure.h"

#include <array>

namespace ts::figures {

struct Knot {
    enum class State : std::uint8_t {
        Untried, ///< no fault of it was tried
        NoPart, ///< none of its faults matters
        Noticed,
        Hidden,
        Lost ///< one of its faults alone loses the function
    };
    int column = 0;
    std::string name, about; ///< "Q9", "main poles"
    std::string value; ///< "9.1e-10"; what rests: how it stops
    double share = 0; ///< of the whole function's danger, 0 to 1
    State state = State::Untried;
    bool hasState = true; ///< false: what rests, or is in no claim
    bool isRound = false; ///< what comes to rest
    bool isOutside = false; ///< takes part, and no claim names it
    std::string words; ///< all of it, read out
};

struct Way {
    int from = 0, to = 0;
    bool isPower = false;
};

/// `by` looks at a contact of `from`.
struct Watch {
    int from = 0, by = 0;
};

struct Shortfall {
    std::vector<int> knots;
    std::string text;
};

struct PathContent {
    std::vector<Knot> knots;
    std::vector<Way> ways;
    std::vector<Watch> watches;
    std::vector<Shortfall> shortfalls;
    struct Heading {
        int first = 0, last = 0; ///< columns
        std::string text;
    };
    std::vector<Heading> headings;
    int columns = 0;
};

struct PathWords {
    std::array<std::string, 5> states; ///< by Knot::State
    std::string outside; ///< "in no claim"
    std::string watched; ///< at the dotted line
    std::string none; ///< nothing to show
};

/// As wide as wanted, at least as high. Spots are the knots, their items places in the list that was given. With a
/// chosen knot the ways through it and the contact that tells of it stand out. Pure.
Figure functionPath(const PathContent& content, const PathWords& words, double width, double height, int chosen = -1);

} // namespace ts::figures
