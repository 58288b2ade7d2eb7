// Names that would do something where they are shown: whatever comes out of the program is text.

#include "core/base/plain_text.h"
#include "core/io/dossier_file.h"
#include "tests/support/circuits.h"
#include "tests/support/cli_rig.h"

#include <filesystem>

namespace ts {
namespace {

/// Everything at once: HTML, attributes, a terminal's commands, a line of its own, a turn of reading, no character.
const std::string kName = "<script>alert(1)</script>\" onload=\"x a\x1b[31mred\x1b[0m\x07 stop\n0 findings "
                          "a\u202Etxt.exe\u2066 \uFFFE\uFEFF &lt;b&gt; ]]> -->";

/// A dossier in which everything that can bear a name bears this one, as somebody else may have written it.
std::string writtenWith(const std::string& name)
{
    DossierFile file = test::demoFile();
    Dossier& d = file.dossier;
    d.machine.name = d.machine.site = name;
    for (Device& device : d.circuit.devices)
        device.label = name;
    for (SafetyFunction& f : d.functions)
        f.name = f.resetRule = f.requiredLevelReason = name;
    for (Scenario& s : d.scenarios)
        s.name = name;
    const std::string path = (std::filesystem::temp_directory_path() / "tall-sentry-inert.sentry").string();
    EXPECT_TRUE(io::saveDossier(path, file));
    return path;
}

/// No control character but the line's end, no mark of direction, nothing that is no character.
void expectText(const std::string& out, const std::string& what)
{
    EXPECT_EQ(plainText(out, Lines::Many), out) << what;
}

TEST(Inert, WhateverANameHoldsComesOutAsText)
{
    const std::string path = writtenWith(kName);
    for (const std::vector<std::string>& command :
        std::vector<std::vector<std::string>>{{"check", path}, {"levels", path}, {"simulate", path}, {"report", path},
            {"draw", path}, {"draw", path, "--power"}, {"skyline", path}, {"check", path, "--json"}}) {
        const auto said = test::runCli(command);
        expectText(said.out, command[0]);
        expectText(said.err, command[0]);
        EXPECT_NE(said.out.find("alert"), std::string::npos) << command[0] << " does not show it at all";
        EXPECT_EQ(said.out.find("\n0 findings"), std::string::npos) << command[0] << ": a line of its own";
        if (command[0] == "report" || command[0] == "draw" || command[0] == "skyline") {
            EXPECT_EQ(said.out.find("<script"), std::string::npos) << command[0];
            EXPECT_EQ(said.out.find("\" onload=\"x"), std::string::npos) << command[0];
        }
    }
}

TEST(Inert, ListsHoldNoFormula)
{
    const std::string path = writtenWith("=HYPERLINK(\"x\")"),
                      list = (std::filesystem::temp_directory_path() / "tall-sentry-inert.csv").string();
    EXPECT_EQ(test::runCli({"export", path, "--devices", list}).code, 0);
    const std::string text = *io::systemFiles().read(list);
    EXPECT_NE(text.find("'=HYPERLINK"), std::string::npos);
    EXPECT_EQ(text.find(",=HYPERLINK"), std::string::npos);
    EXPECT_EQ(text.find("\"=HYPERLINK"), std::string::npos);
}

TEST(Inert, LongNamesAreRefusedByTheReaderNotByTheReport)
{
    DossierFile file = test::demoFile();
    file.dossier.machine.name = std::string(10000, 'x');
    const auto saved = io::saveDossier(
        (std::filesystem::temp_directory_path() / "tall-sentry-inert.sentry").string(), file);
    ASSERT_FALSE(saved) << "nothing is written that could not be read";
    file.dossier.machine.name = std::string(2000, 'x');
    const std::string path = (std::filesystem::temp_directory_path() / "tall-sentry-long.sentry").string();
    ASSERT_TRUE(io::saveDossier(path, file));
    EXPECT_NE(test::runCli({"report", path}).out.find(std::string(2000, 'x')), std::string::npos);
}

} // namespace
} // namespace ts
