#pragma once
// The registry of design checks. A check reads the dossier and what has been worked out of it (results/results.h), and
// yields findings; no finding without evidence. What a check needs and is not there makes it *not made*: "checked"
// never stands for "looked at in part". To add one: a function in its group's file, a line in registry.cpp, wording, a
// test with and without.

#include "core/model/dossier.h"
#include "core/model/finding.h"
#include "core/results/results.h"

#include <span>
#include <vector>

namespace ts {

struct CheckInput {
    const Dossier& dossier;
    const Results& results;
};

/// What a check could not look at.
struct NotLookedAt {
    std::string study;
    Subject subject;
    Message why{}; ///< why the study came to nothing; empty: it was not run
    bool operator==(const NotLookedAt&) const = default;
};

struct Check {
    std::string_view id; ///< wording key "check.<id>"
    std::string_view group; ///< what it is part of: wording key "group.<group>"
    Remedy remedy; ///< of its findings that say nothing else
    std::string_view clause; ///< of the standard it rests on
    Subject::Kind about = Subject::Kind::Machine; ///< what it looks at, one by one
    std::string_view needs; ///< the study of each of these that it reads; empty: the dossier is enough
    void (*run)(const CheckInput&, std::vector<Finding>&); ///< looks at what is there; leaves out what is not
    bool (*concerns)(const Dossier&, const Subject&) = nullptr; ///< null: all of them
    /// What the study itself had to leave out: then the check is made in part only. Null: nothing.
    std::vector<NotLookedAt> (*leftOut)(const CheckInput&) = nullptr;
};

std::span<const Check> allChecks();
/// Null if there is none of this id.
const Check* checkNamed(std::string_view id);

struct CheckMade {
    std::string id, clause;
    int wanted = 0; ///< functions, motors it is about, and what was left out of them
    std::vector<NotLookedAt> missing; ///< those of them that it could not look at
    bool isWhole() const { return missing.empty(); }
    bool isAboutNothing() const { return wanted == 0; } ///< no function, no scenario: nothing was checked
    bool isNotMade() const { return wanted > 0 && static_cast<int>(missing.size()) == wanted; }
    bool operator==(const CheckMade&) const = default;
};

/// All checks, with what is known.
struct Checked {
    std::vector<Finding> findings; ///< the gravest first, then in the order of the registry
    std::vector<CheckMade> checks;
    bool isWhole() const;
    bool hasFaultFound() const; ///< a finding that is more than a note
    bool operator==(const Checked&) const = default;
};
/// Pure.
Checked checked(const Dossier& dossier, const Results& results);

/// One check by itself, of our own registry or made up. Pure.
CheckMade madeBy(const Check& check, const CheckInput& input, std::vector<Finding>& findings);

} // namespace ts
