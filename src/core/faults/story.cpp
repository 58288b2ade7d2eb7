#include "core/faults/story.h"

#include "core/base/at.h"
#include "core/faults/second_faults.h"

#include <algorithm>

namespace ts::faults {
namespace {

std::size_t frameOf(const std::vector<FrameTime>& times, Look look, int go)
{
    return static_cast<std::size_t>(std::find_if(times.begin(), times.end(), [&](const FrameTime& t) {
        return t.look == look && t.go == go;
    }) - times.begin());
}

std::size_t firstFrameFrom(const std::vector<FrameTime>& times, TimeNs when)
{
    return static_cast<std::size_t>(std::find_if(times.begin(), times.end() - 1, [when](const FrameTime& t) {
        return t.at >= when;
    }) - times.begin());
}

/// Which frames tell it: around the demand, or around a start that nobody wanted.
std::array<std::pair<SceneWhen, std::size_t>, 3> scenesOf(const Context& c, const RunResult& run, Moment moment)
{
    const int go = moment == Moment::AtReset ? 1 : 0;
    const auto demand = [&](int g) { return firstFrameFrom(c.times, c.cycle.goes[at(g)].demand + 1); };
    if (run.loss == Loss::StartsAlone)
        return {{{SceneWhen::AtRest, firstFrameFrom(c.times, c.cycle.atRest)},
            {SceneWhen::WhenLost, firstFrameFrom(c.times, run.lostAt + 1)},
            {SceneWhen::BeforeDemand, frameOf(c.times, Look::BeforeDemand, 0)}}};
    if (run.loss == Loss::StartsOnReset && run.lostAt < c.cycle.goes[0].demand)
        return {{{SceneWhen::AtRest, firstFrameFrom(c.times, c.cycle.atRest)},
            {SceneWhen::WhenLost, firstFrameFrom(c.times, run.lostAt + 1)},
            {SceneWhen::BeforeDemand, frameOf(c.times, Look::BeforeDemand, 0)}}};
    if (run.loss == Loss::StartsOnReset || run.loss == Loss::StartsOnRelease) {
        const int before = run.lostAt < c.cycle.goes[1].demand ? 0 : 1;
        return {
            {{SceneWhen::AfterDemand, demand(before)}, {SceneWhen::Watched, frameOf(c.times, Look::Released, before)},
                {SceneWhen::WhenLost, firstFrameFrom(c.times, run.lostAt + 1)}}};
    }
    return {{{SceneWhen::BeforeDemand, frameOf(c.times, Look::BeforeDemand, go)}, {SceneWhen::AfterDemand, demand(go)},
        run.loss == Loss::None && go == 0 ? std::pair{SceneWhen::AtReset, frameOf(c.times, Look::Started, 1)}
                                          : std::pair{SceneWhen::Watched, frameOf(c.times, Look::Released, go)}}};
}

bool isOn(const Plant& plant, const State& s, const StoryRow& row)
{
    const PlantDevice& d = plant.devices[at(row.device)];
    switch (row.what) {
    case StoryRow::What::Trigger:
        return s.travel[at(d.movers.front())] != 0;
    case StoryRow::What::Outputs:
        return s.relays[at(d.relays.back())].outputs;
    case StoryRow::What::Armature:
        return s.travel[at(d.movers.front())] == 2;
    case StoryRow::What::Motor:
        break;
    }
    return s.actuatorMode[at(d.actuator)] != MotorMode::AtRest;
}

std::vector<StoryRow> candidates(const Context& c)
{
    std::vector<StoryRow> rows;
    const Stimulus& trigger = *std::find_if(c.cycle.stimuli.begin(), c.cycle.stimuli.end(),
        [&](const Stimulus& s) { return s.at == c.cycle.goes[0].demand; });
    if (trigger.kind == Stimulus::Kind::Drive) // a supply that is lost has nothing that travels
        rows.push_back({c.plant.movers[at(trigger.slot)].device, StoryRow::What::Trigger});
    const auto addAll = [&](StoryRow::What what, const auto& belongs) {
        for (std::size_t d = 0; d < c.plant.devices.size(); ++d)
            if (belongs(c.plant.devices[d]))
                rows.push_back({static_cast<int>(d), what});
    };
    addAll(StoryRow::What::Outputs, [](const PlantDevice& d) { return !d.relays.empty(); });
    addAll(StoryRow::What::Armature, [&](const PlantDevice& d) {
        return !d.movers.empty() && d.relays.empty()
            && c.plant.movers[at(d.movers.front())].spec.driver == MoverSpec::Driver::Coil;
    });
    for (int m : c.cycle.motors)
        rows.push_back({c.plant.actuators[at(m)].device, StoryRow::What::Motor});
    return rows;
}

} // namespace

std::string_view nameOf(SceneWhen when)
{
    constexpr std::array<std::string_view, 7> names{
        "at_rest", "before_start", "before_demand", "after_demand", "watched", "at_reset", "when_lost"};
    return names[static_cast<std::size_t>(when)];
}

Expected<Story> storyOf(const Dossier& dossier, const SafetyFunction& function, const Sweep& sweep, int place,
    Moment moment, std::stop_token stop)
{
    const auto made = contextOf(dossier, function, stop);
    if (!made)
        return Unexpected{made.error()};
    const Context& c = **made;
    const auto m = static_cast<std::size_t>(moment);
    const FaultOutcome& outcome = sweep.outcomes[at(place)];
    const std::vector<Fault>& faults = sweep.faults[at(place)].variants[outcome.variant[m]];
    Workspace workspace;
    const auto always = [](std::size_t, const Stretch&, const State&) { return true; };
    const std::vector<Stimulus> supply = supplyCourse(c.plant, sweep.faults[at(place)], c.cycle.at(moment));
    const ForkedRun with = forkedRun(c.course, c.base, {faults, moment, true, {}, supply}, always, workspace, stop);
    Story story;
    story.script = c.cycle.stimuli;
    const auto insert = [&story](const Stimulus& s) {
        story.script.insert(std::lower_bound(story.script.begin(), story.script.end(), s,
                                [](const Stimulus& a, const Stimulus& b) { return a.at < b.at; }),
            s);
    };
    std::for_each(supply.begin(), supply.end(), insert);
    for (const Fault& f : faults) {
        Stimulus s;
        s.at = c.cycle.at(moment);
        s.kind = Stimulus::Kind::PutFault;
        s.fault = f;
        insert(s);
    }
    const auto scenes = scenesOf(c, outcome.runs[m], moment);
    std::vector<StoryRow> rows = candidates(c);
    for (std::size_t k = 0; k < scenes.size(); ++k) {
        const std::size_t frame = scenes[k].second;
        story.scenes[k] = {scenes[k].first, c.times[frame].at};
        // What was before the fault is the healthy circuit's; a run that chatters ends early.
        const auto& state = frame < with.first ? c.base.frames[frame] : with.frames[frame];
        for (StoryRow& row : rows) {
            row.isOnHealthy[k] = isOn(c.plant, *c.base.frames[frame], row);
            row.isOn[k] = state ? isOn(c.plant, *state, row) : row.isOnHealthy[k];
        }
    }
    std::erase_if(rows, [](const StoryRow& r) { // a contactor that is out all the time says nothing
        const auto none = [](const std::array<bool, 3>& a) {
            return std::none_of(a.begin(), a.end(), [](bool b) { return b; });
        };
        return r.what == StoryRow::What::Armature && none(r.isOn) && none(r.isOnHealthy);
    });
    story.rows = std::move(rows);
    story.showAt = story.scenes[outcome.runs[m].loss == Loss::None ? 1 : 2].at;
    return story;
}

} // namespace ts::faults
