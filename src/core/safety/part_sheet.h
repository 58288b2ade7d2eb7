#pragma once
// One part of a claim read into numbers, with an explanation of each. Internal to safety/; results are in level.h.

#include "core/safety/level.h"

namespace ts::safety {

/// Where values and remarks go.
struct SheetContext {
    const Dossier& dossier;
    const std::string& subsystem;
    FunctionLevel& function;
    std::vector<Message>& unmet;
    bool isEstimated = false; ///< of output parts without reliability data: none is read

    void miss(const char* id, std::vector<Argument> arguments = {});
    /// Said once, however many contacts of one device rest on it.
    void assume(Message what);
    ValueIndex value(std::string subject, const char* what, double si, const char* unit, const char* formula,
        std::vector<ValueIndex> inputs, Basis basis, std::string source);
    double si(ValueIndex i) const { return function.explanation[i].si; }
};

/// What is missing goes to the context's `unmet`; then the numbers are not to be used.
struct ReadPart {
    PartLevel level;
    ChainPart numbers;
};
ReadPart readPart(SheetContext context, const ClaimedPart& claim);

/// A measure of ccf_measures.csv in its words, shortened; what is none, as it is.
std::string ccfMeasureText(std::string_view id);

/// Points and answered measures of a claim against common cause failures.
ValueIndex readCommonCause(SheetContext context, const ClaimedSubsystem& claim);

} // namespace ts::safety
