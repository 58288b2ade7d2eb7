#include "core/record/record.h"

#include "core/base/plain_text.h"
#include "core/io/dossier_text.h"
#include "core/io/reading.h"
#include "core/library/table.h"

#include <sodium.h>

#include <algorithm>
#include <array>
#include <set>

namespace ts::record {
namespace {

class Hash {
public:
    Hash() { crypto_generichash_init(&m_state, nullptr, 0, kBytes); }
    void add(std::string_view field)
    {
        const std::string length = std::to_string(field.size()) + ":";
        bytes(length);
        bytes(field);
        bytes(",");
    }
    void bytes(std::string_view text)
    {
        crypto_generichash_update(&m_state, reinterpret_cast<const unsigned char*>(text.data()), text.size());
    }
    std::string text()
    {
        std::array<unsigned char, kBytes> digest{};
        crypto_generichash_final(&m_state, digest.data(), digest.size());
        std::string hex(2 * kBytes + 1, '\0');
        sodium_bin2hex(hex.data(), hex.size(), digest.data(), digest.size());
        hex.pop_back();
        return hex;
    }

private:
    static constexpr std::size_t kBytes = 32;
    crypto_generichash_state m_state{};
};

void addTo(Hash& hash, const RecordEntry& e)
{
    for (const std::string* field : {&e.date, &e.who, &e.text, &e.kind, &e.role, &e.subject, &e.said, &e.state})
        hash.add(*field);
    for (const std::string& b : e.before)
        hash.add(b);
    if (e.bypass)
        for (const std::string* field : {&e.bypass->from, &e.bypass->to, &e.bypass->owner, &e.bypass->until})
            hash.add(*field);
    if (!e.reading)
        return;
    const TakenReading& r = *e.reading;
    const auto add = [&hash](const std::optional<double>& number) {
        hash.add(number ? shortestText(*number) : std::string());
    };
    add(r.value);
    for (const std::string* field : {&r.word, &r.unit, &r.expected, &r.instrument, &r.calibratedUntil})
        hash.add(*field);
    add(r.low);
    add(r.high);
    add(r.uncertainty);
    for (const std::string& c : r.covers)
        hash.add(c);
}

std::optional<std::string> hashOfOlder(Entries record)
{
    Hash hash;
    bool isAny = false;
    for (const RecordEntry& e : record)
        if (!e.isChained()) {
            addTo(hash, e);
            isAny = true;
        }
    return isAny ? std::optional(hash.text()) : std::nullopt;
}

constexpr std::size_t kMost = io::kLongestText - 8; ///< what files take, with room for dots

/// As a file gives it back: one line, not too long, cut between signs. Else its own hash would not fit after loading.
std::string asKept(std::string_view words)
{
    std::string text = plainText(words);
    if (text.size() <= kMost)
        return text;
    std::size_t end = kMost;
    while (end > 0 && (static_cast<unsigned char>(text[end]) & 0xC0u) == 0x80u)
        --end;
    return text.substr(0, end) + " ...";
}

bool isBlank(std::string_view text)
{
    return text.find_first_not_of(" \t\n") == text.npos;
}

} // namespace

std::string hashOf(const RecordEntry& entry)
{
    Hash hash;
    addTo(hash, entry);
    return hash.text();
}

std::string hashOf(const Dossier& dossier)
{
    Hash hash;
    hash.bytes(io::printDossier({1, dossier, {}}));
    return hash.text();
}

std::vector<std::string> heads(Entries record)
{
    std::set<std::string> open;
    for (const RecordEntry& e : record)
        if (e.isChained())
            open.insert(hashOf(e));
    for (const RecordEntry& e : record)
        for (const std::string& b : e.before)
            open.erase(b);
    if (open.empty())
        if (auto older = hashOfOlder(record))
            open.insert(*std::move(older));
    return {open.begin(), open.end()};
}

Expected<RecordEntry> nextEntry(RecordEntry entry, Entries record, const Dossier& dossier)
{
    if (isBlank(entry.who))
        return failure(ErrorCode::OutOfRange, message("record.who_missing"));
    if (isBlank(entry.text))
        return failure(ErrorCode::OutOfRange, message("record.words_missing"));
    if (isBlank(entry.date) || std::find(kRecordKinds.begin(), kRecordKinds.end(), entry.kind) == kRecordKinds.end())
        return failure(ErrorCode::OutOfRange, message("record.kind_unknown", {entry.kind}));
    if (std::find(kRecordRoles.begin(), kRecordRoles.end(), entry.role) == kRecordRoles.end())
        return failure(ErrorCode::OutOfRange, message("record.role_unknown", {entry.role}));
    if (entry.who.size() > kMost || entry.text.size() > kMost)
        return failure(ErrorCode::OutOfRange, message("record.too_long", {static_cast<long long>(kMost)}));
    entry.who = asKept(entry.who);
    entry.text = asKept(entry.text);
    entry.said = asKept(entry.said);
    entry.state = hashOf(dossier);
    entry.before = heads(record);
    return entry;
}

std::optional<std::size_t> firstBroken(Entries record)
{
    std::set<std::string> known;
    if (auto older = hashOfOlder(record))
        known.insert(*std::move(older));
    bool isFirst = true;
    for (std::size_t i = 0; i < record.size(); ++i) {
        const RecordEntry& e = record[i];
        if (!e.isChained())
            continue;
        const bool follows = e.before.empty()
            ? isFirst && known.empty()
            : std::all_of(e.before.begin(), e.before.end(), [&](const std::string& b) { return known.contains(b); });
        if (!follows)
            return i;
        known.insert(hashOf(e));
        isFirst = false;
    }
    return std::nullopt;
}

std::vector<RecordEntry> bypassesInForce(Entries record)
{
    const auto isSame = [](const Bypass& a, const Bypass& b) {
        return (a.from == b.from && a.to == b.to) || (a.from == b.to && a.to == b.from);
    };
    std::vector<RecordEntry> open;
    for (const RecordEntry& e : record) {
        if (!e.bypass)
            continue;
        std::erase_if(open, [&](const RecordEntry& o) { return isSame(*o.bypass, *e.bypass); });
        if (e.kind == "bypass_opened")
            open.push_back(e);
    }
    return open;
}

std::string keyOf(const Finding& f)
{
    std::string key = f.id + '|' + f.what.id;
    for (const std::string& tag : f.devices)
        key += '|' + tag;
    const Target& t = f.target;
    for (const auto& [mark, id] : {std::pair{'w', t.wire.value}, {'f', t.function.value}, {'c', t.scenario.value}})
        if (id != 0)
            key += std::string("|") + mark + std::to_string(id);
    for (const std::string* part : {&t.element, &t.subsystem, &t.fault})
        if (!part->empty())
            key += '|' + *part;
    key = plainText(key);
    if (key.size() <= kMost)
        return key;
    Hash hash; // of many devices
    hash.bytes(key);
    return f.id + '|' + hash.text();
}

std::optional<Acceptance> acceptanceOf(Entries record, const Finding& finding, std::string_view reading)
{
    const std::string key = keyOf(finding);
    for (std::size_t i = record.size(); i-- > 0;)
        if (record[i].subject == key && record[i].kind == "acceptance_withdrawn")
            return std::nullopt;
        else if (record[i].subject == key && record[i].kind == "finding_accepted")
            return Acceptance{record[i], record[i].said == asKept(reading)};
    return std::nullopt;
}

} // namespace ts::record
