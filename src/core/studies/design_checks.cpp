#include "core/checks/check.h"
#include "core/studies/entries.h"

#include <algorithm>
#include <array>

namespace ts::studies {
namespace {

constexpr std::array kAfter{kLevels.id};

/// Whatever any check needs.
std::span<const std::string_view> reads()
{
    static const std::vector<std::string_view> kAll = [] {
        std::vector<std::string_view> all;
        for (const Check& c : allChecks())
            if (!c.needs.empty() && std::find(all.begin(), all.end(), c.needs) == all.end())
                all.push_back(c.needs);
        return all;
    }();
    return kAll;
}

} // namespace

Study designChecks()
{
    Study s;
    s.id = kChecks.id;
    s.cost = Cost::Instant;
    s.after = kAfter;
    s.reads = reads();
    s.key = [](const Dossier&, const Subject&, const Fingerprint& f) { return f.whole + f.record; };
    s.run = [](const Dossier& dossier, const Subject&, const Results& earlier, WorkProgress&,
                std::stop_token) -> Expected<Value> {
        Checked all = checked(dossier, earlier);
        const std::size_t bytes = sizeof(Checked) + all.findings.size() * 2048;
        return Value::of(std::move(all), bytes);
    };
    return s;
}

} // namespace ts::studies
