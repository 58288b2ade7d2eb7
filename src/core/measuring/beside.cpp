#include "core/measuring/beside.h"

#include "core/base/at.h"
#include "core/measuring/panel.h"

#include <algorithm>
#include <optional>

namespace ts::measuring {
namespace {

/// What it is called, wherever it is put in.
std::string nameOf(const Plant& plant, const Stimulus& s)
{
    switch (s.kind) {
    case Stimulus::Kind::Drive:
        return operationText(plant, s);
    case Stimulus::Kind::SetKnob:
        return plant.knobs[at(s.slot)].name;
    default:
        return faultId(plant, s.fault);
    }
}

/// "M1 right" without its tag.
std::string howOf(const std::string& look)
{
    return look.substr(std::min(look.find(' ') + 1, look.size()));
}

/// The same on another circuit; none: nothing there is called so.
std::optional<Stimulus> sameOn(const Plant& other, const std::string& name, const Stimulus& done)
{
    Stimulus same = done;
    if (done.kind == Stimulus::Kind::SetKnob) {
        const auto it = std::find_if(
            other.knobs.begin(), other.knobs.end(), [&name](const PlantKnob& k) { return k.name == name; });
        same.slot = static_cast<int>(it - other.knobs.begin());
        return it == other.knobs.end() ? std::nullopt : std::optional(same);
    }
    if (done.kind == Stimulus::Kind::Drive) {
        const std::size_t space = std::min(name.find(' '), name.size());
        const auto found = stimulusFor(
            other, name.substr(0, space), name.substr(std::min(space + 1, name.size())), done.at);
        return found ? std::optional(*found) : std::nullopt;
    }
    const auto found = faultFrom(other, name);
    if (!found)
        return std::nullopt;
    same.fault = found->fault;
    return same;
}

} // namespace

bool Beside::follow(const BenchRun& first, BenchRun& other, const std::function<bool()>& outOfBudget)
{
    const std::vector<Stimulus>& script = first.script();
    const auto ahead = std::find_if(
        script.begin(), script.end(), [&first](const Stimulus& s) { return s.at > first.now(); });
    const auto done = static_cast<std::size_t>(ahead - script.begin());
    const bool isSame = done >= m_taken.size() && std::equal(m_taken.begin(), m_taken.end(), script.begin());
    if (!isSame || first.now() < other.now()) {
        other.restart();
        m_taken.clear();
        m_notThere.clear();
    }
    while (m_taken.size() < done) {
        const Stimulus& next = script[m_taken.size()];
        other.advanceTo(next.at, outOfBudget);
        if (other.now() < next.at)
            return false;
        take(first.plant(), next, other);
        m_taken.push_back(next);
    }
    other.advanceTo(first.now(), outOfBudget);
    return other.now() >= first.now();
}

void Beside::take(const Plant& first, const Stimulus& done, BenchRun& other)
{
    const std::string name = nameOf(first, done);
    if (const auto same = sameOn(other.plant(), name, done))
        return other.act(*same);
    if (std::find(m_notThere.begin(), m_notThere.end(), name) == m_notThere.end())
        m_notThere.push_back(name);
}

std::vector<Differing> differingNow(const BenchRun& first, const BenchRun& second)
{
    std::vector<Differing> all;
    for (std::size_t d = 0; d < first.plant().devices.size(); ++d) {
        const std::string& tag = first.plant().devices[d].tag;
        const int other = second.plant().deviceIndex(tag);
        if (other < 0)
            continue;
        const std::string a = lookOf(first.plant(), first.state(), static_cast<int>(d)),
                          b = lookOf(second.plant(), second.state(), other);
        if (!a.empty() && !b.empty() && a != b)
            all.push_back({tag, howOf(a), howOf(b)});
    }
    return all;
}

} // namespace ts::measuring
