#include "wording/test_words.h"

#include "core/library/table.h"
#include "wording/wording.h"

#include <algorithm>
#include <cmath>

namespace ts::wording {

using namespace measuring;

namespace {

std::string numberOf(const Circuit& circuit, WireId id)
{
    const Wire* w = circuit.wire(id);
    return w && !w->number.empty() ? w->number + " (" + circuit.nameOf(w->from) + " - " + circuit.nameOf(w->to) + ")"
                                   : std::to_string(id.value);
}

/// As it is printed on the wire.
std::string shortNumberOf(const Circuit& circuit, WireId id)
{
    const Wire* w = circuit.wire(id);
    return !w ? std::to_string(id.value) : w->number.empty() ? circuit.nameOf(w->from) : w->number;
}

constexpr double kMostOfClosed = 5.0, kLeastOfOpen = 0.9e6; ///< ohm

std::string figureText(double si, std::string_view unit)
{
    constexpr double kMega = 1e6;
    if (unit == "ohm" && si >= kMega)
        return number(si / kMega, "Mohm");
    return number(std::abs(si) < 1e-9 ? 0.0 : si, unit);
}

} // namespace

std::string mistakeText(const Circuit& circuit, const Mistake& m)
{
    const Device* device = circuit.device(m.device);
    const std::string tag = device ? device->tag : std::string();
    switch (m.kind) {
    case MistakeKind::Missing:
        return said("mistake.missing", {numberOf(circuit, m.wires.front().wire)});
    case MistakeKind::Broken:
        return said("mistake.broken", {numberOf(circuit, m.wires.front().wire)});
    case MistakeKind::OffOneEnd: {
        const Wire* wire = circuit.wire(m.wires.front().wire);
        const bool isFrom = m.id.ends_with("/from");
        return said("mistake.off",
            {numberOf(circuit, m.wires.front().wire), wire ? circuit.nameOf(isFrom ? wire->from : wire->to) : "?"});
    }
    case MistakeKind::Beside:
    case MistakeKind::OtherDevice:
        return said("mistake.beside",
            {numberOf(circuit, m.wires.front().wire), circuit.nameOf(m.wires.front().ends->first),
                circuit.nameOf(m.wires.front().ends->second)});
    case MistakeKind::Exchanged:
        return said("mistake.exchanged",
            {numberOf(circuit, m.wires[0].wire), numberOf(circuit, m.wires[1].wire),
                circuit.nameOf(m.wires[0].ends->first), circuit.nameOf(m.wires[0].ends->second)});
    case MistakeKind::LeftOut:
        return said("mistake.left_out", {m.id.substr(m.id.find('/') + 1)});
    case MistakeKind::CoilVoltage:
        return said("mistake.coil", {tag, Measured{m.coilV, "V"}});
    case MistakeKind::Inverted:
        return said("mistake.inverted", {m.contact, tag});
    }
    return m.id;
}

std::string mendText(const Circuit& circuit, const Mistake& m)
{
    if (m.kind == MistakeKind::CoilVoltage || m.kind == MistakeKind::Inverted)
        return said(m.kind == MistakeKind::Inverted ? "mend.contact" : "mend.coil",
            {circuit.device(m.device) ? circuit.device(m.device)->tag : "?", m.contact});
    if (m.kind == MistakeKind::Broken)
        return said("mend.broken", {numberOf(circuit, m.wires.front().wire)});
    std::vector<std::string> numbers, ends;
    for (const WireChange& change : m.wires) {
        const Wire* w = circuit.wire(change.wire);
        if (!w)
            continue;
        const std::string number = shortNumberOf(circuit, w->id);
        numbers.push_back(number);
        if (!change.ends)
            ends.push_back(said("mend.on", {number, circuit.nameOf(w->from), circuit.nameOf(w->to)}));
        else
            for (const auto& [is, right] : {std::pair{&change.ends->first, &w->from}, {&change.ends->second, &w->to}})
                if (*is != *right)
                    ends.push_back(said("mend.end", {number, circuit.nameOf(*is), circuit.nameOf(*right)}));
    }
    const std::string each = joined(ends, ", ");
    return numbers.size() == 2 && m.kind == MistakeKind::Exchanged ? said("mend.swap", {numbers[0], numbers[1], each})
                                                                   : each;
}

std::vector<std::string> situationLines(const Circuit& circuit, const Situation& in)
{
    std::vector<std::string> lines, lifted;
    for (const WireId w : in.lifted)
        lifted.push_back(shortNumberOf(circuit, w));
    if (!lifted.empty())
        lines.push_back(said("situation.lifted", {joined(lifted, ", ")}));
    if (!in.isolated.empty())
        lines.push_back(said("situation.isolated", {joined(in.isolated, ", ")}));
    for (std::string operation : in.bring) {
        std::replace(operation.begin(), operation.end(), '_', ' ');
        if (operation.find(" + ") != operation.npos)
            operation = said("situation.at_once", {operation});
        lines.push_back(in.power == Power::LockedOff ? said("situation.meanwhile", {operation}) : std::move(operation));
    }
    return lines;
}

std::string lookText(const Look& look)
{
    const std::string id = "look." + std::string(wordOf(look.with));
    if (look.with == Instrument::Person || look.with == Instrument::Tester) {
        const std::vector<Argument> names(look.at.begin() + 1, look.at.end());
        return sentence(message(std::string(wordOf(look.with)) + "." + look.at.front(), names));
    }
    if (look.with == Instrument::Eye && look.at.front().find(':') != std::string::npos)
        return said("look.wires", {joined(look.at, ", ")});
    const bool isBetween = isOhms(look.with) || isVolts(look.with) || look.with == Instrument::LoopOhms;
    return isBetween ? sentence(message(id, {look.at.front(), look.at.back()}))
                     : sentence(message(id, {joined(look.at, ", ")}));
}

std::string lookLine(const Circuit& circuit, const Situation& in, const Look& look)
{
    const std::string how = joined(situationLines(circuit, in), ", ");
    return how + (how.empty() ? "" : ": ") + lookText(look);
}

std::string suspectText(const Circuit& circuit, const Suspect& suspect)
{
    return suspect.mistake   ? mistakeText(circuit, *suspect.mistake)
        : suspect.id.empty() ? word("finder.as_drawn")
                             : suspect.id;
}

std::string readingText(const Reading& r, Instrument with)
{
    const std::string_view unit = unitOf(with);
    if (!r.word.empty() || unit.empty())
        return r.word;
    if (isOhms(with) && with != Instrument::Insulation && r.low >= kLeastOfOpen)
        return word("reading.open");
    if (isOhms(with) && r.high <= kMostOfClosed)
        return said("reading.closed", {figureText(r.high, unit)});
    if (r.high == kEndless)
        return said("reading.from", {figureText(r.low, unit)});
    return r.low == r.high ? figureText(r.low, unit)
                           : said("reading.between", {figureText(r.low, unit), figureText(r.high, unit)});
}

std::string hiddenText(const Circuit& circuit, const Unshown& h)
{
    return (h.mistake ? mistakeText(circuit, *h.mistake) : h.id) + ": "
        + word("hidden." + std::string(wordOf(h.reason)));
}

std::string suspectsText(const Circuit& circuit, const std::vector<Suspect>& suspects, std::size_t most)
{
    if (suspects.empty())
        return word("test.no_suspect");
    std::string text = said("test.suspects", {static_cast<long long>(suspects.size())});
    for (std::size_t k = 0; k < std::min(most, suspects.size()); ++k)
        text += '\n' + suspectText(circuit, suspects[k]);
    if (suspects.size() > most)
        text += "\n...";
    return text;
}

std::string partsText(const Circuit& circuit, const std::vector<std::string>& parts)
{
    std::vector<std::string> wires, others;
    for (const std::string& part : parts) {
        if (!part.starts_with("wire/")) {
            others.push_back(part);
            std::replace(others.back().begin(), others.back().end(), '/', ' ');
            continue;
        }
        const auto id = numberFrom(part.substr(part.find('/') + 1));
        const Wire* w = id ? circuit.wire(WireId{static_cast<int>(*id)}) : nullptr;
        if (w && (wires.empty() || wires.back() != shortNumberOf(circuit, w->id)))
            wires.push_back(shortNumberOf(circuit, w->id));
    }
    std::string text = wires.empty() ? "" : said("test.wires", {joined(wires, ", ")});
    if (!others.empty())
        text += (text.empty() ? "" : "; ") + joined(others, ", ");
    return text;
}

std::string durationText(double seconds)
{
    const auto minutes = std::max(static_cast<long long>(seconds / 60.0 + 0.5), 1LL);
    return minutes < 60 ? said("test.minutes", {minutes}) : said("test.hours", {minutes / 60, minutes % 60});
}

std::string coverageText(const TestPlan& plan)
{
    return said("test.coverage",
        {static_cast<long long>(plan.steps.size()), durationText(plan.seconds()), static_cast<long long>(plan.revealed),
            static_cast<long long>(plan.mistakes + plan.faults), static_cast<long long>(plan.hidden.size())});
}

} // namespace ts::wording
