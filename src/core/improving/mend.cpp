#include "core/improving/mend.h"

#include "core/faults/parallel.h"

#include <algorithm>
#include <array>
#include <atomic>
#include <mutex>

namespace ts::improving {
namespace {

using faults::Outcome;

/// Offers that could change what a fault comes to; the others rename, remove or only show.
constexpr std::array<std::string_view, 8> kTried{"feedback_add", "interlock_add", "hold_add", "series_before",
    "series_after", "parallel", "part", "monitored_block"};
constexpr std::size_t kMostAnswers = 12; ///< of one question

int gravity(Outcome o)
{
    switch (o) {
    case Outcome::Lost:
        return 4;
    case Outcome::Undecided:
        return 3;
    case Outcome::Hidden:
        return 2;
    case Outcome::Caught:
        return 1;
    case Outcome::Safe:
    case Outcome::NotRun:
        break;
    }
    return 0;
}

struct Candidate {
    offers::Picked target;
    std::string offer;
    offers::Answers answers;
};

/// The offer's own first answers, and each other answer of each question by itself.
void addCandidates(const offers::Picked& target, const offers::Offer& offer, std::vector<Candidate>& out)
{
    const offers::Answers preset = offers::presetsOf(offer);
    out.push_back({target, offer.id, preset});
    for (const offers::Question& q : offer.questions)
        for (std::size_t k = 0; k < std::min(kMostAnswers, q.choices.size()); ++k)
            if (q.choices[k].value != q.preset) {
                offers::Answers answers = preset;
                answers[q.id] = q.choices[k].value;
                out.push_back({target, offer.id, std::move(answers)});
            }
}

std::vector<Candidate> candidatesOf(
    const DossierFile& file, const Plant& plant, const faults::SweptFault& fault, const SafetyFunction& function)
{
    std::vector<DeviceId> devices = fault.devices;
    if (std::find(devices.begin(), devices.end(), function.trigger.device) == devices.end())
        devices.push_back(function.trigger.device);
    std::vector<offers::Picked> targets;
    for (DeviceId id : devices) {
        targets.push_back({id, {}, {}});
        for (const PlantLink& l : plant.links)
            if (l.device >= 0 && plant.devices[static_cast<std::size_t>(l.device)].id == id)
                targets.push_back({id, l.role, {}});
        for (const PlantCoil& c : plant.coils) {
            const PlantImpedance& z = plant.impedances[static_cast<std::size_t>(c.impedance)];
            if (plant.devices[static_cast<std::size_t>(z.device)].id == id)
                targets.push_back({id, z.role, {}});
        }
    }
    std::vector<Candidate> out;
    for (const offers::Picked& t : targets)
        for (const offers::Offer& o : offers::offersFor(file.dossier, t))
            if (!o.removes && std::find(kTried.begin(), kTried.end(), o.id) != kTried.end())
                addCandidates(t, o, out);
    return out;
}

} // namespace

Expected<Tried> mendsOf(const DossierFile& file, const SafetyFunction& function, std::string_view fault,
    const Listener& listener, std::stop_token stop)
{
    const auto before = faults::tryFault(file.dossier, function, fault, stop);
    if (!before)
        return Unexpected{before.error()};
    const auto plant = compile(file.dossier.circuit);
    const std::vector<Candidate> candidates = candidatesOf(file, *plant, before->fault, function);
    std::vector<std::optional<Mend>> found(candidates.size());
    std::atomic<std::size_t> done{0};
    std::atomic<int> changes{0};
    std::mutex telling;
    const auto job = [&](std::size_t k, Workspace&) {
        const Candidate& c = candidates[k];
        const auto changed = offers::carriedOut(file, c.target, c.offer, c.answers);
        const SafetyFunction* same = changed ? changed->dossier.function(function.id) : nullptr;
        const auto after = same ? faults::tryFault(changed->dossier, *same, fault, stop)
                                : failure(ErrorCode::NotFound, message("sweep.no_fault", {std::string(fault)}));
        if (after) {
            ++changes;
            // What no longer starts cannot be lost either: that is no mend.
            if (after->notRunning == before->notRunning
                && gravity(after->outcome.overall) < gravity(before->outcome.overall))
                found[k] = Mend{c.target, c.offer, c.answers, after->outcome, *changed};
        }
        const std::size_t count = ++done;
        if (const std::unique_lock lock(telling, std::try_to_lock); lock && listener)
            listener(count, candidates.size());
    };
    if (!faults::forEachIndex(candidates.size(), 0, job, stop))
        return cancelled();
    Tried tried{before->outcome, {}, changes};
    for (auto& mend : found)
        if (mend && std::none_of(tried.mends.begin(), tried.mends.end(), [&](const Mend& m) {
                return m.changed == mend->changed;
            }))
            tried.mends.push_back(std::move(*mend));
    std::stable_sort(tried.mends.begin(), tried.mends.end(),
        [](const Mend& a, const Mend& b) { return gravity(a.outcome.overall) < gravity(b.outcome.overall); });
    return tried;
}

} // namespace ts::improving
