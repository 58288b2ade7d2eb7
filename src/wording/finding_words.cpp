#include "wording/finding_words.h"

#include "wording/test_words.h"
#include "wording/wording.h"

#include <cmath>

namespace ts::wording {

using namespace finding;

namespace {

constexpr std::size_t kMostNamed = 3; ///< of the candidates behind an answer

long long percent(double share)
{
    return std::llround(100 * share);
}

std::string classText(const Circuit& circuit, const Class& c)
{
    std::string text = said("find.class", {percent(c.share)});
    for (std::size_t k = 0; k < c.candidates.size(); ++k) {
        text += "\n    " + suspectText(circuit, c.candidates[k]);
        for (const measuring::Suspect& s : c.alike[k])
            text += "\n        " + said("find.joins_the_same", {suspectText(circuit, s)});
    }
    return text;
}

} // namespace

std::string outcomeText(const Circuit& circuit, const Proposal& p, const Outcome& o)
{
    std::vector<std::string> named;
    for (const measuring::Suspect& s : o.candidates)
        if (named.size() < kMostNamed)
            named.push_back(suspectText(circuit, s));
    const auto more = static_cast<long long>(o.candidates.size() - named.size());
    std::string text = readingText(o.reading, p.look.with) + ": " + joined(named, "; ");
    return more > 0 ? text + "; " + said("find.more", {more}) : text;
}

std::string findingText(const Circuit& circuit, const Finding& f)
{
    if (f.isUnexplained)
        return word("find.not_on_the_list");
    std::string text = f.isConcluded ? word("find.concluded") : said("find.left", {static_cast<long long>(f.left)});
    for (const Class& c : f.classes)
        text += '\n' + classText(circuit, c);
    if (!f.next)
        return text;
    text += '\n' + word(f.next->isAgain ? "find.again" : "find.next") + ": "
        + lookLine(circuit, f.next->in, f.next->look);
    for (const Outcome& o : f.next->outcomes)
        text += "\n    " + outcomeText(circuit, *f.next, o);
    return text;
}

} // namespace ts::wording
