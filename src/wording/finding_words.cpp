#include "wording/finding_words.h"

#include "wording/behaviour_text.h"
#include "wording/event_text.h"
#include "wording/test_words.h"
#include "wording/wording.h"

#include <cmath>

namespace ts::wording {

using namespace finding;

namespace {

constexpr std::size_t kMostSuspects = 3; ///< of the candidates behind an answer

long long percent(double share)
{
    return std::llround(100 * share);
}

/// `withMend`: what puts it right, where it has been found.
std::string classText(const Circuit& circuit, const Class& c, bool withMend)
{
    std::string text = said("finder.class", {percent(c.share)});
    for (std::size_t k = 0; k < c.candidates.size(); ++k) {
        text += "\n    " + suspectText(circuit, c.candidates[k]);
        if (withMend && c.candidates[k].mistake)
            text += "\n        " + said("finder.mend", {mendText(circuit, *c.candidates[k].mistake)});
        for (const measuring::Suspect& s : c.alike[k])
            text += "\n        " + said("finder.joins_the_same", {suspectText(circuit, s)});
    }
    return text;
}

std::string doneText(const measuring::Situation& in)
{
    std::vector<std::string> done;
    for (std::size_t k = 0; k < in.bring.size(); ++k) {
        const std::string& operation = in.bring[k];
        const std::size_t space = operation.find(' ');
        const std::string tag = operation.substr(0, space), action = operation.substr(space + 1);
        const bool isBrief = action == "press" && k + 1 < in.bring.size() && in.bring[k + 1] == tag + " release";
        done.push_back(handText((isBrief ? "operate" : action) + " " + tag));
        k += isBrief;
    }
    return done.empty() ? word("symptom.switched_on") : joined(done, ", ");
}

} // namespace

std::string handText(std::string_view hand)
{
    const std::size_t space = std::min(hand.find(' '), hand.size());
    const std::string action(hand.substr(0, space)), tag(hand.substr(std::min(space + 1, hand.size())));
    return action == "operate" ? said("symptom.operated", {tag}) : tag + " " + actionWord(action);
}

std::vector<std::string> symptomLines(const std::vector<Symptom>& symptoms)
{
    std::vector<std::string> lines;
    for (std::size_t k = 0; k < symptoms.size(); ++k) {
        const Symptom& s = symptoms[k];
        const std::string seen = said(s.isNot ? "symptom.is_not" : "symptom.is", {s.device, stateWord(s.state)});
        if (k > 0 && symptoms[k - 1].in == s.in)
            lines.back() += ", " + seen;
        else
            lines.push_back(doneText(s.in) + ": " + seen);
    }
    return lines;
}

bool areWiresCounted(const finding::Proposal& p)
{
    return p.look.with == measuring::Instrument::Eye && p.in.power == measuring::Power::LockedOff;
}

std::string answerText(const Outcome& o, const finding::Proposal& p)
{
    if (!areWiresCounted(p))
        return readingText(o.reading, p.look.with);
    if (o.reading == p.expect)
        return word("finder.counted_as_drawn");
    const auto partsOf = [](const std::string& word) {
        std::vector<std::string> parts;
        for (std::size_t from = 0; from < word.size();) {
            const std::size_t to = std::min(word.find(", ", from), word.size());
            parts.push_back(word.substr(from, to - from));
            from = to + 2;
        }
        return parts;
    };
    const auto read = partsOf(o.reading.word), drawn = partsOf(p.expect.word);
    std::vector<std::string> others;
    for (std::size_t k = 0; k < read.size() && k < drawn.size(); ++k)
        if (read[k] != drawn[k])
            others.push_back(read[k]);
    return said("finder.counted_otherwise", {joined(others, ", ")});
}

std::string outcomeText(const Circuit& circuit, const Outcome& o)
{
    std::vector<std::string> named;
    for (const measuring::Suspect& s : o.candidates)
        if (named.size() < kMostSuspects)
            named.push_back(suspectText(circuit, s));
    const auto more = static_cast<long long>(o.candidates.size() - named.size());
    const std::string text = joined(named, "; ");
    return more > 0 ? text + "; " + said("finder.more", {more}) : text;
}

std::string findingText(const Circuit& circuit, const Finding& f)
{
    if (f.isUnexplained) {
        std::string text = word("finder.not_on_the_list");
        if (!f.pairs.empty())
            text += '\n' + word("finder.pairs");
        for (const auto& [a, b] : f.pairs)
            text += "\n    " + said("finder.pair", {suspectText(circuit, a), suspectText(circuit, b)});
        return text;
    }
    std::string text = f.isConcluded ? word("finder.concluded") : said("finder.left", {static_cast<long long>(f.left)});
    for (const Class& c : f.classes)
        text += '\n' + classText(circuit, c, f.isConcluded);
    if (!f.next)
        return text;
    text += '\n' + word(f.next->isAgain ? "finder.again" : "finder.next") + ": "
        + lookLine(circuit, f.next->in, f.next->look);
    for (const Outcome& o : f.next->outcomes)
        text += "\n    " + answerText(o, *f.next) + ": " + outcomeText(circuit, o);
    if (areWiresCounted(*f.next))
        text += "\n    " + said("finder.drawn", {f.next->expect.word});
    return text;
}

} // namespace ts::wording
