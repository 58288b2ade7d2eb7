#include "app/places/machine/plan_preview.h"

#include "app/document/moment.h"
#include "app/words/words.h"
#include "core/patterns/advice.h"
#include "core/patterns/replan.h"
#include "core/results/on_record.h"
#include "core/studies/working_out.h"
#include "core/suggestions/suggestion.h"

#include <algorithm>

namespace ts::app {
namespace {

using Result = PlanPreview::Result;

/// Devices and ends of wires that were not there before, by their names.
void markNew(const Circuit& before, Result& result)
{
    const Circuit& now = result.file->dossier.circuit;
    std::set<std::pair<std::string, std::string>> wires;
    for (const Wire& w : before.wires)
        wires.insert({before.nameOf(w.from), before.nameOf(w.to)});
    for (const Device& d : now.devices)
        if (!before.device(d.tag))
            result.newDevices.insert(d.id);
    for (const Wire& w : now.wires)
        if (!wires.contains({now.nameOf(w.from), now.nameOf(w.to)})
            && !wires.contains({now.nameOf(w.to), now.nameOf(w.from)}))
            result.newTerminals.insert({w.from, w.to});
}

std::optional<Result> worked(
    const PlanWanted& wanted, const std::shared_ptr<const Result>& before, const std::stop_token& stop)
{
    Result result;
    if (wanted.there) {
        auto changed = patterns::replanned(*wanted.there, wanted.plan);
        if (changed) {
            result.file = std::move(changed->file);
            result.lost = std::move(changed->said);
        } else {
            result.refusal = changed.error();
        }
    } else if (auto file = patterns::machine(wanted.plan)) {
        result.file = std::move(*file);
    } else {
        result.refusal = file.error();
    }
    if (result.refusal)
        return result;
    if (wanted.there)
        markNew(wanted.there->dossier.circuit, result);
    else if (before && before->file)
        markNew(before->file->dossier.circuit, result);
    result.file->dossier.machine.plan.reasons = wanted.reasons;
    auto outcomes = scenarioOutcomes(result.file->dossier, stop);
    auto file = outcomes ? withSuggestedFunctions(
                    *result.file,
                    [](const SafetyFunction& f, const Circuit& c) { return words::suggestedName(f, c).toStdString(); },
                    patterns::riskOf(wanted.plan.shared()), stop)
                         : Expected<DossierFile>(Unexpected{outcomes.error()});
    if (file) {
        result.outcomes = std::move(outcomes->scenarios);
        result.file = std::move(*file);
    } else if (file.error().code == ErrorCode::Cancelled) {
        return std::nullopt;
    } else {
        result.refusal = file.error();
    }
    return result;
}

std::optional<Standing> standingAfterTrying(const Dossier& dossier, const std::stop_token& stop)
{
    Results results;
    results.put(kOnRecord.id, {}, Value::of(OnRecord{{}, dayNow()}));
    if (!workOut(dossier, {}, results, stop))
        return std::nullopt;
    return standingOf(dossier, results);
}

/// The words that the choice could have instead.
std::vector<std::string> otherWords(const patterns::PlanChoice& choice, const patterns::Plan& plan)
{
    std::vector<std::string> others;
    for (std::string_view w : patterns::wordsOf(choice)) {
        const std::string word(w);
        if (!choice.many) {
            if (!plan.is(choice.name, word))
                others.push_back(word);
            continue;
        }
        std::string turned;
        for (std::string_view each : patterns::wordsOf(choice))
            if (each != "none" && (plan.has(choice.name, each) != (each == w)))
                turned += (turned.empty() ? "" : "+") + std::string(each);
        if (word != "none")
            others.push_back(turned.empty() ? "none" : turned);
    }
    return others;
}

std::optional<std::vector<PlanPreview::School>> schoolsOf(
    const patterns::MachinePlan& plan, const patterns::ChoiceName& name, const std::stop_token& stop)
{
    std::vector<PlanPreview::School> schools;
    const patterns::PlanChoice& choice = *patterns::choiceNamed(name.name);
    const patterns::Plan& now = name.starter == 0 ? plan.shared() : *plan.starter(name.starter);
    for (const std::string& word : otherWords(choice, now)) {
        const std::string assignment = patterns::keptName(name.starter, name.name) + "=" + word;
        const auto other = plan.with({&assignment, 1});
        auto file = other ? patterns::machine(*other) : Expected<DossierFile>(Unexpected{other.error()});
        PlanPreview::School school{word, {}, {}, 0};
        if (file) {
            auto outcomes = scenarioOutcomes(file->dossier, stop);
            school.devices = file->dossier.circuit.devices.size();
            if (outcomes)
                school.outcomes = std::move(outcomes->scenarios);
            else
                school.refusal = outcomes.error();
        } else {
            school.refusal = file.error();
        }
        if (stop.stop_requested())
            return std::nullopt;
        schools.push_back(std::move(school));
    }
    return schools;
}

} // namespace

PlanPreview::PlanPreview(QObject* parent)
    : QObject(parent)
    , m_work(this)
    , m_trying(this)
    , m_comparing(this)
{
}

void PlanPreview::work(PlanWanted wanted)
{
    m_trying.drop();
    m_standing.reset();
    m_work.run(
        [wanted = std::move(wanted), before = m_result](std::stop_token stop) { return worked(wanted, before, stop); },
        [this](const std::shared_ptr<const Result>& result) {
            m_result = result;
            emit finished();
            tryIt();
        });
}

void PlanPreview::tryIt()
{
    if (!m_result->file || m_result->refusal)
        return;
    m_trying.run([result = m_result](std::stop_token stop) { return standingAfterTrying(result->file->dossier, stop); },
        [this](const std::shared_ptr<const Standing>& standing) {
            m_standing = standing;
            emit tried();
        });
}

void PlanPreview::compare(const patterns::MachinePlan& plan, const patterns::ChoiceName& choice)
{
    m_schools.reset();
    m_comparing.run([plan, choice](std::stop_token stop) { return schoolsOf(plan, choice, stop); },
        [this](const std::shared_ptr<const std::vector<School>>& schools) {
            m_schools = schools;
            emit compared();
        });
}

} // namespace ts::app
