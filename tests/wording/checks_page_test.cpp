// docs/checks.md is made from the registry of checks, so that it cannot fall behind.

#include "core/checks/check.h"
#include "tests/support/golden.h"
#include "wording/wording.h"

#include <fmt/format.h>

#include <map>

namespace ts {
namespace {

TEST(ChecksPage, IsMadeFromTheRegistry)
{
    std::string
        page = "# Checks\n\nMade from the registry by a test; what each one asks, what it reads, and what it finds, "
               "for example. Clauses are numbers to look up, never the text.\n";
    std::map<std::string, std::string> rows;
    for (const Check& c : allChecks()) {
        const std::string id(c.id), group(c.group);
        for (const std::string& key : {"check." + id, "example." + id, "group." + group})
            EXPECT_TRUE(wording::knows(key)) << key;
        rows[group] += fmt::format("| `{}` | {} | {} | {} | {} |\n", id, wording::word("check." + id),
            c.needs.empty() ? wording::word("check.reads_file") : wording::word("study." + std::string(c.needs)),
            wording::word("example." + id), c.clause);
    }
    for (const auto& [group, lines] : rows)
        page += "\n## " + wording::word("group." + group)
            + "\n\n| id | it asks | reads | finds, for example | clause |\n|---|---|---|---|---|\n" + lines;
    test::expectGolden("docs/checks.md", page);
}

} // namespace
} // namespace ts
