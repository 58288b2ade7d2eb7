#include "core/measuring/readings.h"

#include "core/base/date.h"
#include "core/base/plain_text.h"
#include "core/io/reading.h"
#include "core/library/table.h"
#include "core/measuring/rehearsal.h"
#include "core/record/record.h"

#include <sodium.h>

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <map>
#include <set>

namespace ts::measuring {
namespace {

constexpr std::string_view kFormat = "sentry-results-1";
constexpr std::size_t kMostEntries = 20'000;
constexpr double kMostFigure = 1e12;
constexpr std::size_t kDay = 10; ///< of ISO 8601: "2026-11-30"

std::string shortHash(std::string_view text)
{
    std::array<unsigned char, crypto_generichash_BYTES_MIN> digest{};
    crypto_generichash(
        digest.data(), digest.size(), reinterpret_cast<const unsigned char*>(text.data()), text.size(), nullptr, 0);
    std::string hex(9, '\0');
    sodium_bin2hex(hex.data(), hex.size(), digest.data(), 4);
    hex.pop_back();
    return hex;
}

std::string textOf(const ParameterValue& value)
{
    struct Visit {
        std::string operator()(bool b) const { return b ? "yes" : "no"; }
        std::string operator()(double d) const { return shortestText(d); }
        std::string operator()(const std::string& s) const { return s; }
        std::string operator()(const std::vector<std::string>& all) const
        {
            std::string text;
            for (const std::string& s : all)
                text += s + ",";
            return text;
        }
    };
    return std::visit(Visit{}, value);
}

/// What a part is at the moment: a wire by its ends and what it is made of, a device by kind and parameters.
std::string contentOf(const Circuit& circuit, std::string_view part)
{
    if (part.starts_with("wire/")) {
        const auto id = numberFrom(part.substr(5));
        const Wire* w = id ? circuit.wire(WireId{static_cast<int>(*id)}) : nullptr;
        return w ? circuit.nameOf(w->from) + '>' + circuit.nameOf(w->to) + '|' + shortestText(w->areaMm2) + '|'
                + shortestText(w->lengthM)
                 : "gone";
    }
    const Device* d = circuit.device(part.substr(0, part.find('/')));
    if (!d)
        return "gone";
    std::string text = d->kind + '|';
    if (const Part* p = circuit.part(d->part))
        for (const auto& [name, value] : p->parameters)
            text += name + '=' + textOf(value) + ';';
    for (const auto& [name, value] : d->parameters)
        text += name + '=' + textOf(value) + ';';
    return text;
}

/// "wire/12:1a2b3c4d wire/13:..." in texts that a file takes.
std::vector<std::string> coversOf(const TestStep& step, const Circuit& circuit)
{
    std::vector<std::string> texts;
    for (const std::string& part : step.shows) {
        const std::string one = part + ':' + shortHash(contentOf(circuit, part));
        if (texts.empty() || texts.back().size() + one.size() + 1 > io::kLongestItem)
            texts.emplace_back();
        texts.back() += (texts.back().empty() ? "" : " ") + one;
    }
    return texts;
}

std::map<std::string, std::string> partsIn(const TakenReading& r)
{
    std::map<std::string, std::string> parts;
    for (const std::string& text : r.covers)
        for (std::size_t from = 0; from < text.size();) {
            const std::size_t end = std::min(text.find(' ', from), text.size());
            const std::string_view one = std::string_view(text).substr(from, end - from);
            if (const std::size_t colon = one.rfind(':'); colon != one.npos)
                parts.emplace(one.substr(0, colon), one.substr(colon + 1));
            from = end + 1;
        }
    return parts;
}

/// Places of readings by step, the oldest first.
std::map<std::string, std::vector<std::size_t>> readingsIn(std::span<const RecordEntry> record)
{
    std::map<std::string, std::vector<std::size_t>> readings;
    for (std::size_t e = 0; e < record.size(); ++e)
        if (record[e].kind == "reading" && record[e].reading)
            readings[record[e].subject].push_back(e);
    return readings;
}

/// What parts are now, each hashed once.
class HashNow {
public:
    explicit HashNow(const Circuit& circuit)
        : m_circuit(circuit)
    {
    }
    const std::string& operator()(const std::string& part)
    {
        const auto [known, isNew] = m_hashes.try_emplace(part);
        if (isNew)
            known->second = shortHash(contentOf(m_circuit, part));
        return known->second;
    }

private:
    const Circuit& m_circuit;
    std::map<std::string, std::string> m_hashes;
};

Verdict judged(const RecordEntry& e, const Reading& expect)
{
    const TakenReading& r = *e.reading;
    if (!r.calibratedUntil.empty() && r.calibratedUntil < e.date.substr(0, r.calibratedUntil.size()))
        return Verdict::NotCalibrated;
    Reading taken{0, 0, r.word};
    if (r.value) {
        const double band = std::abs(*r.value) * r.uncertainty;
        taken = {*r.value - band, *r.value + band, {}};
    }
    return differ(expect, taken) ? Verdict::Disagrees : Verdict::Agrees;
}

std::string saidOf(const StepTaken& taken, const std::string& unit)
{
    if (!taken.value)
        return taken.word;
    return *taken.value >= kOverloadOhm ? "open" : shortestText(*taken.value) + ' ' + unit;
}

StepTaken stepTaken(io::ObjectReader& r)
{
    StepTaken t;
    t.step = r.text("step", true);
    t.who = r.text("who", true);
    t.at = r.text("at", true);
    r.object("instrument", [&t](io::ObjectReader& i) {
        t.instrument = i.text("name", true);
        t.calibratedUntil = i.date("calibrated_until");
        t.uncertainty = i.number("uncertainty", 0, 1, 0.0);
    });
    r.object("reading", [&t](io::ObjectReader& reading) {
        if (reading.find("value"))
            t.value = reading.number("value", -kMostFigure, kMostFigure);
        t.word = reading.text("word");
    });
    return t;
}

} // namespace

Recorded recordedOf(const Circuit& circuit, std::span<const RecordEntry> record)
{
    Recorded recorded;
    HashNow hashNow(circuit);
    for (const auto& [step, entries] : readingsIn(record)) {
        ++recorded.steps;
        const auto rests = partsIn(*record[entries.back()].reading);
        if (std::any_of(rests.begin(), rests.end(), [&](const auto& r) { return r.second != hashNow(r.first); }))
            recorded.changed.push_back(entries.back());
        else if (verdictOf(record[entries.back()]) == Verdict::Disagrees)
            recorded.disagree.push_back(entries.back());
    }
    std::sort(recorded.changed.begin(), recorded.changed.end());
    std::sort(recorded.disagree.begin(), recorded.disagree.end());
    return recorded;
}

Expected<SentResults> resultsFrom(std::string_view text)
{
    if (text.size() > kLargestResultsBytes)
        return failure(ErrorCode::Refused, message("results.too_large", {static_cast<long long>(text.size())}));
    const auto root = io::parseJson(text);
    if (!root)
        return Unexpected{root.error()};
    io::Trouble trouble;
    io::ObjectReader r(*root, "", trouble);
    SentResults results;
    if (const std::string format = r.text("format", true); !trouble.any() && format != kFormat)
        r.refuse(ErrorCode::Refused, message("file.unknown_format", {format}), "format");
    results.circuit = r.text("circuit", true);
    r.each("entries", kMostEntries, [&](io::ObjectReader& e) { results.entries.push_back(stepTaken(e)); });
    r.finish();
    if (trouble.any())
        return Unexpected{trouble.error()};
    return results;
}

Expected<RecordEntry> entryOf(
    const StepTaken& taken, const TestPlan& plan, const Dossier& dossier, std::span<const RecordEntry> record)
{
    const auto step = std::find_if(
        plan.steps.begin(), plan.steps.end(), [&taken](const TestStep& s) { return s.id == taken.step; });
    if (step == plan.steps.end())
        return failure(ErrorCode::NotFound, message("results.no_step", {taken.step}));
    for (const std::string& day : {taken.at.substr(0, kDay), taken.calibratedUntil})
        if (!isDate(day) && !(day.empty() && !taken.at.empty()))
            return failure(ErrorCode::OutOfRange, message("results.no_date", {taken.step, day}));
    const bool isFigure = !unitOf(step->look.with).empty();
    if (isFigure != taken.value.has_value() || isFigure != taken.word.empty())
        return failure(
            ErrorCode::OutOfRange, message(isFigure ? "results.figure_wanted" : "results.word_wanted", {taken.step}));
    if (taken.value && (*taken.value < 0 || !std::isfinite(*taken.value)))
        return failure(ErrorCode::OutOfRange, message("results.no_such_figure", {taken.step}));
    TakenReading r;
    r.value = taken.value;
    r.word = taken.word;
    r.unit = unitOf(step->look.with);
    if (isFigure) {
        r.low = step->expect.low;
        if (step->expect.high < kEndless)
            r.high = step->expect.high;
    }
    r.expected = step->expect.word;
    r.instrument = plainText(taken.instrument);
    r.calibratedUntil = taken.calibratedUntil;
    r.uncertainty = taken.uncertainty;
    r.covers = coversOf(*step, dossier.circuit);
    std::string text(wordOf(step->look.with));
    for (const std::string& at : step->look.at)
        text += ' ' + at;
    RecordEntry entry{
        taken.at, taken.who, text + ": " + saidOf(taken, r.unit), "reading", "tested", taken.step, {}, {}, {}, {}};
    entry.reading = std::move(r);
    return record::nextEntry(std::move(entry), record, dossier);
}

Expected<DossierFile> withResults(const SentResults& results, const TestPlan& plan, DossierFile file)
{
    const std::string here = circuitHash(file.dossier.circuit);
    if (results.circuit != here)
        return failure(
            ErrorCode::Refused, message("results.other_circuit", {results.circuit.substr(0, 12), here.substr(0, 12)}));
    for (const StepTaken& taken : results.entries) {
        auto entry = entryOf(taken, plan, file.dossier, file.record);
        if (!entry)
            return Unexpected{entry.error()};
        file.record.push_back(*std::move(entry));
    }
    return file;
}

Verdict verdictOf(const RecordEntry& reading)
{
    const TakenReading& r = *reading.reading;
    return judged(reading,
        r.expected.empty() ? Reading{r.low.value_or(0.0), r.high.value_or(kEndless), {}} : Reading{0, 0, r.expected});
}

Verdict verdictOf(const RecordEntry& reading, const Reading& expect)
{
    return judged(reading, expect);
}

std::string_view wordOf(Open open)
{
    constexpr std::array<std::string_view, 5> words{
        "not_done", "disagrees", "not_calibrated", "part_changed", "expectation_changed"};
    return words[static_cast<std::size_t>(open)];
}

std::vector<StepState> standingOf(const TestPlan& plan, const DossierFile& file)
{
    const auto readings = readingsIn(file.record);
    HashNow hashNow(file.dossier.circuit);
    const auto openOf = [&](const TestStep& step, const RecordEntry& last) -> std::optional<Open> {
        const auto then = partsIn(*last.reading);
        for (const std::string& part : step.covers) // of what it is the first to show, it must have been so then
            if (const auto it = then.find(part); it == then.end() || it->second != hashNow(part))
                return Open::PartChanged;
        const Verdict was = verdictOf(last);
        if (was == Verdict::NotCalibrated)
            return Open::NotCalibrated;
        if (was == Verdict::Disagrees)
            return Open::Disagrees;
        return verdictOf(last, step.expect) == Verdict::Agrees ? std::nullopt : std::optional(Open::ExpectationChanged);
    };
    std::vector<StepState> states;
    for (const TestStep& step : plan.steps) {
        StepState state{Open::NotDone, {}, false};
        if (const auto it = readings.find(step.id); it != readings.end()) {
            state.readings = it->second;
            state.open = openOf(step, file.record[state.readings.back()]);
            state.hasDisagreed = std::any_of(state.readings.begin(), state.readings.end(),
                [&](std::size_t e) { return verdictOf(file.record[e]) == Verdict::Disagrees; });
        }
        states.push_back(std::move(state));
    }
    return states;
}

std::optional<std::size_t> toProveDead(
    const TestPlan& plan, std::span<const RecordEntry> record, std::string_view today)
{
    std::map<std::string_view, const TestStep*> steps;
    for (const TestStep& s : plan.steps)
        steps.emplace(s.id, &s);
    std::set<std::string_view> taken; // since it was last live
    for (const RecordEntry& e : record) {
        const auto step = e.reading ? steps.find(e.subject) : steps.end();
        if (step == steps.end())
            continue;
        if (!isDead(step->second->stage))
            taken.clear();
        else if (verdictOf(e) == Verdict::Agrees && e.date.starts_with(today))
            taken.insert(e.subject);
        else
            taken.erase(e.subject);
    }
    for (std::size_t k = 0; k < plan.steps.size(); ++k)
        if (plan.steps[k].stage == Stage::Isolation && !taken.contains(plan.steps[k].id))
            return k;
    return std::nullopt;
}

std::size_t openBefore(const std::vector<StepState>& states, std::size_t step)
{
    return static_cast<std::size_t>(
        std::count_if(states.begin(), states.begin() + static_cast<std::ptrdiff_t>(std::min(step, states.size())),
            [](const StepState& s) { return s.open.has_value(); }));
}

std::optional<double> figureFrom(std::string_view text, Instrument with)
{
    std::string lower(text);
    std::transform(lower.begin(), lower.end(), lower.begin(),
        [](char c) { return static_cast<char>(std::tolower(static_cast<unsigned char>(c))); });
    if (isOhms(with) && (lower == "ol" || lower == "0l" || lower == "o.l" || lower == "open"))
        return kOverloadOhm;
    return writtenNumber(text);
}

Proof proofOf(const TestPlan& plan, const std::vector<StepState>& states)
{
    std::set<std::string> proved, open;
    for (std::size_t s = 0; s < plan.steps.size(); ++s)
        for (const std::string& part : plan.steps[s].covers)
            (states[s].open ? open : proved).insert(part);
    Proof proof;
    std::set_difference(proved.begin(), proved.end(), open.begin(), open.end(), std::back_inserter(proof.proved));
    std::set_intersection(proved.begin(), proved.end(), open.begin(), open.end(), std::back_inserter(proof.begun));
    return proof;
}

} // namespace ts::measuring
