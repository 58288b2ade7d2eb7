#include "core/faults/second_faults.h"

#include "core/base/at.h"
#include "core/faults/parallel.h"

#include <algorithm>

namespace ts::faults {
namespace {

const RunResult& runAt(const FaultOutcome& o, Moment m)
{
    return o.runs[static_cast<std::size_t>(m)];
}

/// Nothing can be added to it. A fault that only starts the machine at the reset leaves the stop to be lost.
bool isLostAlone(const FaultOutcome& o)
{
    return std::any_of(
        o.runs.begin(), o.runs.end(), [](const RunResult& r) { return isStopLost(r.loss) || r.isUndecided; });
}

bool losesRestart(const FaultOutcome& o)
{
    return std::any_of(
        o.runs.begin(), o.runs.end(), [](const RunResult& r) { return r.loss != Loss::None && !isStopLost(r.loss); });
}

/// It was there before anything started, and everything started and starts again.
bool goesUnnoticed(const FaultOutcome& o)
{
    return !runAt(o, Moment::AtRest).blocks;
}

const std::vector<Fault>& worstVariant(const SweptFault& f, const FaultOutcome& o, Moment m)
{
    return f.variants[o.variant[static_cast<std::size_t>(m)]];
}

/// Takes a connection away, or a voltage, and adds none.
bool onlyOpens(const Fault& f)
{
    return f.mode == FaultMode::LinkHeldOpen || f.mode == FaultMode::PolesOpen || f.mode == FaultMode::ImpedanceOpen
        || f.mode == FaultMode::SourceLost || f.mode == FaultMode::SupplyMissing
        || f.mode == FaultMode::TransformerOpen;
}

/// FNV-1a: which of the skipped faults are run all the same, always the same ones.
std::uint32_t checkHash(std::string_view id)
{
    std::uint32_t h = 2166136261u;
    for (char c : id)
        h = (h ^ static_cast<unsigned char>(c)) * 16777619u;
    return h;
}
constexpr std::uint32_t kCheckedShare = 20; ///< one in twenty

/// Both at one moment, watched until they can be noticed: at rest until something is started, else until the reset.
RunResult togetherRun(
    const Context& c, std::span<const Fault> both, Moment moment, Workspace& workspace, std::stop_token stop)
{
    Verdict verdict(c.course, c.base, c.healthy);
    const TimeNs end = moment == Moment::AtRest ? c.cycle.firstStart : c.cycle.goes[1].begins;
    const auto watcher = [&](std::size_t frame, const Stretch& stretch, const State& state) {
        return verdict(frame, stretch, state) && (frame + 1 == c.times.size() || c.times[frame + 1].at < end);
    };
    forkedRun(c.course, c.base, {both, moment, moment == Moment::AtRest}, watcher, workspace, std::move(stop));
    return verdict.result();
}

/// A second fault comes just before a demand while the first is hidden: demand, release, reset, and if need be the
/// start.
struct AfterRun {
    RunResult result;
    bool isNoticed = false; ///< by a device
    ForkedRun passage;
};
AfterRun afterRun(const Context& c, const ForkedRun& hidden, std::span<const Fault> second, Look until,
    std::span<const ForkedRun> same, Workspace& workspace, std::stop_token stop)
{
    Verdict verdict(c.course, hidden, c.healthy);
    const auto watcher = [&](std::size_t frame, const Stretch& stretch, const State& state) {
        return verdict(frame, stretch, state) && !(c.times[frame].look == until && c.times[frame].go == 1);
    };
    ForkedRun passage = forkedRun(
        c.course, hidden, {second, Moment::JustBefore, false, same}, watcher, workspace, std::move(stop));
    return {verdict.result(), verdict.result().notice.grade == Grade::Automatic, std::move(passage)};
}

/// One fault alone from before the start on, unnoticed; what is before it is the healthy circuit's. None if it
/// chatters or was cancelled.
std::optional<ForkedRun> hiddenRun(
    const Context& c, std::span<const Fault> faults, Workspace& workspace, std::stop_token stop)
{
    const auto always = [](std::size_t, const Stretch&, const State&) { return true; };
    ForkedRun whole = forkedRun(c.course, c.base, {faults, Moment::AtRest, true}, always, workspace, std::move(stop));
    if (whole.pause != Pause::Reached)
        return {};
    for (std::size_t k = 0; k < whole.first; ++k) {
        whole.frames[k] = c.base.frames[k];
        whole.stretches[k] = c.base.stretches[k];
    }
    return whole;
}

std::size_t bytesOf(const State& state)
{
    std::size_t bytes = sizeof(State);
    forEachField(state, [&bytes](const auto& field) {
        if constexpr (requires { field.data(); })
            bytes += field.size() * sizeof(*field.data());
    });
    return bytes;
}

/// Of one fault as the first one of pairs, and of those that come after it.
struct Row {
    std::vector<FaultPair> pairs;
    std::vector<std::pair<int, int>> hides; ///< fault, and what it hides: the first one it was tried with here
    std::size_t runs = 0;
};

class SecondFaultRuns {
public:
    SecondFaultRuns(const Context& c, const Sweep& s, std::stop_token stop)
        : m_c(c)
        , m_s(s)
        , m_stop(std::move(stop))
    {
        for (std::size_t k = 0; k < s.faults.size(); ++k)
            if (!s.faults[k].isExcluded && s.faults[k].family != Family::CommonCause && !isLostAlone(s.outcomes[k])) {
                const bool isSkipped = stopsAlways(k),
                           isChecked = isSkipped && checkHash(s.faults[k].id) % kCheckedShare == 0;
                m_skipped += isSkipped;
                m_checked += isChecked;
                if (!isSkipped || isChecked)
                    m_candidates.push_back(static_cast<int>(k));
            }
    }

    const std::vector<int>& candidates() const { return m_candidates; }
    int skipped() const { return m_skipped; }
    int checked() const { return m_checked; }

    /// Runs each hidden fault by itself, so that two of them can be run in both orders one after the other: the
    /// situation at the demand is most often the same. Not where the frames of all would take too much memory. False
    /// if cancelled.
    bool prepare(int threads)
    {
        constexpr std::size_t kMostBytes = 256u << 20;
        std::size_t count = 0;
        for (std::size_t index = 0; index < m_candidates.size(); ++index)
            count += isHidden(index);
        if (count * m_c.times.size() * bytesOf(*m_c.base.frames.front()) > kMostBytes)
            return true;
        m_hidden.resize(m_candidates.size());
        const auto job = [&](std::size_t index, Workspace& workspace) {
            if (isHidden(index))
                m_hidden[index] = hiddenRunOf(index, workspace);
        };
        return forEachIndex(m_candidates.size(), threads, job, m_stop, m_c.memory);
    }

    Row row(std::size_t index, Workspace& workspace) const
    {
        Row row;
        if (isHidden(index)) {
            tryAfter(index, row, workspace);
            return row;
        }
        for (std::size_t k = index + 1; k < m_candidates.size() && !m_stop.stop_requested(); ++k)
            if (!isHidden(k))
                tryTogether(m_candidates[index], m_candidates[k], row, workspace);
        return row;
    }

private:
    /// Whenever it comes, the machine cannot be started with it, and it opens something or stops the machine at once:
    /// nothing that closes elsewhere stops less because of it.
    bool stopsAlways(std::size_t k) const
    {
        const SweptFault& fault = m_s.faults[k];
        const FaultOutcome& o = m_s.outcomes[k];
        if (!std::all_of(o.runs.begin(), o.runs.end(), [](const RunResult& r) { return r.blocks; }))
            return false;
        if (fault.family == Family::Short)
            return runAt(o, Moment::AtRest).notice.when == NoticedWhen::BeforeDemand
                && runAt(o, Moment::Running).notice.when == NoticedWhen::BeforeDemand;
        return std::all_of(fault.variants.begin(), fault.variants.end(),
            [](const std::vector<Fault>& v) { return std::all_of(v.begin(), v.end(), onlyOpens); });
    }

    /// A loss that neither makes alone.
    bool isMore(Loss loss, int first, int second) const
    {
        return isStopLost(loss)
            || (loss != Loss::None && !losesRestart(m_s.outcomes[at(first)])
                && !losesRestart(m_s.outcomes[at(second)]));
    }

    void tryTogether(int first, int second, Row& row, Workspace& workspace) const
    {
        for (Moment moment : {Moment::JustBefore, Moment::AtRest}) {
            std::vector<Fault> both = worstVariant(m_s.faults[at(first)], m_s.outcomes[at(first)], moment);
            const auto& other = worstVariant(m_s.faults[at(second)], m_s.outcomes[at(second)], moment);
            both.insert(both.end(), other.begin(), other.end());
            const RunResult run = togetherRun(m_c, both, moment, workspace, m_stop);
            ++row.runs;
            if (isMore(run.loss, first, second)) {
                row.pairs.push_back({first, second, moment, false, run});
                return;
            }
        }
    }

    bool isHidden(std::size_t index) const { return goesUnnoticed(m_s.outcomes[at(m_candidates[index])]); }

    std::optional<ForkedRun> hiddenRunOf(std::size_t index, Workspace& workspace) const
    {
        const int k = m_candidates[index];
        return hiddenRun(m_c, worstVariant(m_s.faults[at(k)], m_s.outcomes[at(k)], Moment::AtRest), workspace, m_stop);
    }

    /// Whether it is put in the same way from the beginning and just before the demand.
    bool happensAlike(std::size_t index) const
    {
        const FaultOutcome& o = m_s.outcomes[at(m_candidates[index])];
        return o.variant[static_cast<std::size_t>(Moment::AtRest)]
            == o.variant[static_cast<std::size_t>(Moment::JustBefore)];
    }

    /// The first one is there and hidden; then each other one. Of two hidden ones the other order at once.
    void tryAfter(std::size_t first, Row& row, Workspace& workspace) const
    {
        const bool isPrepared = !m_hidden.empty();
        const std::optional<ForkedRun> own = isPrepared ? std::nullopt : hiddenRunOf(first, workspace);
        const std::optional<ForkedRun>& hidden = isPrepared ? m_hidden[first] : own;
        ++row.runs;
        for (std::size_t second = 0; second < m_candidates.size() && !m_stop.stop_requested(); ++second) {
            const bool isTurned = isPrepared && isHidden(second); // then it is of the earlier one's row
            if (second == first || (isTurned && second < first))
                continue;
            std::vector<ForkedRun> passage;
            if (hidden)
                passage.push_back(tryAfter(first, second, *hidden, {}, row, workspace));
            if (!isTurned || !m_hidden[second])
                continue;
            if (!happensAlike(first) || !happensAlike(second))
                passage.clear();
            tryAfter(second, first, *m_hidden[second], passage, row, workspace);
        }
    }

    /// `same`: of the other order.
    ForkedRun tryAfter(std::size_t hiddenIndex, std::size_t secondIndex, const ForkedRun& hidden,
        std::span<const ForkedRun> same, Row& row, Workspace& workspace) const
    {
        const int first = m_candidates[hiddenIndex], second = m_candidates[secondIndex];
        const FaultOutcome& alone = m_s.outcomes[at(second)];
        const RunResult& before = runAt(alone, Moment::JustBefore);
        const bool isNoticedAlone = before.blocks && before.notice.grade == Grade::Automatic
            && before.notice.when <= NoticedWhen::OnRestart;
        const Look until = isNoticedAlone && before.notice.when == NoticedWhen::OnRestart ? Look::Started
                                                                                          : Look::BeforeStart;
        AfterRun run = afterRun(m_c, hidden, worstVariant(m_s.faults[at(second)], alone, Moment::JustBefore), until,
            same, workspace, m_stop);
        ++row.runs;
        if (isMore(run.result.loss, first, second))
            row.pairs.push_back({first, second, Moment::JustBefore, true, run.result});
        else if (isNoticedAlone && !run.isNoticed
            && std::none_of(row.hides.begin(), row.hides.end(), [first](const auto& h) { return h.first == first; }))
            row.hides.emplace_back(first, second);
        return std::move(run.passage);
    }

    const Context& m_c;
    const Sweep& m_s;
    std::stop_token m_stop;
    std::vector<int> m_candidates;
    std::vector<std::optional<ForkedRun>> m_hidden; ///< by candidate; empty: each row runs its own
    int m_skipped = 0, m_checked = 0;
};

void keepWorst(std::vector<FaultPair>& pairs)
{
    for (FaultPair& p : pairs)
        if (!p.firstIsHidden && p.first > p.second)
            std::swap(p.first, p.second);
    std::sort(pairs.begin(), pairs.end(), [](const FaultPair& a, const FaultPair& b) {
        const auto key = [](const FaultPair& p) {
            return std::tuple(
                std::min(p.first, p.second), std::max(p.first, p.second), !p.firstIsHidden, p.first, p.moment);
        };
        return key(a) < key(b);
    });
    pairs.erase(std::unique(pairs.begin(), pairs.end(),
                    [](const FaultPair& a, const FaultPair& b) {
                        return std::minmax(a.first, a.second) == std::minmax(b.first, b.second);
                    }),
        pairs.end());
}

} // namespace

std::vector<Stimulus> otherDemands(const Context& c)
{
    Workspace workspace;
    std::vector<Stimulus> ways;
    const auto before = std::find_if(
        c.times.begin(), c.times.end(), [](const FrameTime& t) { return t.look == Look::BeforeDemand; });
    const State& running = *c.base.frames[static_cast<std::size_t>(before - c.times.begin())];
    const Stimulus& trigger = *std::find_if(c.cycle.stimuli.begin(), c.cycle.stimuli.end(),
        [&](const Stimulus& s) { return s.at == c.cycle.goes[0].demand; });
    const auto isTrigger = [&](int mover) { return trigger.kind == Stimulus::Kind::Drive && trigger.slot == mover; };
    for (const PlantDevice& d : c.plant.devices)
        for (const auto& [word, what] : d.actions) {
            const MoverSpec& mover = c.plant.movers[at(what.first)].spec;
            if (mover.driver != MoverSpec::Driver::Operator || isTrigger(what.first)
                || what.second == running.travel[at(what.first)] || what.second == mover.initial)
                continue;
            Stimulus s;
            s.at = running.now;
            s.slot = what.first;
            s.target = what.second;
            State state = running;
            Trace trace;
            advance(c.plant, state, {&s, 1}, {running.now + kSecondNs, {}, {}, false}, trace, workspace);
            const auto stops = [&](int m) {
                return running.actuatorMode[at(m)] != MotorMode::Driven
                    || state.actuatorMode[at(m)] != MotorMode::Driven;
            };
            const bool isSupplied = std::equal(state.relays.begin(), state.relays.end(), running.relays.begin(),
                [](const RelayWord& a, const RelayWord& b) { return a.powered == b.powered; });
            if (isSupplied && std::all_of(c.cycle.motors.begin(), c.cycle.motors.end(), stops))
                ways.push_back(s);
        }
    return ways;
}

std::string forgottenBy(const Context& c, const std::vector<Stimulus>& ways, const SweptFault& fault,
    const FaultOutcome& outcome, Workspace& workspace, std::stop_token stop)
{
    const RunResult& noticed = runAt(outcome, Moment::JustBefore);
    if (isLostAlone(outcome) || losesRestart(outcome) || !noticed.blocks
        || noticed.notice.when == NoticedWhen::BeforeDemand || noticed.notice.grade != Grade::Automatic)
        return {};
    const auto startsAgain = [&](std::vector<Stimulus> more) {
        const std::vector<Stimulus> supply = supplyCourse(c.plant, fault, c.cycle.at(Moment::JustBefore));
        more.insert(more.begin(), supply.begin(), supply.end());
        Verdict verdict(c.course, c.base, c.healthy);
        bool starts = false;
        const auto watcher = [&](std::size_t frame, const Stretch& stretch, const State& state) {
            verdict(frame, stretch, state);
            const bool isSeen = c.times[frame].look == Look::BeforeDemand && c.times[frame].go == 1;
            if (isSeen)
                starts = std::all_of(c.cycle.motors.begin(), c.cycle.motors.end(), [&](int m) {
                    return c.base.frames[frame]->actuatorMode[at(m)] != MotorMode::Driven
                        || state.actuatorMode[at(m)] == MotorMode::Driven;
                });
            return !isSeen;
        };
        forkedRun(c.course, c.base,
            {worstVariant(fault, outcome, Moment::JustBefore), Moment::JustBefore, false, {}, more}, watcher, workspace,
            stop);
        return starts;
    };
    const TimeNs off = c.cycle.goes[0].released + kSecondNs / 10, on = off + kSecondNs / 2;
    for (Stimulus away : ways) {
        Stimulus back = away;
        away.at = off;
        back.at = on;
        back.target = c.plant.movers[at(away.slot)].spec.initial;
        if (startsAgain({away, back}))
            return std::string(kForgottenByOperating) + c.plant.devices[at(c.plant.movers[at(away.slot)].device)].tag;
    }
    std::vector<Stimulus> supply;
    for (TimeNs t : {off, on})
        for (std::size_t k = 0; k < c.plant.knobs.size(); ++k) {
            Stimulus s;
            s.at = t;
            s.kind = Stimulus::Kind::SetKnob;
            s.slot = static_cast<int>(k);
            s.value = t == off ? 0.0 : c.plant.knobs[k].initial;
            supply.push_back(s);
        }
    return startsAgain(supply) ? std::string(kForgottenBySupply) : "";
}

bool addSecondFaults(
    const Context& c, Sweep& s, const SweepOptions& options, const SweepListener& listener, std::stop_token stop)
{
    SecondFaultRuns second(c, s, stop);
    if (!second.prepare(options.threads))
        return false;
    const std::size_t count = second.candidates().size();
    std::vector<Row> rows(count);
    Ticker ticker(listener, SweepProgress::Stage::Pairs, count);
    const auto job = [&](std::size_t k, Workspace& workspace) {
        if (static_cast<int>(k) % options.shards == options.shard)
            rows[k] = second.row(k, workspace);
        ticker.add(1);
    };
    if (!forEachIndex(count, options.threads, job, std::move(stop), c.memory))
        return false;
    SecondFaults found;
    for (std::size_t k = 0; k < count; ++k) {
        found.pairs.insert(found.pairs.end(), rows[k].pairs.begin(), rows[k].pairs.end());
        found.hides.insert(found.hides.end(), rows[k].hides.begin(), rows[k].hides.end());
        found.runCount += rows[k].runs;
    }
    found.skippedCount = second.skipped();
    found.checkedCount = second.checked();
    s = withSecondFaults(std::move(s), found);
    return true;
}

SecondFaults secondFaultsOf(const Sweep& sweep)
{
    SecondFaults found{sweep.pairs, {}, sweep.pairRunCount, sweep.skippedCount, sweep.checkedCount};
    for (std::size_t k = 0; k < sweep.outcomes.size(); ++k)
        if (sweep.outcomes[k].hides >= 0)
            found.hides.emplace_back(static_cast<int>(k), sweep.outcomes[k].hides);
    return found;
}

Sweep withSecondFaults(Sweep s, const SecondFaults& found)
{
    s.pairs = found.pairs;
    keepWorst(s.pairs);
    s.pairRunCount = found.runCount;
    s.skippedCount = found.skippedCount;
    s.checkedCount = found.checkedCount;
    s.hasPairs = true;
    for (FaultOutcome& o : s.outcomes)
        o.hides = o.mate = -1;
    for (const auto& [fault, other] : found.hides)
        if (int& hides = s.outcomes[at(fault)].hides; hides < 0 || other < hides)
            hides = other;
    decide(s);
    return s;
}

void decide(Sweep& s)
{
    for (const FaultPair& p : s.pairs)
        for (const auto& [one, other] : {std::pair{p.first, p.second}, {p.second, p.first}})
            if (s.outcomes[at(one)].mate < 0)
                s.outcomes[at(one)].mate = other;
    for (std::size_t k = 0; k < s.outcomes.size(); ++k) {
        FaultOutcome& o = s.outcomes[k];
        if (!o.isRun)
            continue;
        const bool hidesHarm = o.hides >= 0 && s.outcomes[at(o.hides)].mate >= 0; // hiding what would do no harm is no
                                                                                  // harm
        const bool isCommon = s.faults[k].family == Family::CommonCause; // alone by itself: what is not lost and not
                                                                         // noticed is safe
        const bool isDisturbance = !s.faults[k].supply.empty(); // it passes: what stops by it and stays off is safe
        const bool counts = isDisturbance ? false
            : isCommon                    ? o.runs.front().blocks
                                          : !s.hasPairs || s.faults[k].isExcluded || o.mate >= 0 || hidesHarm;
        for (std::size_t m = 0; m < o.runs.size(); ++m) {
            const RunResult& r = o.runs[m];
            const bool caught = r.blocks && o.forgottenBy.empty() && r.notice.grade != Grade::LampOnly;
            o.outcomes[m] = r.loss != Loss::None ? Outcome::Lost
                : r.isUndecided                  ? Outcome::Undecided
                : !counts                        ? Outcome::Safe
                : caught                         ? Outcome::Caught
                                                 : Outcome::Hidden;
        }
        const auto worst = [](Outcome x) {
            return x == Outcome::Lost     ? 5
                : x == Outcome::Undecided ? 4
                : x == Outcome::Hidden    ? 3
                : x == Outcome::Caught    ? 2
                                          : 1;
        };
        o.overall = *std::max_element(
            o.outcomes.begin(), o.outcomes.end(), [&](Outcome a, Outcome b) { return worst(a) < worst(b); });
    }
}

} // namespace ts::faults
