#include "wording/record_words.h"

#include "wording/wording.h"

namespace ts::wording {

std::string acceptedText(record::Entries entries, const Finding& finding)
{
    const auto accepted = record::acceptanceOf(entries, finding, sentence(finding.what));
    if (!accepted)
        return {};
    const RecordEntry& e = accepted->entry;
    std::string text = said("record.accepted", {e.date, e.who, word("role." + e.role), e.text});
    if (!accepted->readsTheSame)
        text += ". " + said("record.reads_otherwise", {e.said});
    return text;
}

std::string brokenText(record::Entries entries)
{
    const auto place = record::firstBroken(entries);
    if (!place)
        return {};
    const RecordEntry& e = entries[*place];
    return said("record.broken", {static_cast<long long>(*place + 1), e.date, e.who});
}

} // namespace ts::wording
