#include "core/edit/scenario_edits.h"

#include <algorithm>

namespace ts::edit {
namespace {

constexpr std::size_t kLongestName = 200; ///< bytes: it stands in sentences; a file may have longer ones

Unexpected outOfRange(const char* id, std::vector<Argument> arguments = {})
{
    return failure(ErrorCode::OutOfRange, message(id, std::move(arguments)));
}

/// A copy of the dossier with the scenario changed by `change`, which says what is wrong with it.
template <class Change> Expected<Dossier> changed(const Dossier& dossier, ScenarioId id, const Change& change)
{
    Dossier after = dossier;
    const auto s = std::find_if(
        after.scenarios.begin(), after.scenarios.end(), [id](const Scenario& x) { return x.id == id; });
    if (s == after.scenarios.end())
        return failure(ErrorCode::NotFound, message("edit.no_scenario"));
    if (Expected<void> ok = change(*s); !ok)
        return Unexpected{ok.error()};
    return after;
}

Expected<void> within(const Scenario& s, double atS)
{
    if (!(atS >= 0.0 && atS <= s.lengthS))
        return outOfRange("edit.scenario_time", {Measured{s.lengthS, "s"}});
    return {};
}

/// A step that speaks of a device by its tag.
bool isOfDevice(const Step& step)
{
    return step.action != "set" && step.action != "fault" && step.action != "clear_fault";
}

template <class Item> Expected<void> put(std::vector<Item>& items, std::optional<std::size_t> place, Item item)
{
    if (place && *place >= items.size())
        return failure(ErrorCode::NotFound, message("edit.no_step"));
    if (place)
        items[*place] = std::move(item);
    else
        items.push_back(std::move(item));
    return {};
}

template <class Item> Expected<void> takeOut(std::vector<Item>& items, std::size_t place)
{
    if (place >= items.size())
        return failure(ErrorCode::NotFound, message("edit.no_step"));
    items.erase(items.begin() + static_cast<std::ptrdiff_t>(place));
    return {};
}

} // namespace

Expected<Dossier> withScenarioNamed(const Dossier& dossier, ScenarioId id, const std::string& name)
{
    const bool isBlank = std::all_of(name.begin(), name.end(), [](char c) { return c == ' '; });
    const bool isTaken = std::any_of(dossier.scenarios.begin(), dossier.scenarios.end(),
        [&](const Scenario& s) { return s.id != id && s.name == name; });
    if (isBlank || isTaken || name.size() > kLongestName)
        return outOfRange("edit.scenario_name");
    return changed(dossier, id, [&name](Scenario& s) -> Expected<void> {
        s.name = name;
        return {};
    });
}

Expected<Dossier> withScenarioLength(const Dossier& dossier, ScenarioId id, double lengthS)
{
    if (!(lengthS > 0.0 && lengthS <= kLongestScenarioS))
        return outOfRange("edit.scenario_length", {Measured{kLongestScenarioS, "s"}});
    return changed(dossier, id, [lengthS](Scenario& s) -> Expected<void> {
        double last = 0;
        for (const Step& step : s.steps)
            last = std::max(last, step.atS);
        for (const Expectation& e : s.expectations)
            last = std::max(last, e.atS);
        if (lengthS < last)
            return outOfRange("edit.scenario_shorter", {Measured{last, "s"}});
        s.lengthS = lengthS;
        return {};
    });
}

Expected<Dossier> withStep(const Dossier& dossier, ScenarioId id, std::optional<std::size_t> place, Step step)
{
    if (step.target.empty() || (isOfDevice(step) && !dossier.circuit.device(step.target)))
        return failure(ErrorCode::NotFound, message("scenario.no_device", {step.target}));
    return changed(dossier, id, [&](Scenario& s) -> Expected<void> {
        if (auto ok = within(s, step.atS); !ok)
            return ok;
        if (step.action == "operate" && !(step.value > 0.0 && step.atS + step.value <= s.lengthS))
            return outOfRange("edit.scenario_held", {Measured{s.lengthS, "s"}});
        return put(s.steps, place, std::move(step));
    });
}

Expected<Dossier> withoutStep(const Dossier& dossier, ScenarioId id, std::size_t place)
{
    return changed(dossier, id, [place](Scenario& s) { return takeOut(s.steps, place); });
}

Expected<Dossier> withExpectation(
    const Dossier& dossier, ScenarioId id, std::optional<std::size_t> place, Expectation expectation)
{
    if (!dossier.circuit.device(expectation.subject))
        return failure(ErrorCode::NotFound, message("scenario.no_device", {expectation.subject}));
    return changed(dossier, id, [&](Scenario& s) -> Expected<void> {
        if (auto ok = within(s, expectation.atS); !ok)
            return ok;
        return put(s.expectations, place, std::move(expectation));
    });
}

Expected<Dossier> withoutExpectation(const Dossier& dossier, ScenarioId id, std::size_t place)
{
    return changed(dossier, id, [place](Scenario& s) { return takeOut(s.expectations, place); });
}

Expected<Dossier> withoutScenario(const Dossier& dossier, ScenarioId id)
{
    for (const SafetyFunction& f : dossier.functions)
        if (f.demandScenario == id)
            return failure(ErrorCode::Refused, message("edit.scenario_shows", {f.name}));
    Dossier after = dossier;
    if (std::erase_if(after.scenarios, [id](const Scenario& s) { return s.id == id; }) == 0)
        return failure(ErrorCode::NotFound, message("edit.no_scenario"));
    after.machine.duty.timesPerHour.erase(id);
    return after;
}

} // namespace ts::edit
