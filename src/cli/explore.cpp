// explore FILE: every order of operation of every motor, healthy, with each single fault, and each interlock alone.

#include "core/exploration/explore.h"
#include "cli/commands.h"
#include "core/io/dossier_file.h"
#include "wording/exploration_texts.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace ts::cli {
namespace {

using namespace exploration;
using Json = nlohmann::ordered_json;

struct Told {
    const Dossier& dossier;
    const Plant& plant;
    Session& session;

    std::string tag(DeviceId id) const
    {
        const Device* d = dossier.circuit.device(id);
        return d ? d->tag : "?";
    }
    std::string operation(const Done& done) const { return wording::operationText(plant, done.operation); }
    std::string claim(const Proof& p, DeviceId motor) const { return wording::claimText(p, motor, dossier); }
};

Json jsonOf(const Searched& s, const Told& t)
{
    Json proofs = Json::array();
    for (const Proof& p : s.proofs) {
        Json j{{"claim", nameOf(p.claim)}, {"answer", nameOf(p.answer)}};
        if (t.dossier.function(p.function))
            j["function"] = p.function.value;
        if (p.counter) {
            Json order = Json::array();
            for (const Done& done : p.counter->order)
                order.push_back({{"at_s", static_cast<double>(done.at) * 1e-9}, {"operation", t.operation(done)}});
            j["order"] = std::move(order);
            j["shown_at_s"] = static_cast<double>(p.counter->shownAt) * 1e-9;
            j["only_at_limits_of_times"] = p.counter->onlyAtLimits;
        }
        proofs.push_back(std::move(j));
    }
    return {{"states", s.states}, {"transitions", s.transitions}, {"undecided", s.undecided}, {"bounded", s.isBounded},
        {"proofs", std::move(proofs)}};
}

void printJson(const Explored& e, const Told& t)
{
    Json motors = Json::array(), interlocks = Json::array();
    for (const MotorExplored& m : e.motors) {
        Json faults = Json::array();
        for (const FaultExplored& f : m.faults)
            faults.push_back({{"fault", f.fault}, {"searched", jsonOf(f.searched, t)}});
        Json j{{"motor", t.tag(m.motor)}, {"operated", m.operated}, {"left_alone", m.leftAlone},
            {"healthy", jsonOf(m.healthy, t)}};
        if (m.byHand)
            j["armatures_pushed"] = jsonOf(*m.byHand, t);
        j["with_fault"] = std::move(faults);
        motors.push_back(std::move(j));
    }
    for (const InterlockJudged& i : e.interlocks)
        interlocks.push_back(
            {{"contactors", {t.tag(i.contactors[0]), t.tag(i.contactors[1])}}, {"kind", nameOf(i.kind)},
                {"contacts", i.contacts}, {"alone", jsonOf(i.alone, t)}, {"without", jsonOf(i.without, t)}});
    print({{"format", "explore-1"}, {"motors", std::move(motors)}, {"interlocks", std::move(interlocks)}}, t.session);
}

void printCsv(const Explored& e, const Told& t)
{
    std::ostream& out = t.session.out;
    out << "motor,fault,claim,function,answer,operations,order\n";
    const auto lines = [&](const MotorExplored& m, const std::string& fault, const Searched& s) {
        for (const Proof& p : s.proofs) {
            std::string order;
            for (const Done& done : p.counter ? p.counter->order : std::vector<Done>{})
                order += (order.empty() ? "" : "; ") + t.operation(done);
            const SafetyFunction* f = t.dossier.function(p.function);
            out << csvCell(t.tag(m.motor)) << ',' << csvCell(fault) << ',' << nameOf(p.claim) << ','
                << csvCell(f ? f->name : "") << ',' << nameOf(p.answer) << ','
                << (p.counter ? std::to_string(p.counter->order.size()) : "") << ',' << csvCell(order) << '\n';
        }
    };
    for (const MotorExplored& m : e.motors) {
        lines(m, "", m.healthy);
        if (m.byHand)
            lines(m, "", *m.byHand);
        for (const FaultExplored& f : m.faults)
            lines(m, f.fault, f.searched);
    }
}

void printProofs(const Searched& s, DeviceId motor, const Told& t)
{
    for (const Proof& p : s.proofs) {
        t.session.out << "  " << t.claim(p, motor) << ": " << wording::answerText(p) << '\n';
        if (p.counter)
            for (const Done& done : p.counter->order)
                t.session.out << fmt::format(
                    "    {:>9.3f} s  {}\n", static_cast<double>(done.at) * 1e-9, t.operation(done));
    }
}

std::string joined(const std::vector<std::string>& words)
{
    return fmt::format("{}", fmt::join(words, ", "));
}

void printMotor(const MotorExplored& m, const Told& t)
{
    std::ostream& out = t.session.out;
    out << t.tag(m.motor) << '\n';
    out << fmt::format("  operated: {}, and the supply and each of its lines lost and back\n", joined(m.operated));
    if (!m.leftAlone.empty())
        out << fmt::format(
            "  left as they are, with no contact on a path to its contactors: {}\n", joined(m.leftAlone));
    out << fmt::format("  {} settled states, {} operations tried{}\n", m.healthy.states, m.healthy.transitions,
        m.healthy.isBounded ? ", ended at the bound" : "");
    if (m.healthy.undecided > 0)
        out << fmt::format("  after {} of them the circuit chatters: what follows is not known\n", m.healthy.undecided);
    printProofs(m.healthy, m.motor, t);
    if (m.byHand)
        printProofs(*m.byHand, m.motor, t);
    std::size_t held = 0;
    for (const FaultExplored& f : m.faults) {
        const bool holds = std::all_of(f.searched.proofs.begin(), f.searched.proofs.end(),
            [](const Proof& p) { return p.answer == Answer::Proved; });
        held += holds;
        if (holds)
            continue;
        out << "  with " << f.fault << ":\n";
        for (const Proof& p : f.searched.proofs)
            if (p.answer != Answer::Proved)
                out << "    " << t.claim(p, m.motor) << ": " << wording::answerText(p) << '\n';
    }
    if (!m.faults.empty())
        out << fmt::format(
            "  {} single faults tried, {} of them change none of these answers\n", m.faults.size(), held);
}

void printInterlock(const InterlockJudged& i, const Told& t)
{
    const auto answer = [](const Searched& s) { return wording::answerText(s.proofs.front()); };
    t.session.out << fmt::format("{} and {}: {}{}\n  alone: {}\n  all others without it: {}\n", t.tag(i.contactors[0]),
        t.tag(i.contactors[1]), wording::word("interlock." + std::string(nameOf(i.kind))),
        i.contacts.empty() ? "" : " (" + joined(i.contacts) + ")", answer(i.alone), answer(i.without));
}

/// Shown wrong is a finding; a search that reached its bound decided nothing.
int exitCodeOf(const Explored& e)
{
    int code = kInOrder;
    const auto look = [&code](const Searched& s) {
        for (const Proof& p : s.proofs)
            if (!isOnlyTold(p.claim) && p.answer == Answer::CounterExample)
                code = kFindings;
            else if (!isOnlyTold(p.claim) && p.answer == Answer::Bounded && code == kInOrder)
                code = kNotLookedAt;
    };
    for (const MotorExplored& m : e.motors) {
        look(m.healthy);
        if (m.byHand)
            look(*m.byHand);
    }
    return code;
}

} // namespace

int explore(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    exploration::Request request;
    request.motor = r.motor;
    request.withFaults = !r.withoutFaults;
    request.options.bound = r.bound;
    request.options.threads = r.threads;
    std::size_t told = 0;
    const auto listener = [&](const Progress& p) {
        const std::size_t step = p.done * 1000 + p.states / 1000; // a line for every search and every thousand states
        if (step == told)
            return;
        told = step;
        s.err << fmt::format("search {} of {}: {} states\n", std::min(p.done + 1, p.total), p.total, p.states);
    };
    const auto explored = exploration::explore(file->dossier, request, listener, s.stop);
    if (!explored)
        return fail(explored.error(), s);
    const Plant plant = *compile(file->dossier.circuit);
    const Told words{file->dossier, plant, s};
    if (r.json) {
        printJson(*explored, words);
    } else if (r.csv) {
        printCsv(*explored, words);
    } else {
        for (const MotorExplored& m : explored->motors)
            printMotor(m, words);
        for (const InterlockJudged& i : explored->interlocks)
            printInterlock(i, words);
        s.out << "one operation after the other has run its course; two hands, one thing of the plant out of order; "
                 "paths through other coils and inputs of electronics are not followed\n";
        s.out << wording::word("caution.text") << '\n';
    }
    return exitCodeOf(*explored);
}

} // namespace ts::cli
