#include "core/checks/explored.h"

#include "core/checks/groups.h"
#include "core/results/subjects.h"

namespace ts::checks {
namespace {

using namespace exploration;

struct Texts {
    const char *what, *consequence, *mend;
    Severity severity;
};

/// By claim; the last of them is told, not found fault with.
constexpr std::array<Texts, kClaims.size() - 1> kTexts{{
    {"finding.explored.never_joined", "consequence.explored.never_joined", "mend.explored.never_joined",
        Severity::Stop},
    {"finding.explored.pause_outlasts_arc", "consequence.explored.pause_outlasts_arc",
        "mend.explored.pause_outlasts_arc", Severity::Fix},
    {"finding.explored.stays_stopped", "consequence.explored.stays_stopped", "mend.explored.stays_stopped",
        Severity::Stop},
    {"finding.explored.no_start_by_supply", "consequence.explored.start", "mend.explored.start", Severity::Stop},
    {"finding.explored.no_start_by_reset", "consequence.explored.start", "mend.explored.start", Severity::Stop},
    {"finding.explored.no_start_by_return", "consequence.explored.start", "mend.explored.start", Severity::Stop},
    {"finding.explored.no_start_alone", "consequence.explored.start", "mend.explored.start", Severity::Stop},
    {"finding.explored.no_start_held", "consequence.start.held", "mend.start.held", Severity::Note},
    {"finding.explored.can_start", "consequence.explored.can_start", "mend.explored.can_start", Severity::Fix},
    {"finding.explored.no_forbidden_rest", "consequence.explored.no_forbidden_rest", "mend.explored.no_forbidden_rest",
        Severity::Stop},
}};

void addFinding(const Dossier& dossier, const MotorExplored& motor, const Proof& proof, std::vector<Finding>& out)
{
    if (proof.answer != Answer::CounterExample || proof.claim == Claim::NotEvenByHand)
        return;
    const Device* device = dossier.circuit.device(motor.motor);
    const SafetyFunction* function = dossier.function(proof.function);
    const std::string tag = device ? device->tag : "?";
    const Texts& texts = kTexts[static_cast<std::size_t>(proof.claim)];
    out.push_back({{}, texts.severity, {tag}, message(texts.what, {tag, function ? function->name : std::string()}),
        message(texts.consequence), message(texts.mend), "EN 60204-1",
        message("evidence.explored", {static_cast<long long>(proof.counter->order.size())}),
        {.aspect = Target::Aspect::Order, .device = motor.motor, .function = proof.function}});
}

} // namespace

std::vector<Finding> exploredFindings(const Dossier& dossier, const Explored& explored)
{
    std::vector<Finding> out;
    for (const MotorExplored& m : explored.motors) {
        for (const Proof& p : m.healthy.proofs)
            addFinding(dossier, m, p, out);
        for (const Proof& p : m.byHand ? m.byHand->proofs : std::vector<Proof>{})
            addFinding(dossier, m, p, out);
    }
    return out;
}

void everyOrder(const CheckInput& input, std::vector<Finding>& out)
{
    for (const Subject& motor : subjectsOf(Subject::Kind::Motor, input.dossier))
        if (const auto explored = input.results.find(kOrders, motor))
            for (Finding& f : exploredFindings(input.dossier, *explored))
                out.push_back(std::move(f));
}

} // namespace ts::checks
