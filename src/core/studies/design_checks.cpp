#include "core/checks/check.h"
#include "core/studies/entries.h"

#include <array>

namespace ts::studies {
namespace {

constexpr std::array kAfter{kLevels.id};
/// Whatever any check needs.
constexpr std::array kReads{
    kLevels.id, kSingleFaults.id, kSecondFaults.id, kBuilt.id, kWorstStop.id, kOrders.id, kDirected.id};

} // namespace

Study designChecks()
{
    Study s;
    s.id = kChecks.id;
    s.cost = Cost::Instant;
    s.after = kAfter;
    s.reads = kReads;
    s.key = [](const Dossier&, const Subject&, const Fingerprint& f) { return f.whole; };
    s.run = [](const Dossier& dossier, const Subject&, const Results& earlier, WorkProgress&,
                std::stop_token) -> Expected<Value> {
        Checked all = checked(dossier, earlier);
        const std::size_t bytes = sizeof(Checked) + all.findings.size() * 2048;
        return Value::of(std::move(all), bytes);
    };
    return s;
}

} // namespace ts::studies
