// The record as a chain: nothing in between is changed or taken out unseen, and what is accepted stays what it was.

#include "core/io/dossier_text.h"
#include "core/record/record.h"

#include <gtest/gtest.h>

namespace ts::record {
namespace {

RecordEntry words(const char* who, const char* text, const char* kind = "note")
{
    RecordEntry e;
    e.date = "2027-01-31T08:00:00+01:00";
    e.who = who;
    e.text = text;
    e.kind = kind;
    e.role = "designed";
    return e;
}

std::vector<RecordEntry> grown(int count)
{
    std::vector<RecordEntry> record{{"2026-01-01", "A. Weller", "Drawn"}};
    for (int k = 0; k < count; ++k)
        record.push_back(*nextEntry(words("A. Weller", "looked at"), record, {}));
    return record;
}

Finding finding(double amperes, const char* tag = "B1")
{
    Finding f;
    f.id = "sizes";
    f.devices = {tag};
    f.what = message("sizing.contact.load", {tag, Measured{amperes, "A"}, Measured{1.0, "A"}});
    return f;
}

RecordEntry about(const Finding& f, const char* kind, const char* said)
{
    RecordEntry e = words("A. Weller", "a coupling relay comes in spring", kind);
    e.subject = keyOf(f);
    e.said = said;
    return e;
}

TEST(Record, FollowsFromTheFirstEntryOn)
{
    const auto record = grown(3);
    EXPECT_FALSE(record[0].isChained());
    EXPECT_EQ(record[1].before.size(), 1u) << "older entries as one";
    EXPECT_EQ(record[2].before, std::vector{hashOf(record[1])});
    EXPECT_EQ(heads(record), std::vector{hashOf(record[3])});
    EXPECT_EQ(hashOf(record[1]).size(), 64u);
    EXPECT_FALSE(firstBroken(record));
    EXPECT_FALSE(firstBroken({}));
}

TEST(Record, ShowsWhatWasChangedTakenOutOrPutBetween)
{
    auto changed = grown(3);
    changed[2].text = "looked away";
    EXPECT_EQ(firstBroken(changed), 3u) << "the one that followed it";
    auto shortened = grown(3);
    shortened.erase(shortened.begin() + 2);
    EXPECT_EQ(firstBroken(shortened), 2u);
    auto older = grown(2);
    older[0].who = "B. Novak";
    EXPECT_EQ(firstBroken(older), 1u);
    auto between = grown(2);
    between.insert(between.begin() + 1, words("B. Novak", "x"));
    EXPECT_EQ(firstBroken(between), 1u) << "it follows nothing";
}

/// Two people went on from one entry, and a third has both.
TEST(Record, JoinsTwoThatWentOnFromOne)
{
    const auto common = grown(1);
    const RecordEntry wired = *nextEntry(words("B. Novak", "wired"), common, {}),
                      tested = *nextEntry(words("C. Lind", "tested"), common, {});
    auto both = common;
    both.push_back(wired);
    both.push_back(tested);
    EXPECT_FALSE(firstBroken(both));
    EXPECT_EQ(heads(both).size(), 2u);
    both.push_back(*nextEntry(words("A. Weller", "read both"), both, {}));
    EXPECT_EQ(heads(both).size(), 1u);
    EXPECT_FALSE(firstBroken(both));
}

TEST(Record, HasNoEntryWithoutNameOrWordsAndOfNoRole)
{
    EXPECT_EQ(nextEntry(words(" ", "x"), {}, {}).error().message.id, "record.who_missing");
    EXPECT_EQ(nextEntry(words("A. Weller", "\n "), {}, {}).error().message.id, "record.words_missing");
    EXPECT_EQ(nextEntry(words("A. Weller", "x", "signed"), {}, {}).error().message.id, "record.kind_unknown");
    RecordEntry e = words("A. Weller", "x");
    e.role = "owner";
    EXPECT_EQ(nextEntry(e, {}, {}).error().message.id, "record.role_unknown");
}

TEST(Record, SaysOfWhichDossierItSpeaks)
{
    Dossier named;
    named.machine.name = "Debarker";
    EXPECT_NE(nextEntry(words("A. Weller", "x"), {}, named)->state, nextEntry(words("A. Weller", "x"), {}, {})->state);
}

/// However long a finding reads and whatever signs are in it: what is written loads again, and its hashes fit.
TEST(Record, IsTheSameAfterSavingAndLoading)
{
    DossierFile file;
    Finding f = finding(1.04);
    for (int k = 0; k < 400; ++k)
        f.devices.push_back("Q" + std::to_string(k));
    std::string reading = "at 40 \xC2\xB0";
    for (int k = 0; k < 700; ++k)
        reading += "\xC3\xA9\tx\n";
    for (const char* kind : {"finding_accepted", "note"}) {
        RecordEntry e = about(f, kind, reading.c_str());
        e.text = "first line\nsecond\tline";
        file.record.push_back(*nextEntry(e, file.record, file.dossier));
    }
    const auto loaded = io::parseDossier(io::printDossier(file));
    ASSERT_TRUE(loaded) << loaded.error().message.id;
    EXPECT_EQ(loaded->record, file.record);
    EXPECT_FALSE(firstBroken(loaded->record));
    ASSERT_TRUE(acceptanceOf(loaded->record, f, reading));
    EXPECT_TRUE(acceptanceOf(loaded->record, f, reading)->readsTheSame);
    RecordEntry endless = words("A. Weller", std::string(5000, 'x').c_str());
    EXPECT_EQ(nextEntry(endless, {}, {}).error().message.id, "record.too_long");
}

/// Hashes do not run fields together.
TEST(Record, TellsFieldsApart)
{
    EXPECT_NE(hashOf(words("A", "BC")), hashOf(words("AB", "C")));
}

TEST(Acceptance, HoldsUntilItIsWithdrawnOrReadsOtherwise)
{
    const Finding f = finding(1.04);
    std::vector<RecordEntry> record;
    EXPECT_FALSE(acceptanceOf(record, f, "1.04"));
    record.push_back(*nextEntry(about(f, "finding_accepted", "1.04"), record, {}));
    ASSERT_TRUE(acceptanceOf(record, f, "1.04"));
    EXPECT_TRUE(acceptanceOf(record, f, "1.04")->readsTheSame);
    ASSERT_TRUE(acceptanceOf(record, finding(1.6), "1.60")) << "the same thing, worse";
    EXPECT_FALSE(acceptanceOf(record, finding(1.6), "1.60")->readsTheSame);
    EXPECT_FALSE(acceptanceOf(record, finding(1.04, "B2"), "1.04")) << "another device";
    record.push_back(*nextEntry(about(f, "acceptance_withdrawn", "1.04"), record, {}));
    EXPECT_FALSE(acceptanceOf(record, f, "1.04"));
    record.push_back(*nextEntry(about(f, "finding_accepted", "1.04"), record, {}));
    EXPECT_TRUE(acceptanceOf(record, f, "1.04"));
}

} // namespace
} // namespace ts::record
